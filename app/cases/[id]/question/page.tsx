import { QuestionStage } from "@/ui/stages/question/QuestionStage";
import { stagePage, stageTitle } from "../stagePage";

export const dynamic = "force-dynamic";
export const generateMetadata = stageTitle("question");
export default stagePage("question", QuestionStage);
