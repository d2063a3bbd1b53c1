import type { ReportTable } from "../../formats/reportDocument.ts";
import { ORDER_WORDS } from "../results/comparison.ts";
import type { ReportChapter, Reported } from "../stages/part.ts";
import { type Cell, cell, table } from "../stages/table.ts";
import { sharedSentence, spreadSentence } from "./sayings.ts";

export const comparisonChapter: ReportChapter = {
  key: "comparison",
  title: "Comparison",
  sentences: ({ evidence: e, assessment: { comparison: found } }) => [
    ...e.quantities.flatMap((q) =>
      (found.values[q.key] ?? []).flatMap((c) => [`${q.name} against ${c.yardstick}: ${c.sentence}`, sharedSentence(q.name, c)]),
    ),
    Object.values(found.values).some((list) => list.length) ? spreadSentence(e.spread) : "",
    found.orders?.sentence ?? "",
    ...found.refused.map((p) => `${p.name} against ${p.yardstick} cannot be compared: ${p.sentence}`),
  ],
  tables: (r) => [...values(r), ...codes(r), ...profiles(r), ...ownProfiles(r), ...orders(r), ...methods(r)],
};

const values = ({ evidence: e, assessment: a }: Reported) =>
  table(
    "comparison",
    "Single values",
    ["quantity", "yardstick", "simulated", "reference", ["difference, fraction", "1"], ["u_val, fraction", "1"], ["limit", "1"], "unit"],
    e.quantities.flatMap((q) =>
      (a.comparison.values[q.key] ?? []).map((c): Cell[] => [
        q.name,
        c.yardstick,
        c.simulated,
        c.reference,
        c.difference / c.scale,
        c.uVal === undefined || c.uVal === null ? null : c.uVal / c.scale,
        c.limit,
        q.unit,
      ]),
    ),
  );

const codes = ({ evidence: e, assessment: a }: Reported) =>
  table(
    "codes",
    "Codes among one another",
    ["quantity", "run", "value", "mean of the others", "difference", "spread of all", "unit"],
    e.quantities.flatMap((q) =>
      (a.comparison.codes[q.key]?.each ?? []).map((p): Cell[] => [
        q.name,
        p.label,
        p.value,
        p.others,
        p.difference,
        a.comparison.codes[q.key].spread,
        q.unit,
      ]),
    ),
  );

const profiles = ({ assessment: a }: Reported) =>
  table(
    "profiles",
    "Profiles over the reference points",
    [
      "profile",
      "yardstick",
      "run",
      ["points", "1"],
      "mean size",
      "root mean square",
      "largest",
      "worst at",
      ["within 2 u_val", "1"],
      ["chi-square", "1"],
      ["noise up to", "1"],
      "front moved by",
      "best point at, simulated",
      "best point at, reference",
      "comes later by",
      "area between distributions",
    ],
    a.comparison.profiles.map((p) => [
      p.name,
      p.yardstick,
      `${p.code}, ${p.runLabel}`,
      p.compared,
      p.l1,
      p.l2,
      p.linf,
      cell(p.worst?.at),
      cell(p.many?.within),
      cell(p.many?.chiSquare),
      cell(p.many?.expected),
      cell(p.front?.shift),
      cell(p.best?.simulated.at),
      cell(p.best?.reference.at),
      cell(p.lag?.lag),
      cell(p.area?.area),
    ]),
  );

/** The curves themselves, of the finest run. */
function ownProfiles({ assessment: a, runs }: Reported): ReportTable[] {
  const finest = runs.find((r) => r.id === a.ladder[0]);
  return (finest?.result?.profiles ?? []).flatMap((p) =>
    table(
      `profile-${p.key}`,
      `${p.name}, ${finest?.label ?? ""}`,
      [
        [p.abscissa.name, p.abscissa.unit],
        [p.value.name, p.value.unit],
      ],
      p.abscissa.values.map((x, i) => [x, cell(p.value.values[i])]),
    ),
  );
}

function methods({ assessment: a }: Reported) {
  const found = a.comparison.methods;
  return found.length < 2
    ? []
    : table(
        "methods",
        "Order of every method and field against the exact one",
        ["method", "field", ["L2 on its finest mesh", ""], ["order between its two finest meshes", "1"], ["formal order", "1"], "verdict"],
        found.map(({ method, formalOrder, orders: o }) => [
          method,
          `${o.field}, ${o.unit}`,
          o.rows[0].l2,
          cell(o.rows[0].order),
          formalOrder,
          ORDER_WORDS[o.verdict],
        ]),
      );
}

function orders({ assessment: a }: Reported) {
  const found = a.comparison.orders;
  const unit = found?.unit ?? "";
  return table(
    "orders",
    "Error against the exact field",
    ["mesh", ["spacing", "m"], ["L1", unit], ["L2", unit], ["largest", unit], ["order to the next", "1"]],
    (found?.rows ?? []).map((r) => [r.label, r.spacing, r.l1, r.l2, r.linf, cell(r.order)]),
  );
}
