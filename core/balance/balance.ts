import { type Remark, type State, stateOf } from "../assessment/outcome.ts";
import { percent } from "../formatting/number.ts";
import type { SteadyFlow } from "../solver/steadyFlow.ts";

/** What crosses one boundary, outward positive, per unit depth for plane flows. Parts that were not delivered are absent. */
export interface BoundaryFlux {
  readonly name: string;
  /** kg/s (per m) */
  readonly mass?: number;
  /** N (per m): carried by the flow, by pressure, by viscous stress */
  readonly momentumX?: readonly [flow: number, pressure: number, shear: number];
  readonly momentumY?: readonly [flow: number, pressure: number, shear: number];
}

export interface BalanceRecord {
  readonly boundaries: readonly BoundaryFlux[];
  /** body force on the whole fluid, N (per m) */
  readonly bodyForce?: readonly [number, number];
  /** used where nothing flows through: kg/s (per m) */
  readonly massReference?: number;
}

/** Fluxes through every boundary as the discrete equations of a finished flow see them. */
export function flowBalance(flow: SteadyFlow, densityKgM3: number, bodyForceMS2: readonly [number, number]): BalanceRecord {
  const rho = densityKgM3;
  const rows: BoundaryFlux[] = flow.mesh.boundaries.map((b) => {
    const row = { name: b.name, mass: 0, x: [0, 0, 0], y: [0, 0, 0] };
    for (let f = b.start; f < b.start + b.count; f++) {
      const t = flow.finest.boundaryTerms(f);
      row.mass += rho * t.mass;
      [t.momentum, t.pressure, t.shear].forEach((part, k) => {
        row.x[k] += rho * part[0];
        row.y[k] += rho * part[1];
      });
    }
    return { name: row.name, mass: row.mass, momentumX: row.x as [number, number, number], momentumY: row.y as [number, number, number] };
  });
  if (flow.mesh.periodic) {
    let mass = 0;
    for (const f of flow.mesh.periodic.faces) mass += rho * flow.finest.flux[f];
    const [into, out] = flow.mesh.periodic.names;
    rows.unshift({ name: `${into} (joined)`, mass: -mass }, { name: `${out} (joined)`, mass });
  }
  const volume = flow.mesh.volumeM2.reduce((s, v) => s + v, 0);
  const swirl = flow.finest.flux.reduce((top, q) => Math.max(top, Math.abs(q)), 0);
  return { boundaries: rows, bodyForce: [rho * bodyForceMS2[0] * volume, rho * bodyForceMS2[1] * volume], massReference: rho * swirl };
}

export interface BalanceLine {
  readonly what: "mass" | "x momentum" | "y momentum";
  readonly net: number;
  readonly throughput: number;
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
/** a defect this far below the limit is nothing to speak of; between, it holds with a remark */
const QUIET = 0.1;

/**
 * Net flux of everything delivered against its throughput.
 * @param meshUncertainty smallest relative mesh uncertainty of the quantities that rest on it, where known
 */
export function assessBalance(record: BalanceRecord, meshUncertainty?: number): BalanceAssessment {
  const remarks: Remark[] = [];
  const lines: BalanceLine[] = [];
  const add = (what: BalanceLine["what"], net: number, throughput: number, preset: number) => {
    if (!(throughput > 0)) return;
    const limit = meshUncertainty !== undefined && meshUncertainty > 1e-12 ? Math.min(preset, meshUncertainty) : preset;
    const relative = Math.abs(net) / throughput;
    const state: State = relative > limit ? "fails" : relative > QUIET * limit ? "remark" : "holds";
    lines.push({ what, net, throughput, relative, limit, state });
    const text = `Net ${what} is ${percent(relative)} of ${what === "mass" ? "throughput" : "the largest single term"}`;
    if (state === "fails") remarks.push({ rule: "balance-limit", severity: "stop", sentence: `${text}, over its limit of ${percent(limit)}.` });
    if (state === "remark") remarks.push({ rule: "balance-limit", severity: "doubt", sentence: `${text}: within ${percent(limit)}, but close.` });
  };
  const masses = record.boundaries.flatMap((b) => (b.mass === undefined ? [] : [b.mass]));
  if (masses.length) {
    const out = masses.reduce((s, m) => s + Math.max(0, m), 0);
    const into = masses.reduce((s, m) => s + Math.max(0, -m), 0);
    const through = Math.max(out, into);
    add("mass", sum(masses), through > 0 ? through : (record.massReference ?? 0), MASS_LIMIT);
  }
  addMomentum(
    "x momentum",
    record.boundaries.flatMap((b) => (b.momentumX ? [b.momentumX] : [])),
    record.bodyForce?.[0] ?? 0,
    record,
    add,
  );
  addMomentum(
    "y momentum",
    record.boundaries.flatMap((b) => (b.momentumY ? [b.momentumY] : [])),
    record.bodyForce?.[1] ?? 0,
    record,
    add,
  );
  return { lines, remarks, state: lines.length ? stateOf(remarks) : "none" };
}

type Parts = readonly [number, number, number];

function addMomentum(
  what: "x momentum" | "y momentum",
  rows: readonly Parts[],
  force: number,
  record: BalanceRecord,
  add: (what: BalanceLine["what"], net: number, through: number, limit: number) => void,
): void {
  if (!rows.length) return;
  const all = [...rows.flat(), force];
  // Both components against the largest term of either, so that a component that vanishes by symmetry does not look like a failure.
  const every = record.boundaries.flatMap((b) => [...(b.momentumX ?? []), ...(b.momentumY ?? [])]).concat(record.bodyForce ?? []);
  add(what, sum(rows.flat()) - force, Math.max(...every.map(Math.abs), ...all.map(Math.abs)), MOMENTUM_LIMIT);
}

const sum = (values: readonly number[]) => values.reduce((s, v) => s + v, 0);
