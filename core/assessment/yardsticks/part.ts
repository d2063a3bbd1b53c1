import { plural, type ReportChapter, type StagePart } from "../stages/part.ts";
import { type Cell, cell, nameOf, table, unitOf } from "../stages/table.ts";

const chapter: ReportChapter = {
  key: "yardsticks",
  title: "Yardsticks",
  sentences: ({ evidence: e }) => e.yardsticks.map((y) => `${y.name}: ${y.source}. ${y.validity.sentence}`),
  tables: ({ evidence: e }) =>
    table(
      "yardsticks",
      "Yardstick values",
      ["yardstick", "quantity", "value", "standard uncertainty", "unit"],
      e.yardsticks.flatMap((y) =>
        y.values.map((v): Cell[] => [y.name, nameOf(e, v.quantityKey), v.value, cell(v.standardUncertainty), unitOf(e, v.quantityKey)]),
      ),
    ),
};

export const yardsticks: StagePart = {
  stage: "yardsticks",
  line: ({ yardsticks: found }) =>
    found.length
      ? { line: plural(found.length, "yardstick"), state: found.some((y) => y.validity.inside) ? "holds" : "fails" }
      : { line: "none yet", state: "none" },
  chapter,
};
