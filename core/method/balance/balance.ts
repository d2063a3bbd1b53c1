import { percent } from "../../formatting/number.ts";
import type { BalanceRecord } from "../../records/balance.ts";
import { type Remark, type State, stateOf } from "../../remarks/remark.ts";
import { rulesOf } from "../../remarks/rule.ts";

export interface BalanceLine {
  readonly what: string;
  readonly net: number;
  readonly throughput: number;
  /** what the percentage is of, where it is not the throughput */
  readonly over?: string;
  readonly relative: number;
  readonly limit: number;
  readonly state: State;
}

export interface BalanceAssessment {
  readonly lines: readonly BalanceLine[];
  readonly remarks: readonly Remark[];
  readonly state: State;
}

const MASS_LIMIT = 0.001;
const MOMENTUM_LIMIT = 0.005;
/** sums below this share of what they are made of vanish by symmetry */
const SYMMETRY_SHARE = 0.1;
const SCALAR_LIMIT = 0.005;
/** a mesh uncertainty below this is what rounding and stopping leave of a quantity that no mesh changes: no balance is held to it */
const NOTHING = 1e-9;
/** heat below this share of the throughput is none that anybody asked for */
const EXCHANGE_SHARE = 1e-6;
/** a defect this far below the limit is nothing to speak of; between, it holds with a remark */
const QUIET = 0.1;

/** sums of forces and momentum: what they are large beside is their largest term */
const MOMENTA: readonly string[] = ["x momentum", "y momentum", "z momentum"];

/**
 * Net flux of everything delivered against its throughput.
 * @param meshUncertainty smallest relative mesh uncertainty of the quantities that rest on it, where known
 */
export function assessBalance(record: BalanceRecord, meshUncertainty?: number): BalanceAssessment {
  const remarks: Remark[] = [];
  const lines: BalanceLine[] = [];
  const add = (what: BalanceLine["what"], net: number, throughput: number, preset: number, words?: string) => {
    if (!(throughput > 0)) return;
    const limit = meshUncertainty !== undefined && meshUncertainty > NOTHING ? Math.min(preset, meshUncertainty) : preset;
    const relative = Math.abs(net) / throughput;
    const state: State = relative > limit ? "fails" : relative > QUIET * limit ? "remark" : "holds";
    lines.push({ what, net, throughput, relative, limit, state, ...(words ? { over: words } : {}) });
    const text = `Net ${what} is ${percent(relative)} of ${words ?? (MOMENTA.includes(what) ? "the largest single term" : "throughput")}`;
    if (state === "fails") remarks.push({ rule: "balance-limit", severity: "stop", sentence: `${text}, over its limit of ${percent(limit)}.` });
    if (state === "remark") remarks.push({ rule: "balance-limit", severity: "doubt", sentence: `${text}: within ${percent(limit)}, but close.` });
  };
  const masses = record.boundaries.flatMap((b) => (b.mass === undefined ? [] : [b.mass]));
  if (masses.length) {
    const sign = signDoubt(record);
    if (sign) remarks.push(sign);
    const out = masses.reduce((s, m) => s + Math.max(0, m), 0);
    const into = masses.reduce((s, m) => s + Math.max(0, -m), 0);
    const through = Math.max(out, into);
    add(
      "mass",
      sum(masses) + (record.storage?.mass ?? 0) - (record.sources?.mass ?? 0),
      through > 0 ? through : (record.massReference ?? 0),
      MASS_LIMIT,
    );
  }
  addMomentum(
    "x momentum",
    record.boundaries.flatMap((b) => (b.momentumX ? [b.momentumX] : [])),
    (record.bodyForce?.[0] ?? 0) - (record.storage?.momentum?.[0] ?? 0),
    record,
    add,
  );
  addMomentum(
    "y momentum",
    record.boundaries.flatMap((b) => (b.momentumY ? [b.momentumY] : [])),
    (record.bodyForce?.[1] ?? 0) - (record.storage?.momentum?.[1] ?? 0),
    record,
    add,
  );
  addMomentum(
    "z momentum",
    record.boundaries.flatMap((b) => (b.momentumZ ? [b.momentumZ] : [])),
    0,
    record,
    add,
  );
  const carried = new Set(record.boundaries.flatMap((b) => Object.keys(b.scalars ?? {})));
  for (const key of carried) {
    const rows = record.boundaries.flatMap((b) => (b.scalars?.[key] ? [sum(b.scalars[key])] : []));
    const source = (record.sources?.[key] ?? 0) - (record.storage?.scalars?.[key] ?? 0);
    const through = Math.max(
      SYMMETRY_SHARE * (record.scalarReference?.[key] ?? 0),
      sum(rows.filter((q) => q > 0)),
      -sum(rows.filter((q) => q < 0)),
      Math.abs(source),
    );
    // A stream that carries much enthalpy past hides what the walls lose: the smaller of throughput and heat exchanged is what counts.
    const exchanged = key === "energy" || key === "temperature" ? heatExchanged(record, key) : 0;
    const [by, words] = exchanged > EXCHANGE_SHARE * through && exchanged < through ? [exchanged, "the heat exchanged"] : [through, undefined];
    add(key, sum(rows) - source, by, SCALAR_LIMIT, words);
  }
  return { lines, remarks, state: lines.length ? stateOf(remarks) : "none" };
}

/** Heat through boundaries that let nothing else pass: the larger of what comes in there and what goes out. */
function heatExchanged(record: BalanceRecord, key: string): number {
  const passing = record.boundaries.some((b) => b.mass !== undefined && b.mass !== 0);
  const walls = record.boundaries.filter((b) => b.closed === true || (passing && b.closed !== false && !(b.mass !== undefined && b.mass !== 0)));
  const heats = walls.flatMap((b) => (b.scalars?.[key] ? [sum(b.scalars[key])] : []));
  return Math.max(sum(heats.filter((q) => q > 0)), -sum(heats.filter((q) => q < 0)));
}

/** a defect larger than this share may be a flow counted with the wrong sign */
const SIGN_SHARE = 0.2;

/** Whether flows seem to be counted with the wrong sign: all one way, or one of them turned round would close the balance. */
function signDoubt(record: BalanceRecord): Remark | undefined {
  const rows = record.boundaries.flatMap((b) => (b.mass ? [{ name: b.name, mass: b.mass }] : []));
  if (rows.length < 2 || record.storage?.mass) return undefined;
  const net = sum(rows.map((r) => r.mass));
  const size = Math.max(...rows.map((r) => Math.abs(r.mass)));
  const severity = "stop" as const;
  if (rows.every((r) => r.mass > 0) || rows.every((r) => r.mass < 0)) {
    const way = rows[0].mass > 0 ? "out" : "in";
    const sentence = `All ${rows.length} boundaries let mass ${way} and none the other way: the file counts every flow positive. Bring it in again and say so.`;
    return { rule: "balance-sign", severity, sentence };
  }
  if (Math.abs(net) < SIGN_SHARE * size) return undefined;
  const turned = rows.find((r) => Math.abs(net - 2 * r.mass) < MASS_LIMIT * size);
  return (
    turned && {
      rule: "balance-sign",
      severity,
      sentence: `Net mass is ${percent(Math.abs(net) / size)} of the largest flow; with the sign of ${turned.name} turned it would close to ${percent(Math.abs(net - 2 * turned.mass) / size)}. Check how that flow is counted.`,
    }
  );
}

type Parts = readonly [number, number, number];

function addMomentum(
  what: string,
  rows: readonly Parts[],
  force: number,
  record: BalanceRecord,
  add: (what: BalanceLine["what"], net: number, through: number, limit: number) => void,
): void {
  if (!rows.length) return;
  const all = [...rows.flat(), force];
  // Both components against the largest term of either, so that a component that vanishes by symmetry does not look like a failure.
  const every = record.boundaries.flatMap((b) => [...(b.momentumX ?? []), ...(b.momentumY ?? [])]).concat(record.bodyForce ?? []);
  const floor = SYMMETRY_SHARE * (record.momentumReference ?? 0);
  add(what, sum(rows.flat()) - force, Math.max(floor, ...every.map(Math.abs), ...all.map(Math.abs)), MOMENTUM_LIMIT);
}

const sum = (values: readonly number[]) => values.reduce((s, v) => s + v, 0);

/** The rules of this file in words. */
export const BALANCE_RULES = rulesOf("core/method/balance/balance.ts", [
  {
    rule: "balance-sign",
    text: "Flows that all go one way, or one that would close the balance with its sign turned, are taken for flows counted with the wrong sign. Not asked where mass is being stored.",
    source: "own",
  },
  {
    rule: "balance-limit",
    text: "Outward positive. Mass against the larger of inflow and outflow, limit 0.1 %; momentum against the largest single term, energy and species against the larger of what comes and goes, limit 0.5 %; what is stored and what sources add are counted; never above the smallest mesh uncertainty, unless that is below one part in a thousand millions: rounding, no mesh's doing.",
    source: "conservation",
  },
]);
