import { SettlingStage } from "@/ui/stages/settling/SettlingStage";
import { stagePage, stageTitle } from "../stagePage";

export const dynamic = "force-dynamic";
export const generateMetadata = stageTitle("settling");
export default stagePage("settling", SettlingStage);
