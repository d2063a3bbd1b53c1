import type { CaseEvidence } from "../../records/case.ts";
import type { CurveAxes, ReferenceProfile } from "../../records/reference.ts";
import { plural, type ReportChapter, type StagePart } from "../stages/part.ts";
import { type Cell, cell, nameOf, table, unitOf } from "../stages/table.ts";
import { KIND_WORDS, originText } from "./origin.ts";

/** What a curve is called and counted in: as it says itself, else as the run's curve it stands beside. */
const axesOf = (e: CaseEvidence, p: ReferenceProfile): CurveAxes | undefined =>
  p.axes ?? e.runs.flatMap((r) => r.result?.profiles ?? []).find((own) => own.key === p.profileKey);

/** Rows of every curve of every yardstick, each beginning with the yardstick's and the curve's name. */
const ofCurves = (e: CaseEvidence, rows: (p: ReferenceProfile, axes: CurveAxes | undefined) => Cell[][]): Cell[][] =>
  e.yardsticks.flatMap((y) =>
    y.profiles.flatMap((p) => {
      const axes = axesOf(e, p);
      return rows(p, axes).map((row): Cell[] => [y.name, axes?.name ?? p.profileKey, ...row]);
    }),
  );

const chapter: ReportChapter = {
  key: "yardsticks",
  title: "Yardsticks",
  sentences: ({ evidence: e }) =>
    e.yardsticks.map((y) => [`${y.name} (${KIND_WORDS[y.kind]}): ${y.source}.`, originText(y), y.validity.sentence].filter(Boolean).join(" ")),
  tables: ({ evidence: e }) => [
    ...table(
      "yardsticks",
      "Yardstick values",
      ["yardstick", "quantity", "value", "standard uncertainty", "unit", "uncertainty from"],
      e.yardsticks.flatMap((y) =>
        y.values.map((v): Cell[] => [
          y.name,
          nameOf(e, v.quantityKey),
          v.value,
          cell(v.standardUncertainty),
          unitOf(e, v.quantityKey),
          v.uncertaintyNote,
        ]),
      ),
    ),
    ...table(
      "yardstick-curves",
      "Yardstick curves",
      ["yardstick", "curve", ["points", "1"], "uncertainty", "done to its figures"],
      ofCurves(e, (p) => [[p.abscissa.length, p.uncertaintyNote, (p.changes ?? []).join(" ")]]),
    ),
    ...table(
      "doubtful-points",
      "Points that are not believed",
      ["yardstick", "curve", "at", "unit of the place", "value", "unit of the value", "why"],
      ofCurves(e, (p, axes) =>
        (p.doubtful ?? []).map(({ index, reason }) => [
          p.abscissa[index],
          axes?.abscissa.unit ?? "1",
          p.value[index],
          axes?.value.unit ?? "1",
          reason,
        ]),
      ),
    ),
  ],
};

export const yardsticks: StagePart = {
  stage: "yardsticks",
  line: ({ yardsticks: found }) =>
    found.length
      ? { line: plural(found.length, "yardstick"), state: found.some((y) => y.validity.inside) ? "holds" : "fails" }
      : { line: "none yet", state: "none" },
  chapter,
};
