import { AXES } from "../../dataset/vector.ts";
import { sentenceCase } from "../../formatting/number.ts";
import type { ErrorBudget } from "../../method/budget/errorBudget.ts";
import type { BalanceRecord } from "../../records/balance.ts";
import type { ReportChapter, Reported } from "../stages/part.ts";
import { type Cell, cell, table } from "../stages/table.ts";

export const balanceChapter: ReportChapter = {
  key: "balance",
  title: "Balance",
  // Rules and second computations name their run themselves.
  sentences: ({ assessment: a }) =>
    a.balance.length
      ? a.balance.flatMap((b) =>
          b.remarks.length
            ? b.remarks.map((r) => (r.sentence.startsWith(`${b.label}: `) ? r.sentence : `${b.label}: ${r.sentence}`))
            : [`${b.label}: everything that was asked of it closes.`],
        )
      : [`Not measured: no flows through boundaries are known.${notesOf(a.rules, "balance")}`],
  tables: (r) => [...balance(r), ...boundaries(r), ...laws(r), ...second(r), ...surface(r), ...patches(r)],
};

/** What persons said of a source, for a chapter that has nothing else to tell. */
function notesOf(rules: readonly ErrorBudget[], key: string): string {
  const said = [...new Set(rules.flatMap((r) => r.sources.filter((x) => x.key === key && x.settled).map((x) => x.note)))];
  return said.length ? ` ${said.map(sentenceCase).join(" ")}` : "";
}

const balance = ({ assessment: a }: Reported) =>
  table(
    "balance",
    "Balance",
    ["run", "what", ["net over throughput", "1"], ["limit", "1"], "state"],
    a.balance.flatMap((b) => b.lines.map((l) => [b.label, l.what, cell(l.relative), l.limit, l.state])),
  );

const sum = (parts: readonly number[] | undefined) => parts?.reduce((s, v) => s + v, 0);

/** units of what is carried; others are in their own times m^3/s, which is not named */
const CARRIED_UNITS: Readonly<Record<string, string>> = { energy: "W", species: "kg/s" };

function boundaries({ assessment: a, runs }: Reported) {
  const finest = runs.find((r) => r.id === a.ladder[0]);
  const record = finest?.result?.balance;
  const per = finest?.origin === "bench" ? " per m" : "";
  const carried = [...new Set((record?.boundaries ?? []).flatMap((b) => Object.keys(b.scalars ?? {})))];
  return table(
    "boundaries",
    `Boundary fluxes of ${finest?.label ?? ""}${record?.from ? ", worked out from its surface" : ""}, outward positive${record?.factor ? `, of the whole: times ${record.factor}` : ""}`,
    [
      "boundary",
      ["mass", `kg/s${per}`],
      ["x momentum", `N${per}`],
      ["y momentum", `N${per}`],
      ...(record?.boundaries.some((b) => b.momentumZ) ? [["z momentum", "N"] as const] : []),
      ...carried.map((key) => [key, CARRIED_UNITS[key] ? `${CARRIED_UNITS[key]}${per}` : ""] as const),
    ],
    record ? fluxRows(record, carried) : [],
  );
}

const fluxRows = (
  { boundaries: through, storage }: BalanceRecord,
  carried: readonly string[],
  inSpace = through.some((b) => b.momentumZ),
): Cell[][] => [
  ...through.map((b) => [
    b.name,
    cell(b.mass),
    cell(sum(b.momentumX)),
    cell(sum(b.momentumY)),
    ...(inSpace ? [cell(sum(b.momentumZ))] : []),
    ...carried.map((key) => cell(sum(b.scalars?.[key]))),
  ]),
  ...(storage
    ? [
        [
          "stored",
          cell(storage.mass),
          cell(storage.momentum?.[0]),
          cell(storage.momentum?.[1]),
          ...(inSpace ? [cell(undefined)] : []),
          ...carried.map((key) => cell(storage.scalars?.[key])),
        ],
      ]
    : []),
];

const laws = ({ assessment: a }: Reported) =>
  table(
    "laws",
    "What symmetry and thermodynamics ask",
    ["run", "rule", ["off by, fraction", "1"], ["limit", "1"], "state"],
    a.balance.flatMap((b) => b.laws.map((l) => [b.label, l.demands, l.share, l.limit, l.state])),
  );

const second = ({ assessment: a }: Reported) =>
  table(
    "second",
    "Worked out a second way",
    ["run", "quantity", "unit", "by", "value", "and by", "value again", ["apart, fraction", "1"], ["limit", "1"], "state"],
    a.balance.flatMap((b) =>
      b.second.map((s) => [b.label, s.name, s.unit, s.firstBy, cell(s.first), s.secondBy, cell(s.second), s.relative, s.limit, s.state]),
    ),
  );

const surface = ({ assessment: a }: Reported) =>
  table(
    "surface",
    "Forces integrated from the surface against those reported",
    ["run", "file", "quantity", "unit", "reported", "integrated", "by pressure", "by shear", ["apart, of the whole", "1"], ["limit", "1"], "state"],
    a.balance.flatMap((b) =>
      (b.surface?.lines ?? []).map((l) => [
        b.label,
        b.surface?.file ?? "",
        l.name,
        l.unit,
        cell(l.reported),
        cell(l.integrated),
        cell(l.byPressure),
        cell(l.byShear),
        l.relative,
        l.limit,
        l.state,
      ]),
    ),
  );

/** What acts on each patch of the surface of the finest run that has one. */
function patches({ assessment: a, runs }: Reported) {
  const run = runs.find((r) => a.balance.some((b) => b.runId === r.id && b.surface));
  const found = run?.result?.surface?.found;
  const unnamed = found?.unnamed ? [{ name: "(without a name)", ...found.unnamed }] : [];
  return table(
    "patches",
    `Patches of the surface of ${run?.label ?? ""} and what acts on them`,
    [
      "patch",
      "faces",
      ["area", "m^2"],
      ...AXES.map((x) => [`pressure force ${x}`, "N"] as const),
      ...AXES.map((x) => [`shear force ${x}`, "N"] as const),
    ],
    [...(found?.patches ?? []), ...unnamed].map((p) => [p.name, p.faces, cell(p.area), ...p.pressureForce.map(cell), ...p.shearForce.map(cell)]),
  );
}
