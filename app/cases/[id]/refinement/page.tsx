import { RefinementStage } from "@/ui/stages/refinement/RefinementStage";
import { stagePage, stageTitle } from "../stagePage";

export const dynamic = "force-dynamic";
export const generateMetadata = stageTitle("refinement");
export default stagePage("refinement", RefinementStage);
