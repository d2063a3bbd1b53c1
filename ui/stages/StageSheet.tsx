import type { CaseView } from "../view";
import { BalanceStage } from "./balance/BalanceStage";
import { ComparisonStage } from "./comparison/ComparisonStage";
import { MeshesStage } from "./meshes/MeshesStage";
import { QuestionStage } from "./question/QuestionStage";
import { RefinementStage } from "./refinement/RefinementStage";
import { ReportStage } from "./report/ReportStage";
import { RunsStage } from "./runs/RunsStage";
import { SettlingStage } from "./settling/SettlingStage";
import { VerdictStage } from "./verdict/VerdictStage";
import { YardsticksStage } from "./yardsticks/YardsticksStage";

const SHEETS = {
  question: QuestionStage,
  yardsticks: YardsticksStage,
  meshes: MeshesStage,
  runs: RunsStage,
  settling: SettlingStage,
  balance: BalanceStage,
  refinement: RefinementStage,
  comparison: ComparisonStage,
  verdict: VerdictStage,
  report: ReportStage,
} as const;

/** The sheet of one stage. */
export function StageSheet({ view }: { view: CaseView }) {
  const Sheet = SHEETS[view.stage];
  return (
    <>
      {view.assessment.stale && ["settling", "balance", "refinement", "comparison", "verdict"].includes(view.stage) ? (
        <p className="mb-3 border-l-2 border-dashed border-ink-2 pl-3 text-[12.5px] text-ink-2">
          The runs were made with an earlier set-up. What follows is what they said; run the family again to bring it up to date.
        </p>
      ) : null}
      <Sheet view={view} />
    </>
  );
}
