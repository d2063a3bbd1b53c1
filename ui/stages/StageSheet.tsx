"use client";

import dynamic from "next/dynamic";
import type { ComponentType } from "react";
import type { Stage } from "@/core/assessment/results/stage";
import type { CaseView } from "../view";

type Sheet = ComponentType<{ view: CaseView }>;

/** Each sheet is loaded with its own page alone: one that draws nothing need not wait for charts. */
const SHEETS: Readonly<Record<Stage, Sheet>> = {
  question: dynamic(() => import("./question/QuestionStage").then((m) => m.QuestionStage)),
  yardsticks: dynamic(() => import("./yardsticks/YardsticksStage").then((m) => m.YardsticksStage)),
  meshes: dynamic(() => import("./meshes/MeshesStage").then((m) => m.MeshesStage)),
  runs: dynamic(() => import("./runs/RunsStage").then((m) => m.RunsStage)),
  settling: dynamic(() => import("./settling/SettlingStage").then((m) => m.SettlingStage)),
  balance: dynamic(() => import("./balance/BalanceStage").then((m) => m.BalanceStage)),
  refinement: dynamic(() => import("./refinement/RefinementStage").then((m) => m.RefinementStage)),
  comparison: dynamic(() => import("./comparison/ComparisonStage").then((m) => m.ComparisonStage)),
  verdict: dynamic(() => import("./verdict/VerdictStage").then((m) => m.VerdictStage)),
  report: dynamic(() => import("./report/ReportStage").then((m) => m.ReportStage)),
};

const ON_RUNS: readonly Stage[] = ["settling", "balance", "refinement", "comparison", "verdict"];

/** The sheet of one stage. */
export function StageSheet({ view }: { view: CaseView }) {
  const Sheet = SHEETS[view.stage];
  return (
    <>
      {view.assessment.stale && ON_RUNS.includes(view.stage) ? (
        <p className="mb-3 border-l-2 border-dashed border-ink-2 pl-3 text-[12.5px] text-ink-2">
          The runs were made with an earlier set-up. What follows is what they said; run the family again to bring it up to date.
        </p>
      ) : null}
      <Sheet view={view} />
    </>
  );
}
