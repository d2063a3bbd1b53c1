import type { FileProblem } from "../formats/delimited.ts";
import type { Sheet } from "../formats/sheet.ts";
import type { BalanceRecord } from "../records/balance.ts";
import type { HistoryEvidence } from "../records/run.ts";
import { ownUnit } from "../records/take.ts";
import { type BoundaryFlow, lastFlows, netsOf, type Through } from "./boundaryRecord.ts";
import { type ColumnReader, columnReader } from "./columnReader.ts";
import { type ColumnRole, equationOf, insideLog, isResidual, type Named, residualName, residualWay, WAY } from "./columnRoles.ts";
import { BOUNDARY_ROLES, type BoundaryRole, boundaryName, type FluxReading, isBoundary, PLAIN_FLUXES, signOf } from "./quantityImport.ts";

export type HistoryResult =
  | {
      readonly ok: true;
      readonly history: HistoryEvidence;
      /** flows through boundaries in the last row, where there are any */
      readonly balance?: BalanceRecord;
      readonly notes: readonly string[];
    }
  | { readonly ok: false; readonly problems: readonly FileProblem[] };

/** What a page shows of a sheet before it is brought in. */
export interface SheetPreview {
  readonly header: readonly string[];
  readonly units: readonly (string | undefined)[];
  readonly delimiter: string;
  readonly rows: number;
  readonly sample: readonly (readonly string[])[];
  readonly roles: readonly ColumnRole[];
  /** the recipe that gave the roles, where one fits */
  readonly recipe?: { readonly name: string; readonly code: string; readonly dimension: 2 | 3 };
  readonly notes: readonly string[];
}

/** A sheet and what its columns are said to be. */
interface Said {
  readonly sheet: Sheet;
  readonly roles: readonly ColumnRole[];
  readonly known: readonly Named[];
  readonly fluxes: FluxReading;
}

type Columns = Record<string, Float64Array>;

/**
 * Turns a sheet and the roles of its columns into a history in the units of the case.
 * Repeated iteration numbers, as after a restart, keep the later entry.
 * @param units units of the columns where a person corrected them
 */
export function buildHistory(
  sheet: Sheet,
  roles: readonly ColumnRole[],
  known: readonly Named[] = [],
  units: readonly (string | undefined)[] = sheet.units,
  fluxes: FluxReading = PLAIN_FLUXES,
): HistoryResult {
  const said: Said = { sheet, roles, known, fluxes };
  const reader = columnReader(sheet, roles, units);
  const at = reader.only("iteration", "iteration");
  const iteration = at >= 0 ? reader.readWhole(at, "iteration") : Float64Array.from({ length: sheet.rows }, (_, i) => i + 1);
  const timeAt = reader.only("time", "time");
  const time = timeAt >= 0 ? reader.readWhole(timeAt, "time", "s") : undefined;
  const { residuals, quantities, through } = readColumns(said, reader);
  const notes = [...(at < 0 ? ["No column holds the iteration; rows were counted."] : []), ...checkWays(said, reader)];
  if (!Object.keys(residuals).length && !Object.keys(quantities).length && !through.size)
    reader.problem({ line: 1, sentence: "No column is marked as a residual, a quantity or a flow through a boundary." });
  if (reader.problems.length) return { ok: false, problems: reader.problems };

  const order = laterEntries(iteration);
  const pick = (values: Float64Array): Float64Array => (order ? Float64Array.from(order, (i) => values[i]) : values);
  const each = (record: Columns) => Object.fromEntries(Object.entries(record).map(([k, v]) => [k, pick(v)]));
  const kept = time && pick(time);
  const back = kept?.findIndex((t, i) => i > 0 && t <= kept[i - 1]) ?? -1;
  if (kept && back >= 0) {
    const sentence = `The time does not rise: ${kept[back]} s after ${kept[back - 1]} s.`;
    return { ok: false, problems: [{ ...reader.entry(order ? order[back] : back, timeAt), sentence }] };
  }
  const { nets, notes: single } = netsOf(through);
  return {
    ok: true,
    history: {
      iteration: pick(iteration),
      ...(kept ? { time: kept } : {}),
      residuals: each(residuals),
      quantities: each(quantities),
      ...(nets.length ? { balances: Object.fromEntries(nets.map(([key, net]) => [key, pick(net)])) } : {}),
    },
    ...(through.size ? { balance: lastFlows(through, fluxes.factor, order) } : {}),
    notes: [...notes, ...twiceNote(iteration, order), ...gapNote([...Object.values(residuals), ...Object.values(quantities)]), ...single],
  };
}

/** Everything but the abscissae. */
function readColumns(said: Said, reader: ColumnReader): { residuals: Columns; quantities: Columns; through: Through } {
  const residuals: Columns = {};
  const quantities: Columns = {};
  const through = new Map<BoundaryRole, BoundaryFlow[]>();
  const equations = new Map<string, number>();
  said.roles.forEach((role, i) => {
    if (isResidual(role)) residuals[residualName(said.sheet.header[i])] = readResidual(said, reader, i, equations);
    else if (isBoundary(role)) through.set(role, [...(through.get(role) ?? []), readBoundary(said, reader, i, role)]);
    else if (role.startsWith("quantity:")) {
      const key = role.slice("quantity:".length);
      if (quantities[key]) reader.problem({ line: 1, column: said.sheet.header[i], sentence: "Two columns are marked as the same quantity." });
      const q = said.known.find((x) => x.key === key);
      // Of a frequency the record itself is in whatever unit was recorded.
      quantities[key] = ownUnit(q?.take) ? reader.read(i, q?.unit) : reader.read(i);
    }
  });
  return { residuals, quantities, through };
}

/** A residual as it falls, also where its logarithm was written; two columns of one equation are a problem. */
function readResidual({ sheet, roles }: Said, reader: ColumnReader, column: number, equations: Map<string, number>): Float64Array {
  const header = sheet.header[column];
  const values = reader.read(column);
  const linear = roles[column] === "log-residual" ? values.map((v) => 10 ** v) : values;
  const negative = linear.findIndex((v) => v < 0);
  if (negative >= 0)
    reader.problem({
      ...reader.entry(negative, column),
      sentence: "A residual is negative; mark the column as log10 if that is what it holds.",
    });
  const equation = equationOf(insideLog(header) ?? header).toLowerCase();
  const twin = equations.get(equation);
  if (twin !== undefined && equation !== "")
    reader.problem({
      ...reader.whole(column),
      sentence: `The residual of "${equation}" stands in two columns, also in "${sheet.header[twin]}": leave one out, they are counted in different ways.`,
    });
  equations.set(equation, column);
  return linear;
}

/** A flow through a boundary, of the whole and outward positive. */
function readBoundary({ sheet, fluxes }: Said, reader: ColumnReader, column: number, role: BoundaryRole): BoundaryFlow {
  const header = sheet.header[column];
  const values = reader.read(column, BOUNDARY_ROLES[role]);
  const sign = signOf(header, 1, fluxes.signs);
  if (sign === undefined)
    reader.problem({
      ...reader.whole(column),
      sentence: `Whether ${header} goes in or out cannot be told from its name; name it so, or count outward positive.`,
    });
  const unitAtTheEnd = /\s*[([][^)\]]*[)\]]\s*$/;
  return { name: boundaryName(header.replace(unitAtTheEnd, "")), values: values.map((v) => (sign ?? 1) * v * fluxes.factor) };
}

/** Residuals counted in different ways are never read together; those of another way that were left out are named. */
function checkWays({ sheet, roles }: Said, reader: ColumnReader): string[] {
  const ways = new Set(roles.flatMap((r, i) => (isResidual(r) ? [residualWay(sheet.header[i])] : [])));
  if (ways.size > 1)
    reader.problem({
      line: 1,
      sentence: `Residuals counted in different ways (${[...ways].map((w) => w || "not said").join(", ")}) cannot be read together: keep one kind.`,
    });
  const skipped = sheet.header.filter((h, i) => roles[i] === "ignore" && WAY.test(h.replace(/_/g, " ")) && /res/i.test(h));
  if (!skipped.length || !ways.size) return [];
  return [`Residuals counted in another way are left out: ${skipped.slice(0, 4).join(", ")}${skipped.length > 4 ? " and others" : ""}.`];
}

function twiceNote(iteration: Float64Array, order: readonly number[] | undefined): string[] {
  const twice = order ? iteration.length - order.length : 0;
  return twice ? [`${twice} iterations stand twice, as after a restart; the later entry was kept.`] : [];
}

function gapNote(columns: readonly Float64Array[]): string[] {
  let gaps = 0;
  for (const values of columns) for (let i = 0; i < values.length; i++) if (Number.isNaN(values[i])) gaps++;
  return gaps ? [`${gaps} cells are empty or NaN; they stay gaps.`] : [];
}

/** Entries in the order of their iterations, the later of equals; undefined where they stand in order already. */
function laterEntries(iteration: Float64Array): number[] | undefined {
  let rising = true;
  for (let i = 1; i < iteration.length && rising; i++) rising = iteration[i] > iteration[i - 1];
  if (rising) return undefined;
  const last = new Map<number, number>();
  iteration.forEach((n, i) => {
    last.set(n, i);
  });
  return [...last.entries()].sort((a, b) => a[0] - b[0]).map(([, i]) => i);
}
