import type { FileProblem, Sheet } from "../formats/delimited.ts";
import type { BalanceRecord } from "../records/balance.ts";
import type { HistoryEvidence } from "../records/run.ts";
import { ownUnit, type Take } from "../records/take.ts";
import { convert } from "../units/units.ts";
import { BOUNDARY_ROLES, type BoundaryRole, balanceOf, boundaryName, type FluxReading, isBoundary, PLAIN_FLUXES, signOf } from "./quantityImport.ts";

/** What a column of a history becomes. */
export type ColumnRole = "iteration" | "time" | "residual" | "log-residual" | BoundaryRole | "ignore" | `quantity:${string}`;

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

interface Named {
  readonly key: string;
  readonly name: string;
  readonly symbol: string;
  readonly unit?: string;
  readonly take?: Take;
}

const normal = (s: string) => s.toLowerCase().replace(/[^a-z0-9]/g, "");

/** Ways a residual may be counted; columns of several ways are never taken together. */
const WAY = /\b(raw|unscaled|abs(?:olute)?|scaled|normali[sz]ed|relative|rms|l1|l2|linf|max(?:imum)?|mean|initial|final)\b/i;

/** How a residual of this name is counted, "" where it does not say. */
export const residualWay = (name: string) => name.replace(/_/g, " ").match(WAY)?.[1].toLowerCase() ?? "";
/** "log10(R_mass)", "lg mass residual": the name inside, where a name says that it holds a logarithm. */
const LOGGED = /^\s*(?:log_?10|log|lg)(?:\s*\(\s*(.*?)\s*\)|[\s_]+(.*))\s*$/i;
export const insideLog = (name: string): string | undefined => {
  const found = name.match(LOGGED);
  return found ? (found[1] ?? found[2]) : undefined;
};
/** "R_mass", "Ux residual": names a residual goes by. */
const isResidualName = (name: string) =>
  /residual|\bres(id)?\b|continuity|imbalance/.test(name) ||
  /^r[_ ]\w+/.test(name) ||
  /^(([xyz][ -]?)?momentum|mass|energy|[uvwp])$/.test(equationOf(name));

/** Its equation, without the way it is counted and the word itself. */
const equationOf = (name: string) =>
  name
    .replace(/^R_(?=\w)/, "")
    .replace(/_/g, " ")
    .replace(new RegExp(WAY, "gi"), "")
    .replace(/\bresid(ual)?s?\b|\bres\b/gi, "")
    .replace(/[\s,:]+/g, " ")
    .trim();

/** Guesses the role of every column from its name and its numbers; a person confirms or changes it. */
export function guessRoles(sheet: Sheet, quantities: readonly Named[]): ColumnRole[] {
  let haveIteration = false;
  const roles = sheet.header.map((name, i): ColumnRole => {
    const word = name.toLowerCase().replace(/_/g, " ");
    if (!haveIteration && /^(n|it|iter|iteration|step|cycle)s?\b|iteration/.test(word)) {
      haveIteration = true;
      return "iteration";
    }
    if (/^(flow |physical )?(t|time)$/.test(word)) return "time";
    const match = quantities.find((q) => [q.key, q.name, q.symbol].some((n) => normal(n) === normal(name)));
    if (match) return `quantity:${match.key}`;
    const inside = insideLog(name);
    if (inside !== undefined && isResidualName(inside.toLowerCase())) return "log-residual";
    const flows = (unit: string) => sheet.units[i] !== undefined && convert(1, sheet.units[i] as string, unit) !== undefined;
    if (/\bmass (flow|flux)/.test(word) && flows("kg/s")) return "boundary-mass";
    if (/\b(heat|energy|enthalpy) (flow|flux|rate|through)/.test(word) && flows("W")) return "boundary-energy";
    if (/\b(species|tracer|vapou?r|moisture) (flow|flux)/.test(word) && flows("kg/s")) return "boundary-species";
    if (isResidualName(word)) {
      const known = sheet.columns[i].filter(Number.isFinite);
      return known.length > 3 && known.filter((v) => v < 0).length > known.length / 2 && known.every((v) => v > -30 && v < 10)
        ? "log-residual"
        : "residual";
    }
    return "ignore";
  });
  return oneWay(sheet.header, roles);
}

/** Of residuals counted in several ways the one most columns share is kept, the first of equals. */
function oneWay(header: readonly string[], roles: readonly ColumnRole[]): ColumnRole[] {
  const isResidual = (r: ColumnRole) => r === "residual" || r === "log-residual";
  const ways = new Map<string, number>();
  roles.forEach((r, i) => {
    if (isResidual(r)) ways.set(residualWay(header[i]), (ways.get(residualWay(header[i])) ?? 0) + 1);
  });
  if (ways.size < 2) return [...roles];
  const [kept] = [...ways.entries()].sort((a, b) => b[1] - a[1])[0];
  return roles.map((r, i) => (isResidual(r) && residualWay(header[i]) !== kept ? "ignore" : r));
}

const MOST_PROBLEMS = 12;

/** Turns values into another unit: linear, with a zero of its own for temperatures. Undefined when the units are of different kinds. */
function conversion(from: string | undefined, to: string): ((v: number) => number) | undefined {
  const pure = to === "" || to === "1";
  if (from === undefined || from === to || (pure && (from === "1" || from === "-"))) return (v) => v;
  if (pure) return from === "%" ? (v) => v / 100 : undefined;
  const [zero, one] = [convert(0, from, to), convert(1, from, to)];
  if (zero === undefined || one === undefined) return undefined;
  return (v) => zero + v * (one - zero);
}

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
  const problems: FileProblem[] = [];
  const notes: string[] = [];
  const problem = (p: FileProblem) => {
    if (problems.length < MOST_PROBLEMS) problems.push(p);
  };
  const columnWord = (i: number) => ({ line: sheet.lines[0] ?? 1, column: sheet.header[i] });
  const read = (index: number, target?: string): Float64Array => {
    for (const p of sheet.faults[index]) problem(p);
    const values = sheet.columns[index];
    if (target === undefined) return values;
    if (units[index] === undefined && target !== "" && target !== "1") {
      problem({ ...columnWord(index), sentence: `The unit of "${sheet.header[index]}" is not given: type it, ${target} or another of its kind.` });
      return values;
    }
    const turn = conversion(units[index], target);
    if (!turn) {
      problem({
        ...columnWord(index),
        sentence: `"${units[index]}" cannot be turned into ${target === "" || target === "1" ? "a pure number" : target}; correct the unit or what the column is.`,
      });
      return values;
    }
    return units[index] === undefined || units[index] === target ? values : values.map(turn);
  };
  const only = (role: ColumnRole, words: string) => {
    if (roles.filter((r) => r === role).length > 1) problem({ line: 1, sentence: `Two columns are marked as the ${words}.` });
    return roles.indexOf(role);
  };
  const missing = (values: Float64Array, column: number, words: string) => {
    for (let i = 0; i < values.length && problems.length < MOST_PROBLEMS; i++)
      if (!Number.isFinite(values[i])) problem({ line: sheet.lines[i], column: sheet.header[column], sentence: `The ${words} is missing.` });
  };
  const at = only("iteration", "iteration");
  const iteration = at >= 0 ? read(at) : Float64Array.from({ length: sheet.rows }, (_, i) => i + 1);
  if (at < 0) notes.push("No column holds the iteration; rows were counted.");
  else missing(iteration, at, "iteration");
  const timeAt = only("time", "time");
  const time = timeAt >= 0 ? read(timeAt, "s") : undefined;
  if (time) missing(time, timeAt, "time");
  const residuals: Record<string, Float64Array> = {};
  const quantities: Record<string, Float64Array> = {};
  const through = new Map<BoundaryRole, { name: string; values: Float64Array }[]>();
  const equations = new Map<string, number>();
  roles.forEach((role, i) => {
    if (role === "residual" || role === "log-residual") {
      const values = read(i);
      const linear = role === "log-residual" ? values.map((v) => 10 ** v) : values;
      const negative = linear.findIndex((v) => v < 0);
      if (negative >= 0)
        problem({
          line: sheet.lines[negative],
          column: sheet.header[i],
          sentence: "A residual is negative; mark the column as log10 if that is what it holds.",
        });
      const equation = equationOf(insideLog(sheet.header[i]) ?? sheet.header[i]).toLowerCase();
      const twin = equations.get(equation);
      if (twin !== undefined && equation !== "")
        problem({
          ...columnWord(i),
          sentence: `The residual of "${equation}" stands in two columns, also in "${sheet.header[twin]}": leave one out, they are counted in different ways.`,
        });
      equations.set(equation, i);
      residuals[residualName(sheet.header[i])] = linear;
    } else if (isBoundary(role)) {
      const values = read(i, BOUNDARY_ROLES[role]);
      const sign = signOf(sheet.header[i], 1, fluxes.signs);
      if (sign === undefined)
        problem({
          ...columnWord(i),
          sentence: `Whether ${sheet.header[i]} goes in or out cannot be told from its name; name it so, or count outward positive.`,
        });
      const signed = values.map((v) => (sign ?? 1) * v * fluxes.factor);
      through.set(role, [
        ...(through.get(role) ?? []),
        { name: boundaryName(sheet.header[i].replace(/\s*[([][^)\]]*[)\]]\s*$/, "")), values: signed },
      ]);
    } else if (role.startsWith("quantity:")) {
      const key = role.slice("quantity:".length);
      if (quantities[key]) problem({ line: 1, column: sheet.header[i], sentence: "Two columns are marked as the same quantity." });
      const q = known.find((x) => x.key === key);
      // Of a frequency the record itself is in whatever unit was recorded.
      quantities[key] = ownUnit(q?.take) ? read(i, q?.unit) : read(i);
    }
  });
  const ways = new Set(roles.flatMap((r, i) => (r === "residual" || r === "log-residual" ? [residualWay(sheet.header[i])] : [])));
  if (ways.size > 1)
    problem({
      line: 1,
      sentence: `Residuals counted in different ways (${[...ways].map((w) => w || "not said").join(", ")}) cannot be read together: keep one kind.`,
    });
  const skipped = sheet.header.filter((h, i) => roles[i] === "ignore" && WAY.test(h.replace(/_/g, " ")) && /res/i.test(h));
  if (skipped.length && ways.size)
    notes.push(`Residuals counted in another way are left out: ${skipped.slice(0, 4).join(", ")}${skipped.length > 4 ? " and others" : ""}.`);
  if (!Object.keys(residuals).length && !Object.keys(quantities).length && !through.size)
    problem({ line: 1, sentence: "No column is marked as a residual, a quantity or a flow through a boundary." });
  if (problems.length) return { ok: false, problems };
  const order = laterEntries(iteration);
  if (order && order.length < iteration.length)
    notes.push(`${iteration.length - order.length} iterations stand twice, as after a restart; the later entry was kept.`);
  const pick = (values: Float64Array): Float64Array => (order ? Float64Array.from(order, (i) => values[i]) : values);
  const each = (record: Record<string, Float64Array>) => Object.fromEntries(Object.entries(record).map(([k, v]) => [k, pick(v)]));
  let gaps = 0;
  for (const v of [...Object.values(residuals), ...Object.values(quantities)]) for (let i = 0; i < v.length; i++) if (Number.isNaN(v[i])) gaps++;
  if (gaps) notes.push(`${gaps} cells are empty or NaN; they stay gaps.`);
  const nets = [...through].flatMap(([role, flows]) => (flows.length > 1 ? [[NET_NAMES[role], flows.map((f) => f.values)] as const] : []));
  const single = [...through].filter(([, flows]) => flows.length === 1).map(([role]) => NET_NAMES[role]);
  if (single.length) notes.push(`Only one boundary gives its ${single.join(", ")}: nothing to balance it with over the iterations.`);
  const kept = time && pick(time);
  const back = kept?.findIndex((t, i) => i > 0 && t <= kept[i - 1]) ?? -1;
  if (back >= 0) {
    const sentence = `The time does not rise: ${kept?.[back]} s after ${kept?.[back - 1]} s.`;
    return { ok: false, problems: [{ line: sheet.lines[order ? order[back] : back], column: sheet.header[timeAt], sentence }] };
  }
  return {
    ok: true,
    history: {
      iteration: pick(iteration),
      ...(kept ? { time: kept } : {}),
      residuals: each(residuals),
      quantities: each(quantities),
      ...(nets.length ? { balances: Object.fromEntries(nets.map(([key, flows]) => [key, pick(netOf(flows))])) } : {}),
    },
    ...(through.size ? { balance: lastFlows(through, fluxes.factor, order) } : {}),
    notes,
  };
}

const NET_NAMES: Readonly<Record<BoundaryRole, string>> = {
  "boundary-mass": "mass",
  "boundary-x": "x momentum",
  "boundary-y": "y momentum",
  "boundary-energy": "energy",
  "boundary-species": "species",
};

/** Name of a residual as it is kept: without the word itself, or the logarithm it stands in. */
function residualName(header: string): string {
  const inside = insideLog(header) ?? header;
  return inside.replace(/^R_(?=\w)/, "").replace(/[\s_]*residual$/i, "") || inside;
}

/** Flows through boundaries as the last row that has them all gives them. */
function lastFlows(
  through: ReadonlyMap<BoundaryRole, readonly { name: string; values: Float64Array }[]>,
  factor: number,
  order: readonly number[] | undefined,
): BalanceRecord | undefined {
  const boundaries = new Map<string, Partial<Record<BoundaryRole, number>>>();
  for (const [role, flows] of through)
    for (const { name, values } of flows) {
      let at = (order?.length ?? values.length) - 1;
      const value = () => values[order ? order[at] : at];
      while (at > 0 && !Number.isFinite(value())) at--;
      boundaries.set(name, { ...boundaries.get(name), [role]: value() });
    }
  return balanceOf(boundaries, factor);
}

/** Sum of boundary flows, outward positive, over the larger of what comes in and goes out. */
function netOf(flows: readonly Float64Array[]): Float64Array {
  return flows[0].map((_, i) => {
    let [out, into] = [0, 0];
    for (const f of flows) {
      out += Math.max(0, f[i]);
      into += Math.max(0, -f[i]);
    }
    return Math.abs(out - into) / Math.max(out, into, Number.MIN_VALUE);
  });
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
