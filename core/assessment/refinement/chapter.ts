import type { ReportChapter, Reported } from "../stages/part.ts";
import { type Cell, cell, nameOf, table, unitOf } from "../stages/table.ts";

export const refinementChapter: ReportChapter = {
  key: "refinement",
  title: "Refinement",
  sentences: ({ evidence: e, assessment: a }) =>
    a.refinement.flatMap((r) => [r.result ? `${nameOf(e, r.key)}: ${r.headline}` : r.headline, ...r.remarks.map((m) => m.sentence)]),
  tables: (r) => [...procedure(r), ...ladder(r)],
};

const procedure = ({ evidence: e, assessment: a }: Reported) =>
  table(
    "refinement",
    "Three-mesh procedure",
    [
      "quantity",
      "unit",
      "class",
      ["observed order", "1"],
      "extrapolated",
      ["uncertainty, fraction of scale, 95 %", "1"],
      ["limit", "1"],
      ["safety factor", "1"],
    ],
    a.refinement.flatMap((r): Cell[][] => {
      if (!r.result) return [];
      const m = r.result.kind === "monotone" ? r.result : undefined;
      const kind = r.result.kind === "degenerate" ? "no order" : r.result.kind;
      return [[nameOf(e, r.key), unitOf(e, r.key), kind, cell(m?.order), cell(m?.extrapolated), cell(r.relative), r.limit, cell(m?.safety)]];
    }),
  );

const ladder = ({ evidence: e, assessment: a }: Reported) =>
  table(
    "ladder",
    "Values on the ladder",
    ["quantity", "mesh", ["cells", "1"], ["spacing", "m"], "value", "unit", "used"],
    a.refinement.flatMap((r) =>
      r.rungs.map((g): Cell[] => [nameOf(e, r.key), g.label, g.cells, g.spacing, cell(g.value), unitOf(e, r.key), g.used ? "yes" : "no"]),
    ),
  );
