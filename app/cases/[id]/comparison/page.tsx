import { ComparisonStage } from "@/ui/stages/comparison/ComparisonStage";
import { stagePage, stageTitle } from "../stagePage";

export const dynamic = "force-dynamic";
export const generateMetadata = stageTitle("comparison");
export default stagePage("comparison", ComparisonStage);
