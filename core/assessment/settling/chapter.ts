import { RESIDUAL_STATE_WORDS } from "../../method/iteration/residuals.ts";
import type { ReportChapter, Reported } from "../stages/part.ts";
import { cell, nameOf, table } from "../stages/table.ts";

export const settlingChapter: ReportChapter = {
  key: "settling",
  title: "Settling",
  sentences: ({ assessment: { settling } }) =>
    settling.length
      ? settling.flatMap((s) => (s.remarks.length ? s.remarks.map((r) => r.sentence) : [`${s.label} has settled: nothing speaks against it.`]))
      : ["No run has delivered results yet."],
  tables: (r) => [...residuals(r), ...iteration(r)],
};

const residuals = ({ assessment: a }: Reported) =>
  table(
    "settling",
    "Residuals",
    ["run", "equation", ["start", "1"], ["end", "1"], ["drop in orders", "1"], "state"],
    a.settling.flatMap((s) => s.residuals.map((r) => [s.label, r.name, cell(r.start), cell(r.end), cell(r.drop), RESIDUAL_STATE_WORDS[r.state]])),
  );

const iteration = ({ evidence: e, assessment: a }: Reported) =>
  table(
    "iteration",
    "Iteration error left",
    ["run", "quantity", ["fraction of scale", "1"], ["to stay below", "1"], "kind"],
    a.settling.flatMap((s) => s.quantities.map((q) => [s.label, nameOf(e, q.key), cell(q.relative), q.threshold, q.kind])),
  );
