import { BalanceStage } from "@/ui/stages/balance/BalanceStage";
import { stagePage, stageTitle } from "../stagePage";

export const dynamic = "force-dynamic";
export const generateMetadata = stageTitle("balance");
export default stagePage("balance", BalanceStage);
