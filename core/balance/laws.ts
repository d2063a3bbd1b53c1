import { type Remark, type State, stateOf, worst } from "../assessment/outcome.ts";
import { percent } from "../formatting/number.ts";
import type { FaceMesh } from "../mesh/faceMesh.ts";
import { samplerOf } from "../monitors/sampler.ts";
import type { GasSpace } from "../solver/compressible/gasSpace.ts";
import type { FlowLevel, FlowPhysics } from "../solver/flowLevel.ts";
import type { BalanceRecord } from "./balance.ts";

/** Rules a flow must obey whatever its numbers are. */
export const LAWS = ["wall-flow", "total-pressure", "entropy", "total-enthalpy", "mirror", "no-lift", "efficiency-below-one"] as const;
export type Law = (typeof LAWS)[number];

/** How far a run is from obeying one rule, as a share of what the rule speaks of. */
export interface LawReading {
  readonly law: Law;
  readonly share: number;
}

/** Words, and the shares above which there is a doubt and a stop. */
const RULES: Readonly<Record<Law, { readonly demands: string; readonly of: string; readonly doubt: number; readonly stop: number }>> = {
  "wall-flow": { demands: "Nothing flows through a wall or a line of symmetry", of: "what passes the open boundaries", doubt: 1e-9, stop: 1e-6 },
  "total-pressure": { demands: "Total pressure does not rise without work", of: "its span over the boundaries", doubt: 0.01, stop: 0.05 },
  entropy: { demands: "Entropy does not fall along a flow without cooling", of: "the specific heat", doubt: 0.005, stop: 0.05 },
  "total-enthalpy": { demands: "Total enthalpy stays as it came in, on average", of: "the enthalpy that comes in", doubt: 0.005, stop: 0.05 },
  mirror: { demands: "A symmetric set-up has a symmetric answer", of: "the largest velocity", doubt: 1e-4, stop: 1e-2 },
  "no-lift": { demands: "A symmetric body in a symmetric flow has no lift", of: "the largest force", doubt: 0.005, stop: 0.05 },
  "efficiency-below-one": { demands: "An efficiency does not exceed one", of: "one", doubt: 0, stop: 0 },
};

export interface LawLine extends LawReading {
  readonly demands: string;
  readonly sentence: string;
  readonly limit: number;
  readonly state: State;
}

/** A quantity worked out in two ways that share neither faces nor differences. */
export interface SecondReading {
  readonly quantityKey?: string;
  readonly name: string;
  readonly unit: string;
  readonly first: number;
  readonly firstBy: string;
  readonly second: number;
  readonly secondBy: string;
}

export interface SecondLine extends SecondReading {
  /** difference over the first */
  readonly relative: number;
  readonly limit: number;
  readonly against: "mesh uncertainty" | "a tenth of its limit" | "1 %";
  readonly state: State;
}

const SECOND_LIMIT = 0.01;
/** both computations carry the mesh's error */
const BOTH = Math.SQRT2;

/** Judges the rules and second computations a run delivered. */
export function assessLaws(
  label: string,
  laws: readonly LawReading[],
  second: readonly SecondReading[],
  meshUncertainty: Readonly<Record<string, number | undefined>>,
  accepted: Readonly<Record<string, number>> = {},
): { laws: LawLine[]; second: SecondLine[]; remarks: Remark[]; state: State } {
  const remarks: Remark[] = [];
  const lines = laws.map((l): LawLine => {
    const { demands, of, doubt, stop } = RULES[l.law];
    const state: State = l.share > stop ? "fails" : l.share > doubt ? "remark" : "holds";
    const sentence = `${demands}: off by ${percent(l.share)} of ${of}, ${percent(doubt)} is let pass.`;
    if (state !== "holds") remarks.push({ rule: l.law, severity: state === "fails" ? "stop" : "doubt", sentence: `${label}: ${sentence}` });
    return { ...l, demands, sentence, limit: doubt, state };
  });
  const twice = second.map((s): SecondLine => {
    const mesh = s.quantityKey === undefined ? undefined : meshUncertainty[s.quantityKey];
    // The second way has a mesh error of its own: what is small beside the accepted error is let pass in any case.
    const small = s.quantityKey === undefined ? 0 : (accepted[s.quantityKey] ?? 0) / 10;
    const explained = mesh !== undefined && mesh > 1e-9 ? BOTH * mesh : undefined;
    const limit = explained === undefined ? SECOND_LIMIT : Math.max(explained, small);
    const against = explained === undefined ? "1 %" : small > explained ? "a tenth of its limit" : "mesh uncertainty";
    const relative = Math.abs(s.second - s.first) / Math.max(Math.abs(s.first), Number.MIN_VALUE);
    const state: State = relative > limit ? "remark" : "holds";
    if (state === "remark")
      remarks.push({
        rule: "second-computation",
        severity: "doubt",
        sentence: `${label}: ${s.name} by ${s.secondBy} differs by ${percent(relative)} from that by ${s.firstBy}, more than the ${percent(limit)} ${against === "1 %" ? "let pass" : against === "mesh uncertainty" ? "its mesh uncertainty explains" : "that are a tenth of its limit"}.`,
      });
    return { ...s, relative, limit, against, state };
  });
  return { laws: lines, second: twice, remarks, state: lines.length || twice.length ? worst([stateOf(remarks), "holds"]) : "none" };
}

/** Mass through walls and lines of symmetry over what passes the open boundaries. */
export function wallFlow(record: BalanceRecord): LawReading[] {
  const closed = record.boundaries.filter((b) => b.closed && b.mass !== undefined);
  if (!closed.length) return [];
  const open = record.boundaries.filter((b) => !b.closed).reduce((s, b) => s + Math.abs(b.mass ?? 0), 0) / 2;
  const through = Math.max(open, record.massReference ?? 0);
  if (!(through > 0)) return [];
  return [{ law: "wall-flow", share: closed.reduce((s, b) => s + Math.abs(b.mass ?? 0), 0) / through }];
}

/**
 * Total pressure of a steady flow on which nothing does work: by the maximum principle of the Navier-Stokes equations it is nowhere higher than on the
 * boundary. Moving walls, body forces and buoyancy do work; then nothing is said.
 * @source Serrin, Handbuch der Physik VIII/1 (1959), section 73: u . grad H = nu laplacian(H) - nu omega^2.
 */
export function totalPressureLaw(mesh: FaceMesh, level: FlowLevel, physics: FlowPhysics): LawReading[] {
  const works =
    level.time !== undefined ||
    physics.bodyForce.some((f) => f !== 0) ||
    level.forced ||
    level.scalars.some((q) => q.physics.buoyancy || q.physics.swirl) ||
    Object.values(physics.boundaries).some((b) => b.kind === "moving-wall");
  const open = Object.values(physics.boundaries).some((b) => b.kind === "outlet");
  if (works || !open || mesh.periodic.length) return [];
  const { u, v, p } = level.boundary;
  let [high, low] = [Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY];
  for (let b = 0; b < p.length; b++) {
    const h = p[b] + 0.5 * (u[b] ** 2 + v[b] ** 2);
    high = Math.max(high, h);
    low = Math.min(low, h);
  }
  let top = Number.NEGATIVE_INFINITY;
  for (let c = 0; c < level.u.length; c++) top = Math.max(top, level.p[c] + 0.5 * (level.u[c] ** 2 + level.v[c] ** 2));
  return high > low ? [{ law: "total-pressure", share: Math.max(0, top - high) / (high - low) }] : [];
}

/** What thermodynamics asks of a steady gas flow without heat or work: entropy, total pressure and total enthalpy against what comes in. */
export function gasLaws(mesh: FaceMesh, space: GasSpace): LawReading[] {
  const { gamma, gasConstant } = space.physics.gas;
  if (space.physics.source || space.physics.gas.viscosityPaS > 0) return [];
  const heat = (gamma * gasConstant) / (gamma - 1);
  const at = (c: number) => {
    const [rho, u, v, p] = space.w.subarray(4 * c, 4 * c + 4);
    const enthalpy = (heat / gasConstant) * (p / rho) + 0.5 * (u * u + v * v);
    const mach2 = (u * u + v * v) / ((gamma * p) / rho);
    return { s: Math.log(p / rho ** gamma) / gamma, h: enthalpy, total: p * (1 + ((gamma - 1) / 2) * mach2) ** (gamma / (gamma - 1)) };
  };
  let [low, total, enthalpy, mass] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY, 0, 0];
  for (let f = mesh.joinCount; f < mesh.faceCount; f++) {
    const into = -space.out[4 * (f - mesh.joinCount)];
    if (!(into > 0)) continue;
    const state = at(mesh.owner[f]);
    low = Math.min(low, state.s);
    total = Math.max(total, state.total);
    enthalpy += into * state.h;
    mass += into;
  }
  if (!(mass > 0)) return [];
  const given = enthalpy / mass;
  let [fall, rise, off, volume] = [0, 0, 0, 0];
  for (let c = 0; c < mesh.cellCount; c++) {
    const state = at(c);
    fall = Math.max(fall, low - state.s);
    rise = Math.max(rise, state.total / total - 1);
    // A shock smears over cells whose enthalpy is off by itself: the mean tells whether it is kept.
    off += Math.abs(state.h / given - 1) * mesh.volumeM2[c];
    volume += mesh.volumeM2[c];
  }
  return [
    { law: "entropy", share: fall },
    { law: "total-pressure", share: rise },
    { law: "total-enthalpy", share: off / volume },
  ];
}

/** How a set-up maps onto itself: where a point goes, and how the velocity there is turned. */
export interface Mirror {
  readonly point: (xM: number, yM: number) => readonly [number, number];
  readonly velocity: readonly [1 | -1, 1 | -1];
}

/** Largest departure of a velocity field from its own mirror image, over the largest velocity. */
export function mirrorLaw(mesh: FaceMesh, u: Float64Array, v: Float64Array, mirror: Mirror): LawReading[] {
  const { centroidM, cellCount } = mesh;
  const points = new Float64Array(2 * cellCount);
  for (let c = 0; c < cellCount; c++) points.set(mirror.point(centroidM[2 * c], centroidM[2 * c + 1]), 2 * c);
  const sampler = samplerOf(mesh);
  const [mu, mv] = [sampler.at(u, points), sampler.at(v, points)];
  let [off, top] = [0, 0];
  for (let c = 0; c < cellCount; c++) {
    off = Math.max(off, Math.hypot(u[c] - mirror.velocity[0] * mu[c], v[c] - mirror.velocity[1] * mv[c]));
    top = Math.max(top, Math.hypot(u[c], v[c]));
  }
  return top > 0 ? [{ law: "mirror", share: off / top }] : [];
}
