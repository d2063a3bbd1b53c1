import { quantityText } from "../../formatting/number.ts";
import type { ReportChapter } from "../stages/part.ts";
import { type Cell, cell, nameOf, table } from "../stages/table.ts";
import { MEANS_WORDS } from "./sources/inputs.ts";

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
  tables: ({ evidence: e, assessment: { rules, inputs } }) => [
    ...table(
      "sources",
      "Error sources",
      ["quantity", "source", ["fraction of scale, 95 %", "1"], "how it was found"],
      rules.flatMap((r) => r.sources.map((s): Cell[] => [nameOf(e, r.quantityKey), s.name, cell(s.relative), s.note])),
    ),
    ...table(
      "inputs",
      "What the uncertainties of the conditions make of it",
      [
        "quantity",
        "condition",
        ["sensitivity", "1"],
        "how it was found",
        ["fraction of the quantity, 95 %", "1"],
        ["part of the square of the whole", "1"],
      ],
      inputs.flatMap((i) =>
        i.shares.map((s): Cell[] => [
          nameOf(e, i.quantityKey),
          s.label,
          cell(s.sensitivity?.value),
          s.sensitivity ? `${MEANS_WORDS[s.sensitivity.by]}${s.uneven ? ", uneven" : ""}` : "not known",
          cell(s.relative),
          cell(s.part),
        ]),
      ),
    ),
  ],
};
