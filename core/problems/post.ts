import { type Block, joinBlocks } from "../mesh/blocks.ts";
import type { FaceMesh } from "../mesh/faceMesh.ts";
import { gradingFunction } from "../mesh/grading.ts";
import { boundaryOf, forceOn } from "../monitors/boundary.ts";
import type { QuantitySpec } from "../records/quantity.ts";
import type { Yardstick } from "../records/yardstick.ts";
import type { FlowLevel, FlowPhysics } from "../solver/incompressible/flowLevel.ts";
import { DEFAULT_STEADY_OPTIONS, SteadyFlow } from "../solver/incompressible/steadyFlow.ts";
import { TransientFlow } from "../solver/incompressible/transientFlow.ts";
import { forceInBox } from "../solver/readings/controlBox.ts";
import { FLUID, STEADY_PLANE } from "./common.ts";
import { type ParameterSpec, type Parameters, type ProblemDefinition, problem, type RunRecord } from "./problem.ts";
import type { MeshSpec } from "./runSettings.ts";

/** The channel in post diameters: height, length, and where the post stands, a little below the middle. */
const HEIGHT = 4.1;
const LENGTH = 22;
const CENTRE = [2, 2] as const;
/** cells downstream for each cell along a side of the square around the post */
const DOWNSTREAM = 2.25;

const reynoldsOf = (p: Parameters) => (p.densityKgM3 * p.meanVelocityMS * p.diameterM) / p.viscosityPaS;

export function postMesh(p: Parameters, spec: MeshSpec): FaceMesh {
  const d = p.diameterM;
  const [cx, cy] = [CENTRE[0] * d, CENTRE[1] * d];
  const side = Math.max(2, Math.round(spec.nx / 4));
  const corners = [
    [HEIGHT * d, 0],
    [HEIGHT * d, HEIGHT * d],
    [0, HEIGHT * d],
    [0, 0],
  ] as const;
  const outer = [undefined, "ceiling", "inlet", "floor"] as const;
  const alongS = gradingFunction(spec.gradingY);
  const ring: Block[] = outer.map((name, k) => ({
    nx: spec.ny,
    ny: side,
    alongS,
    place: (s, t) => {
      const angle = (k - 0.5 + t) * (Math.PI / 2);
      const [ax, ay] = corners[k];
      const [bx, by] = corners[(k + 1) % 4];
      const x = cx + 0.5 * d * Math.cos(angle);
      const y = cy + 0.5 * d * Math.sin(angle);
      return [x + s * (ax + t * (bx - ax) - x), y + s * (ay + t * (by - ay) - y)];
    },
    sides: { left: "post", ...(name ? { right: name } : {}) },
  }));
  const behind = gradingFunction({ kind: "low-end", strength: 0.9 });
  return joinBlocks([
    ...ring,
    {
      nx: Math.max(2, Math.round(side * DOWNSTREAM)),
      ny: side,
      alongS: behind,
      place: (s, t) => [(HEIGHT + s * (LENGTH - HEIGHT)) * d, t * HEIGHT * d],
      sides: { bottom: "floor", top: "ceiling", right: "outlet" },
    },
  ]);
}

export function postPhysics(p: Parameters): FlowPhysics {
  const height = HEIGHT * p.diameterM;
  return {
    densityKgM3: p.densityKgM3,
    kinematicViscosity: p.viscosityPaS / p.densityKgM3,
    bodyForce: [0, 0],
    boundaries: {
      inlet: { kind: "velocity", velocity: (_x, y) => [6 * p.meanVelocityMS * (y / height) * (1 - y / height), 0] },
      outlet: { kind: "outlet", pressureOverDensity: 0 },
      floor: { kind: "wall" },
      ceiling: { kind: "wall" },
      post: { kind: "wall" },
    },
  };
}

/** Pressure over density on the post at an angle, from the faces that meet there. */
function pressureAt(mesh: FaceMesh, level: FlowLevel, p: Parameters, angle: number): number {
  const b = boundaryOf(mesh, "post");
  const [cx, cy] = [CENTRE[0] * p.diameterM, CENTRE[1] * p.diameterM];
  const rows = Array.from({ length: b.count }, (_, k) => {
    const f = b.start + k;
    const at = Math.atan2(mesh.faceCentreM[2 * f + 1] - cy, mesh.faceCentreM[2 * f] - cx);
    return { away: Math.abs(Math.atan2(Math.sin(at - angle), Math.cos(at - angle))), pressure: level.boundary.p[f - mesh.joinCount] };
  }).sort((a, c) => a.away - c.away);
  if (rows[0].away < 0.1 * rows[1].away) return rows[0].pressure;
  return (rows[0].pressure + rows[1].pressure) / 2;
}

function coefficients(level: FlowLevel, p: Parameters, mesh: FaceMesh) {
  const force = forceOn(mesh, level, "post").total;
  const scale = 0.5 * p.meanVelocityMS ** 2 * p.diameterM;
  return {
    drag: force[0] / scale,
    lift: force[1] / scale,
    pressureDifference: (pressureAt(mesh, level, p, Math.PI) - pressureAt(mesh, level, p, 0)) / p.meanVelocityMS ** 2,
  };
}

const PARAMETERS: readonly ParameterSpec[] = [
  {
    key: "diameterM",
    label: "Diameter of the post",
    unit: "m",
    preset: 0.02,
    min: 1e-6,
    max: 10,
    help: "The channel is 4.1 diameters high and 22 long.",
  },
  {
    key: "meanVelocityMS",
    label: "Mean velocity of the inflow",
    unit: "m/s",
    preset: (20 * 1.74e-5) / (1.274 * 0.02),
    min: 1e-9,
    max: 1000,
    help: "A developed profile enters.",
  },
  ...FLUID,
];

const WATCHED: readonly QuantitySpec[] = [
  { key: "drag", name: "drag coefficient", symbol: "c_D", unit: "1", limit: 0.005, derivative: true },
  { key: "lift", name: "lift coefficient", symbol: "c_L", unit: "1", limit: 0.05, derivative: true },
  { key: "pressureDifference", name: "pressure difference over the post", symbol: "dp/(rho U^2)", unit: "1", limit: 0.01 },
];

const shared = {
  kind: "published",
  formalOrder: 2,
  cellCount: (_p: Parameters, spec: MeshSpec) => {
    const side = Math.max(2, Math.round(spec.nx / 4));
    return 4 * side * spec.ny + side * Math.max(2, Math.round(side * DOWNSTREAM));
  },
  counts: { nx: "cells around the post", ny: "cells from the post to the walls" },
  graded: true,
  reference: (p) => ({ velocityMS: p.meanVelocityMS, lengthM: p.diameterM, velocityName: "mean velocity", lengthName: "diameter" }),
  mesh: postMesh,
} satisfies Partial<ProblemDefinition<FaceMesh, SteadyFlow>>;

const reynoldsNumber = (preset: number) => [
  {
    key: "reynolds",
    label: "Reynolds number",
    preset,
    sets: "meanVelocityMS",
    solve: (re: number, p: Parameters) => (re * p.viscosityPaS) / (p.densityKgM3 * p.diameterM),
    note: `By diameter and mean velocity; published at ${preset}.`,
  },
];

const SOURCE = "Schaefer & Turek, Notes Numer. Fluid Mech. 52 (1996) 547";

function table(p: Parameters, reynolds: number, values: Yardstick["values"], source: string): Yardstick[] {
  const re = reynoldsOf(p);
  if (Math.abs(re / reynolds - 1) > 0.2) return [];
  return [
    {
      key: `post-${reynolds}`,
      name: `Post in a channel, Re ${reynolds}`,
      kind: "table",
      source,
      validity: {
        sentence: `Holds at Re ${reynolds} by diameter and mean velocity; here ${re.toPrecision(4)}.`,
        inside: Math.abs(re / reynolds - 1) < 0.002,
      },
      values,
      profiles: [],
    },
  ];
}

/** A round post in a channel, steady. */
export const post = problem<FaceMesh, SteadyFlow>({
  ...shared,
  id: "post",
  title: "Post in a channel, steady",
  tests: "Forces on a curved wall on a mapped mesh: pressure and shear together, and a lift a thousand times smaller than the drag.",
  order: "Order 2 in drag and pressure difference; the lift is small and comes last.",
  physicsWords: STEADY_PLANE,
  parameters: PARAMETERS,
  quantities: WATCHED,
  family: { baseNx: 64, baseNy: 20, ratio: 2, count: 3, gradingX: { kind: "uniform" }, gradingY: { kind: "low-end", strength: 1.6 } },
  numerics: {},
  similarity: reynoldsNumber(20),
  simulate: (p, mesh, numerics) => new SteadyFlow(mesh, postPhysics(p), { ...DEFAULT_STEADY_OPTIONS, ...numerics }),
  evaluate: (flow, p, mesh) => coefficients(flow.finest, p, mesh),
  second: (flow, p, mesh) => {
    const d = p.diameterM;
    const box = { fromM: [0.9 * d, 0.7 * d], toM: [3.4 * d, 3.3 * d] } as const;
    const { u, v, p: pressure } = flow.finest;
    const force = forceInBox(mesh, { u, v, p: pressure, kinematicViscosity: p.viscosityPaS / p.densityKgM3 }, box);
    const { drag } = coefficients(flow.finest, p, mesh);
    const second = force[0] / (0.5 * p.meanVelocityMS ** 2 * d);
    return [
      {
        quantityKey: "drag",
        name: "drag coefficient",
        unit: "1",
        first: drag,
        firstBy: "pressure and shear on the post",
        second,
        secondBy: "the momentum through a box around it",
      },
    ];
  },
  profiles: () => [],
  errorNorms: () => [],
  yardsticks: (p) => {
    const digits = (quantityKey: string, value: number) => ({
      quantityKey,
      value,
      standardUncertainty: 1e-6 * Math.abs(value),
      uncertaintyNote: "spectral, digits as printed",
    });
    return table(
      p,
      20,
      [digits("drag", 5.57953523384), digits("lift", 0.010618948146), digits("pressureDifference", 0.11752016697 / 0.04)],
      `${SOURCE}; digits from Nabh, PhD thesis, Heidelberg (1998)`,
    );
  },
});

/** Largest value of a record after its start-up, refined by a parabola. */
function peak(values: readonly number[], from: number): number {
  let best = Number.NEGATIVE_INFINITY;
  for (let k = Math.max(1, from); k + 1 < values.length; k++) {
    const [a, b, c] = [values[k - 1], values[k], values[k + 1]];
    if (!(b >= a && b >= c)) continue;
    const bend = a - 2 * b + c;
    best = Math.max(best, bend < 0 ? b - (a - c) ** 2 / (8 * bend) : b);
  }
  return best;
}

/** Drag and lift peaks and the frequency, from the last full cycles of the lift. */
function cycles(record: RunRecord, p: Parameters): Record<string, number> {
  const t = record.timeS ?? [];
  const lift = record.quantities.lift;
  const last = t.findIndex((x) => x > 0.6 * (t[t.length - 1] ?? 0));
  const tail = lift.slice(last);
  const mean = tail.reduce((s, v) => s + v, 0) / Math.max(1, tail.length);
  const rises: number[] = [];
  for (let k = Math.max(1, last); k < lift.length; k++) {
    const [a, b] = [lift[k - 1] - mean, lift[k] - mean];
    if (a < 0 && b >= 0) rises.push(t[k - 1] + ((t[k] - t[k - 1]) * -a) / (b - a));
  }
  const none = { dragPeak: Number.NaN, liftPeak: Number.NaN, strouhal: Number.NaN };
  if (rises.length < 3) return none;
  const period = (rises[rises.length - 1] - rises[0]) / (rises.length - 1);
  return { dragPeak: peak(record.quantities.drag, last), liftPeak: peak(lift, last), strouhal: p.diameterM / (period * p.meanVelocityMS) };
}

/** The same post when its wake sheds eddies. */
export const postShedding = problem<FaceMesh, TransientFlow>({
  ...shared,
  id: "post-shedding",
  title: "Post in a channel, shedding",
  tests: "A flow that never settles: forces that swing at a frequency of their own, in space and time at once.",
  order: "Order 2 in space and time; peaks and frequency need several full cycles.",
  physicsWords: { time: "transient", model: "laminar", space: "plane", compressible: false },
  parameters: [
    ...PARAMETERS.map((s) => (s.key === "meanVelocityMS" ? { ...s, preset: 5 * s.preset } : s)),
    {
      key: "endTimeS",
      label: "End",
      unit: "s",
      preset: 32,
      min: 1e-6,
      max: 1e6,
      help: "About a hundred diameters at the mean velocity, so that the wake forgets its start.",
    },
  ],
  quantities: [
    { key: "dragPeak", name: "largest drag coefficient", symbol: "c_D,max", unit: "1", limit: 0.02, derivative: true },
    { key: "liftPeak", name: "largest lift coefficient", symbol: "c_L,max", unit: "1", limit: 0.05, derivative: true },
    { key: "strouhal", name: "Strouhal number", symbol: "St", unit: "1", limit: 0.02 },
    ...WATCHED,
  ],
  summarised: ["dragPeak", "liftPeak", "strouhal"],
  family: { baseNx: 48, baseNy: 16, ratio: 1.5, count: 3, gradingX: { kind: "uniform" }, gradingY: { kind: "low-end", strength: 1.6 } },
  numerics: { dropOrders: 2, maxIterations: 50_000, courant: 2 },
  similarity: reynoldsNumber(100),
  simulate: (p, mesh, n) =>
    new TransientFlow(mesh, postPhysics(p), {
      scheme: n.scheme,
      endTimeS: p.endTimeS,
      longestStepS: (0.05 * p.diameterM) / p.meanVelocityMS,
      courant: n.courant ?? 2,
      dropOrders: n.dropOrders,
      maxIterations: n.maxIterations,
    }),
  evaluate: (flow, p, mesh) => coefficients(flow.finest, p, mesh),
  summarise: cycles,
  profiles: () => [],
  errorNorms: () => [],
  yardsticks: (p) => {
    const between = (quantityKey: string, low: number, high: number) => ({
      quantityKey,
      value: (low + high) / 2,
      standardUncertainty: (high - low) / 2 / Math.sqrt(3),
      uncertaintyNote: `published interval ${low} to ${high}`,
    });
    return table(p, 100, [between("dragPeak", 3.22, 3.24), between("liftPeak", 0.99, 1.01), between("strouhal", 0.295, 0.305)], SOURCE);
  },
});
