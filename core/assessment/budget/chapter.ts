import { quantityText } from "../../formatting/number.ts";
import type { ReportChapter } from "../stages/part.ts";
import { type Cell, cell, nameOf, table } from "../stages/table.ts";

/** Every error on one rule: what a report begins with. */
export const budgetChapter: ReportChapter = {
  key: "rule",
  title: "Every error on one rule",
  sentences: ({ evidence: { quantities }, assessment: { rules } }) => {
    const [rule] = rules;
    if (!rule) return [];
    const scale = `${rule.scaleName ? `${rule.scaleName}, ` : ""}${quantityText(rule.scale, quantities[0].unit)}`;
    return [`Error sources of ${quantities[0].name} at about 95 %, as fractions of ${scale}.`];
  },
  tables: ({ evidence: e, assessment: { rules } }) =>
    table(
      "sources",
      "Error sources",
      ["quantity", "source", ["fraction of scale, 95 %", "1"], "how it was found"],
      rules.flatMap((r) => r.sources.map((s): Cell[] => [nameOf(e, r.quantityKey), s.name, cell(s.relative), s.note])),
    ),
};
