import { RunsStage } from "@/ui/stages/runs/RunsStage";
import { stagePage, stageTitle } from "../stagePage";

export const dynamic = "force-dynamic";
export const generateMetadata = stageTitle("runs");
export default stagePage("runs", RunsStage);
