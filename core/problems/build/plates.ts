import { platesFlowRate, platesVelocity } from "../../exact/plates.ts";
import { type RectangleMesh, type RectangleSpec, rectangleMesh } from "../../mesh/rectangle.ts";
import { rectangleQuality } from "../../mesh/rectangleQuality.ts";
import { interpolateAt } from "../../numeric/lagrange.ts";
import type { ErrorNorms, Profile } from "../../records/profile.ts";
import type { FlowPhysics } from "../../solver/incompressible/flowPhysics.ts";
import { DEFAULT_STEADY_OPTIONS, SteadyFlow } from "../../solver/incompressible/steadyFlow.ts";
import type { PlatesParameters } from "../describe/plates.ts";
import { plates as descriptionPlates, ENDS, flowOf, largestVelocity } from "../describe/plates.ts";
import type { MeshSpec } from "../describe/runSettings.ts";
import { plates as truthPlates } from "../truth/plates.ts";
import { fieldError } from "./errorNorms.ts";
import { centres, problem } from "./problem.ts";

/** Steady flow between two plates, one sliding, with a pressure gradient: the whole field is known exactly. */
export const plates = problem<PlatesParameters, RectangleMesh, SteadyFlow>({
  ...descriptionPlates,
  ...truthPlates,
  mesh: (p, spec) => rectangleMesh(sizeOf(p, spec)),
  quickQuality: (p, spec) => rectangleQuality(sizeOf(p, spec)),
  simulate: (p, mesh, numerics) => new SteadyFlow(mesh, platesPhysics(p), { ...DEFAULT_STEADY_OPTIONS, ...numerics }),
  evaluate: (flow, p, mesh) => {
    const column = lastColumn(flow, p, mesh);
    const { y } = centres(mesh);
    const lines = mesh.yLinesM;
    let flowRate = 0;
    for (let j = 0; j < column.length; j++) flowRate += column[j] * (lines[j + 1] - lines[j]);
    return {
      flowRate,
      shearResting: -meanShear(flow, mesh, "bottom") * -p.densityKgM3,
      shearSliding: meanShear(flow, mesh, "top") * -p.densityKgM3,
      midVelocity: interpolateAt(y, column, p.gapM / 2),
    };
  },
  mirror: (p) => (p.wallSpeedMS === 0 ? { point: (x, y) => [x, p.gapM - y], velocity: [1, -1] } : undefined),
  profiles: (flow, p, mesh) => [acrossProfile(flow, p, mesh)],
  errorNorms: (flow, p) => [velocityError(flow, p)],
});

const sizeOf = (p: PlatesParameters, spec: MeshSpec): RectangleSpec => ({
  lengthM: p.lengthM,
  heightM: p.gapM,
  ...spec,
  periodicX: p.ends === ENDS.joined,
});

/** Flow between the plates as the solver takes it. */
export function platesPhysics(p: PlatesParameters): FlowPhysics {
  const f = flowOf(p);
  const mean = platesFlowRate(f) / p.gapM;
  const inflow = p.ends === ENDS.uniform ? ([mean, 0] as const) : (_x: number, y: number) => [platesVelocity(f, y), 0] as const;
  return {
    densityKgM3: p.densityKgM3,
    kinematicViscosity: p.viscosityPaS / p.densityKgM3,
    bodyForce: p.ends === ENDS.joined ? [-p.pressureGradientPaM / p.densityKgM3, 0] : [0, 0],
    boundaries: {
      left: { kind: "velocity", velocity: inflow },
      right: { kind: "outlet", pressureOverDensity: 0 },
      bottom: { kind: "wall" },
      top: { kind: "moving-wall", velocity: [p.wallSpeedMS, 0] },
    },
  };
}

/** Velocity along the plates in the last column of cells, where the flow is most developed. */
function lastColumn(flow: SteadyFlow, p: PlatesParameters, mesh: RectangleMesh): Float64Array {
  const { nx, ny } = centres(mesh);
  const i = p.ends === ENDS.joined ? 0 : nx - 2;
  return Float64Array.from({ length: ny }, (_, j) => flow.finest.u[j * nx + i]);
}

/** Mean viscous flux of x momentum out of the fluid through a plate, over density, at the developed end, m^2/s^2. */
function meanShear(flow: SteadyFlow, mesh: RectangleMesh, name: string): number {
  const boundary = flow.mesh.boundaries.find((b) => b.name === name);
  if (!boundary) throw new RangeError(`No boundary ${name}.`);
  const from = mesh.periodicX ? 0 : boundary.count - 2;
  const to = mesh.periodicX ? boundary.count : boundary.count - 1;
  let force = 0;
  let length = 0;
  for (let k = from; k < to; k++) {
    const f = boundary.start + k;
    force += flow.finest.boundaryTerms(f).shear[0];
    length += Math.abs(flow.mesh.areaVectorM[2 * f + 1]);
  }
  return force / length;
}

function acrossProfile(flow: SteadyFlow, p: PlatesParameters, mesh: RectangleMesh): Profile {
  const { y } = centres(mesh);
  return {
    key: "across",
    name: "velocity across the gap",
    abscissa: { name: "y", unit: "m", values: [0, ...y, p.gapM] },
    value: { name: "u", unit: "m/s", values: [0, ...lastColumn(flow, p, mesh), p.wallSpeedMS] },
  };
}

function velocityError(flow: SteadyFlow, p: PlatesParameters): ErrorNorms {
  const f = flowOf(p);
  return { ...fieldError(flow.mesh, "u", "m/s", flow.finest.u, (_x, y) => platesVelocity(f, y)), scale: largestVelocity(p) };
}
