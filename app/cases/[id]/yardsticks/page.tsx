import { YardsticksStage } from "@/ui/stages/yardsticks/YardsticksStage";
import { stagePage, stageTitle } from "../stagePage";

export const dynamic = "force-dynamic";
export const generateMetadata = stageTitle("yardsticks");
export default stagePage("yardsticks", YardsticksStage);
