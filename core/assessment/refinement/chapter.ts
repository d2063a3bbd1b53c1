import { PROCEDURE_WORDS } from "../../records/procedure.ts";
import type { ReportChapter, Reported } from "../stages/part.ts";
import { type Cell, cell, nameOf, table, unitOf } from "../stages/table.ts";

export const refinementChapter: ReportChapter = {
  key: "refinement",
  title: "Refinement",
  sentences: ({ evidence: e, assessment: a }) =>
    a.refinement.flatMap((r) => [r.result ? `${nameOf(e, r.key)}: ${r.headline}` : r.headline, ...r.remarks.map((m) => m.sentence)]),
  tables: (r) => [...procedure(r), ...side(r), ...ladder(r), ...others(r), ...alongCurves(r)],
};

/** All procedures beside one another, the one that stands named. */
const side = ({ evidence: e, assessment: a }: Reported) =>
  table(
    "procedures",
    "By every procedure",
    ["quantity", "procedure", ["observed order", "1"], "at no spacing", "unit", ["uncertainty, fraction of scale, 95 %", "1"], "stands"],
    a.refinement.flatMap((r) =>
      (r.procedures ?? []).map((p): Cell[] => [
        nameOf(e, r.key),
        PROCEDURE_WORDS[p.key],
        cell(p.order),
        cell(p.limit),
        unitOf(e, r.key),
        cell(r.relative === undefined || !r.uncertainty ? undefined : (p.uncertainty * r.relative) / r.uncertainty),
        p.key !== r.adopted?.key ? "no" : r.adopted.by ? `yes, ${r.adopted.by.initials}: ${r.adopted.by.reason}` : "yes",
      ]),
    ),
  );

/** Curves point by point, in figures of the whole. */
const alongCurves = ({ assessment: a }: Reported) =>
  table(
    "curves",
    "Curves, point by point",
    ["curve", "points", ["mean local order", "1"], ["share oscillating", "1"], ["share diverging", "1"], "largest uncertainty, 95 %", "unit"],
    a.curves.map((c): Cell[] => [c.name, c.at.length, cell(c.averageOrder), c.shares.oscillating, c.shares.diverging, cell(c.widest), c.value.unit]),
  );

/** Ladders along other axes. */
const others = ({ evidence: e, assessment: a }: Reported) =>
  table(
    "ladders",
    "Along other axes",
    ["axis", "quantity", "run", "stands at", "value", "unit", ["uncertainty along it, fraction of scale, 95 %", "1"]],
    a.ladders.list.flatMap((l) =>
      l.quantities.flatMap((q) =>
        l.runs.map((r, k): Cell[] => [
          l.title,
          nameOf(e, q.key),
          r.label,
          r.place,
          cell(q.values[k]),
          unitOf(e, q.key),
          k === 0 ? cell(q.relative) : "",
        ]),
      ),
    ),
  );

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
    ["quantity", "mesh", ["cells", "1"], ["spacing", "m"], "value", "unit", "used", "left out because"],
    a.refinement.flatMap((r) =>
      r.rungs.map((g): Cell[] => [
        nameOf(e, r.key),
        g.label,
        g.cells,
        g.spacing,
        cell(g.value),
        unitOf(e, r.key),
        g.used ? "yes" : "no",
        g.leftOut ? `${g.leftOut.by}: ${g.leftOut.reason}` : "",
      ]),
    ),
  );
