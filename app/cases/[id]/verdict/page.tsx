import { VerdictStage } from "@/ui/stages/verdict/VerdictStage";
import { stagePage, stageTitle } from "../stagePage";

export const dynamic = "force-dynamic";
export const generateMetadata = stageTitle("verdict");
export default stagePage("verdict", VerdictStage);
