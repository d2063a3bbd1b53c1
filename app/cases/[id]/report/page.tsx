import { ReportStage } from "@/ui/stages/report/ReportStage";
import { stagePage, stageTitle } from "../stagePage";

export const dynamic = "force-dynamic";
export const generateMetadata = stageTitle("report");
export default stagePage("report", ReportStage);
