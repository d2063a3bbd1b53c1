import { type Remark, type State, stateOf } from "../assessment/outcome.ts";
import { percent } from "../formatting/number.ts";
import type { FaceMesh } from "../mesh/faceMesh.ts";
import { OUTLET } from "../solver/boundaryConditions.ts";
import type { FlowLevel, FlowPhysics } from "../solver/flowLevel.ts";

/** What crosses one boundary, outward positive, per unit depth for plane flows. Parts that were not delivered are absent. */
export interface BoundaryFlux {
  readonly name: string;
  /** a wall or a line of symmetry: nothing flows through it */
  readonly closed?: boolean;
  /** kg/s (per m) */
  readonly mass?: number;
  /** of an outlet: what comes back in through it, counted positive, kg/s (per m) */
  readonly massBack?: number;
  /** N (per m): carried by the flow, by pressure, by viscous stress */
  readonly momentumX?: readonly [flow: number, pressure: number, shear: number];
  readonly momentumY?: readonly [flow: number, pressure: number, shear: number];
  /** transported quantities, carried by the flow and by diffusion: quantity times m^3/s (per m); energy in W (per m) */
  readonly scalars?: Readonly<Record<string, readonly [carried: number, diffused: number]>>;
}

export interface BalanceRecord {
  readonly boundaries: readonly BoundaryFlux[];
  /** times the modelled part stands in the whole: already applied to every figure here, once */
  readonly factor?: number;
  /** body force on the whole fluid, N (per m) */
  readonly bodyForce?: readonly [number, number];
  /** what the volume produces of each transported quantity, as its fluxes are measured */
  readonly sources?: Readonly<Record<string, number>>;
  /** what the volume takes up per second in a flow that changes in time: mass, momentum, transported quantities */
  readonly storage?: {
    readonly mass?: number;
    readonly momentum?: readonly [number, number];
    readonly scalars?: Readonly<Record<string, number>>;
  };
  /** all forces and momentum flows face by face, summed without sign: what a sum that vanishes by symmetry is small against, N (per m) */
  readonly momentumReference?: number;
  /** the same for transported quantities, energy among them */
  readonly scalarReference?: Readonly<Record<string, number>>;
  /** used where nothing flows through: kg/s (per m) */
  readonly massReference?: number;
}

/**
 * Fluxes through every boundary as the discrete equations of a flow see them, and what the volume adds. Call after `evaluate`.
 * Stress around the axis of a revolved mesh is no boundary's: it is left out of the radial balance, which is not asked for then.
 */
export function flowBalance(mesh: FaceMesh, level: FlowLevel, physics: FlowPhysics): BalanceRecord {
  const rho = physics.densityKgM3 ?? 1;
  const plane = mesh.hoopM2 === undefined;
  let reference = 0;
  const closed = (name: string) => ["wall", "moving-wall", "symmetry"].includes(physics.boundaries[name]?.kind ?? "");
  const rows: BoundaryFlux[] = mesh.boundaries.map((b) => {
    let mass = 0;
    let back = 0;
    const x: [number, number, number] = [0, 0, 0];
    const y: [number, number, number] = [0, 0, 0];
    const scalars = Object.fromEntries(level.scalars.map((q) => [q.physics.key, [0, 0] as [number, number]]));
    for (let f = b.start; f < b.start + b.count; f++) {
      const t = level.boundaryTerms(f);
      mass += rho * t.mass;
      if (t.mass < 0 && level.boundary.type[f - mesh.joinCount] === OUTLET) back -= rho * t.mass;
      [t.momentum, t.pressure, t.shear].forEach((part, k) => {
        x[k] += rho * part[0];
        y[k] += rho * part[1];
        reference += rho * Math.hypot(part[0], part[1]);
      });
      for (const q of level.scalars) {
        const s = q.boundaryTerms(f, level.flux);
        scalars[q.physics.key][0] += s.carried;
        scalars[q.physics.key][1] += s.diffused;
      }
    }
    return {
      name: b.name,
      ...(closed(b.name) ? { closed: true } : {}),
      mass,
      ...(back > 0 ? { massBack: back } : {}),
      momentumX: x,
      ...(plane ? { momentumY: y } : {}),
      ...(level.scalars.length ? { scalars } : {}),
    };
  });
  for (const pair of mesh.periodic) {
    let mass = 0;
    for (let f = pair.firstJoin; f < pair.firstJoin + pair.count; f++) mass += rho * level.flux[f];
    const [into, out] = pair.names;
    rows.unshift({ name: `${into} (joined)`, mass: -mass }, { name: `${out} (joined)`, mass });
  }
  const swirl = level.flux.reduce((top, q) => Math.max(top, Math.abs(q)), 0);
  const [fx, fy] = level.volumeForces();
  const [ax, ay] = level.accelerated();
  const rate = level.time?.rate ?? 0;
  const inside = level.scalars.map((q) => [q.physics.key, q.volumeTerms(rate)] as const);
  return {
    boundaries: rows,
    bodyForce: [rho * fx, rho * fy],
    ...(inside.some(([, t]) => t.source !== 0) ? { sources: Object.fromEntries(inside.map(([k, t]) => [k, t.source])) } : {}),
    ...(level.time
      ? { storage: { momentum: [rho * ax, rho * ay] as const, scalars: Object.fromEntries(inside.map(([k, t]) => [k, t.stored])) } }
      : {}),
    momentumReference: reference,
    massReference: rho * swirl,
  };
}

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
/** heat below this share of the throughput is none that anybody asked for */
const EXCHANGE_SHARE = 1e-6;
/** a defect this far below the limit is nothing to speak of; between, it holds with a remark */
const QUIET = 0.1;

/**
 * Net flux of everything delivered against its throughput.
 * @param meshUncertainty smallest relative mesh uncertainty of the quantities that rest on it, where known
 */
export function assessBalance(record: BalanceRecord, meshUncertainty?: number): BalanceAssessment {
  const remarks: Remark[] = [];
  const lines: BalanceLine[] = [];
  const add = (what: BalanceLine["what"], net: number, throughput: number, preset: number, words?: string) => {
    if (!(throughput > 0)) return;
    const limit = meshUncertainty !== undefined && meshUncertainty > 1e-12 ? Math.min(preset, meshUncertainty) : preset;
    const relative = Math.abs(net) / throughput;
    const state: State = relative > limit ? "fails" : relative > QUIET * limit ? "remark" : "holds";
    lines.push({ what, net, throughput, relative, limit, state, ...(words ? { over: words } : {}) });
    const text = `Net ${what} is ${percent(relative)} of ${words ?? (what.endsWith("momentum") ? "the largest single term" : "throughput")}`;
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
