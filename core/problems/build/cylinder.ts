import { type Block, joinBlocks } from "../../mesh/blocks.ts";
import type { FaceMesh } from "../../mesh/faceMesh.ts";
import { gradingFunction } from "../../mesh/grading.ts";
import { boundaryOf, forceOn } from "../../monitors/boundary.ts";
import type { FlowLevel } from "../../solver/incompressible/flowLevel.ts";
import type { FlowPhysics } from "../../solver/incompressible/flowPhysics.ts";
import { DEFAULT_STEADY_OPTIONS, SteadyFlow } from "../../solver/incompressible/steadyFlow.ts";
import { TransientFlow } from "../../solver/incompressible/transientFlow.ts";
import { forceInBox } from "../../solver/readings/controlBox.ts";
import type { CylinderParameters, SheddingParameters } from "../describe/cylinder.ts";
import { DOWNSTREAM, cylinder as descriptionCylinder, cylinderShedding as descriptionCylinderShedding } from "../describe/cylinder.ts";
import type { MeshSpec } from "../describe/runSettings.ts";
import { cylinder as truthCylinder, cylinderShedding as truthCylinderShedding } from "../truth/cylinder.ts";
import type { ProblemDefinition } from "./problem.ts";
import { problem, type RunRecord } from "./problem.ts";

/** The channel in post diameters: height, length, and where the post stands, a little below the middle. */
const HEIGHT = 4.1;

const LENGTH = 22;

const CENTRE = [2, 2] as const;

/** Blocks around the post and a stretched one downstream. */
export function cylinderMesh(p: CylinderParameters, spec: MeshSpec): FaceMesh {
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

/** A parabola comes into the channel; the post and the walls are at rest; a given pressure at the end. */
export function cylinderPhysics(p: CylinderParameters): FlowPhysics {
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
function pressureAt(mesh: FaceMesh, level: FlowLevel, p: CylinderParameters, angle: number): number {
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

function coefficients(level: FlowLevel, p: CylinderParameters, mesh: FaceMesh) {
  const force = forceOn(mesh, level, "post").total;
  const scale = 0.5 * p.meanVelocityMS ** 2 * p.diameterM;
  return {
    drag: force[0] / scale,
    lift: force[1] / scale,
    pressureDifference: (pressureAt(mesh, level, p, Math.PI) - pressureAt(mesh, level, p, 0)) / p.meanVelocityMS ** 2,
  };
}

const shared = {
  mesh: cylinderMesh,
} satisfies Partial<ProblemDefinition<CylinderParameters, FaceMesh, SteadyFlow>>;

/** A round post in a channel, steady. */
export const cylinder = problem<CylinderParameters, FaceMesh, SteadyFlow>({
  ...descriptionCylinder,
  ...truthCylinder,
  ...shared,
  simulate: (p, mesh, numerics) => new SteadyFlow(mesh, cylinderPhysics(p), { ...DEFAULT_STEADY_OPTIONS, ...numerics }),
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
function cycles(record: RunRecord, p: CylinderParameters): Record<string, number> {
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
export const cylinderShedding = problem<SheddingParameters, FaceMesh, TransientFlow>({
  ...descriptionCylinderShedding,
  ...truthCylinderShedding,
  ...shared,
  simulate: (p, mesh, n) =>
    new TransientFlow(mesh, cylinderPhysics(p), {
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
});
