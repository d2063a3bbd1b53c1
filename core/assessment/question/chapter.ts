import type { ReportTable } from "../../formats/reportDocument.ts";
import { type CaseSetup, parameterSpecs } from "../../problems/describe/caseSetup.ts";
import { described } from "../../problems/describe/catalogue.ts";
import type { ReportChapter, Reported } from "../stages/part.ts";
import { type Cell, cell, table } from "../stages/table.ts";

export const questionChapter: ReportChapter = {
  key: "question",
  title: "Question",
  sentences: (r) => [
    r.purpose,
    physicsSentence(r),
    ...r.assessment.setup.remarks.map((m) =>
      m.answered ? `${m.sentence} Accepted on ${m.answered.at.slice(0, 10)} because ${m.answered.reason}` : m.sentence,
    ),
    r.assessment.setup.remarks.length ? "" : "Every set-up rule that applies was checked; none had anything to say.",
  ],
  tables: (r) => [...table("setup", "Set-up", ["input", "value", "unit"], setupRows(r)), ...similarity(r)],
};

const similarity = ({ assessment: a }: Reported): ReportTable[] =>
  table(
    "similarity",
    "Similarity numbers",
    ["number", "value", "unit", "from"],
    a.setup.similarity.map((s) => [s.name, cell(s.value), s.unit, s.formula]),
  );

function setupRows({ evidence: e, setup }: Reported): Cell[][] {
  const { fluid } = setup;
  const given = (name: string, value: number | undefined, unit: string): Cell[][] => (value === undefined ? [] : [[name, value, unit]]);
  return [
    ...parameterSpecs(setup.problemId).map((s): Cell[] => [
      s.label,
      s.choices?.find((c) => c.value === setup.parameters[s.key])?.name ?? cell(setup.parameters[s.key]),
      s.unit,
    ]),
    ["Fluid", fluid.name, ""],
    ...given("Temperature", fluid.temperatureK, "K"),
    ...given("Pressure", fluid.pressurePa, "Pa"),
    ...(e.inputs ?? []).map((i): Cell[] => [`${i.label}, uncertainty at 95 %`, i.uncertainty, i.unit]),
    ...Object.entries(e.precision ?? {}).map(([code, p]): Cell[] => [`Precision of ${code}`, p, ""]),
    ...(setup.problemId === null ? foreignNumerics(setup) : [["Convective scheme", setup.numerics.scheme, ""]]),
    ["Orders residuals are to fall", e.dropTarget, ""],
  ];
}

/** What was stated of the other code's numerics. */
const foreignNumerics = (setup: CaseSetup): Cell[][] => [
  ["Order of the convective scheme", setup.stated?.schemeOrder ?? "not stated", ""],
  ["Orders its residuals were to fall", setup.stated?.dropOrders ?? "not stated", ""],
];

/** What was solved, in words. */
function physicsSentence({ setup, evidence }: Reported): string {
  const compressible = (yes: boolean) => (yes ? "compressible" : "incompressible");
  if (setup.problemId === null) {
    const p = setup.physics;
    return p ? `Physics: ${p.time}, ${compressible(evidence.setup.compressible)}, ${p.model}, ${p.space}; computed elsewhere and brought in.` : "";
  }
  const w = described(setup.problemId).physicsWords;
  return `Physics: ${w.time}, ${compressible(w.compressible)}, ${w.model}, ${w.space}; solved on the bench.`;
}
