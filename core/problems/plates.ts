import { type PlatesFlow, platesFlowRate, platesShear, platesVelocity } from "../exact/plates.ts";
import { type RectangleMesh, type RectangleSpec, rectangleMesh } from "../mesh/rectangle.ts";
import { rectangleQuality } from "../mesh/rectangleQuality.ts";
import { interpolateAt } from "../numeric/lagrange.ts";
import type { ErrorNorms, Profile } from "../records/profile.ts";
import type { Yardstick } from "../records/yardstick.ts";
import type { FlowPhysics } from "../solver/incompressible/flowLevel.ts";
import { DEFAULT_STEADY_OPTIONS, SteadyFlow } from "../solver/incompressible/steadyFlow.ts";
import { fieldError } from "./errorNorms.ts";
import { centres, type Parameters, problem } from "./problem.ts";
import type { MeshSpec } from "./runSettings.ts";

const flowOf = (p: Parameters): PlatesFlow => ({
  gapM: p.gapM,
  wallSpeedMS: p.wallSpeedMS,
  pressureGradientPaM: p.pressureGradientPaM,
  viscosityPaS: p.viscosityPaS,
});

const ENDS = { joined: 0, developed: 1, uniform: 2 } as const;

/** Steady flow between two plates, one sliding, with a pressure gradient: the whole field is known exactly. */
export const plates = problem<RectangleMesh, SteadyFlow>({
  id: "plates",
  title: "Flow between plates, one sliding",
  kind: "exact",
  tests:
    "Diffusion, wall shear and the pressure gradient. Central differences are exact for a straight profile; a curved one must come out at order 2.",
  parameters: [
    {
      key: "gapM",
      label: "Gap between the plates",
      unit: "m",
      preset: 0.01,
      min: 1e-5,
      max: 10,
      help: "Distance from the resting to the sliding plate.",
    },
    { key: "lengthM", label: "Length of the piece", unit: "m", preset: 0.02, min: 1e-5, max: 100, help: "Length computed along the plates." },
    { key: "wallSpeedMS", label: "Speed of the upper plate", unit: "m/s", preset: 0.1, min: -1000, max: 1000, help: "Along the plates." },
    {
      key: "pressureGradientPaM",
      label: "Pressure gradient",
      unit: "Pa/m",
      preset: 0,
      min: -1e6,
      max: 1e6,
      help: "dp/dx; negative drives the fluid along x.",
    },
    { key: "densityKgM3", label: "Density", unit: "kg/m^3", preset: 1.274, min: 1e-3, max: 2e4, help: "Of the fluid, constant." },
    { key: "viscosityPaS", label: "Dynamic viscosity", unit: "Pa s", preset: 1.74e-5, min: 1e-8, max: 1e4, help: "Of the fluid, constant." },
    {
      key: "ends",
      label: "Ends",
      unit: "",
      preset: 0,
      min: 0,
      max: 2,
      help: "Joined ends apply the gradient as a force; the others let fluid in at the left and out at the right at fixed pressure.",
      choices: [
        { value: 0, name: "joined to one another" },
        { value: 1, name: "developed inflow, outlet" },
        { value: 2, name: "uniform inflow, outlet" },
      ],
    },
  ],
  quantities: [
    { key: "flowRate", name: "flow rate per depth", symbol: "Q", unit: "m^2/s", limit: 0.005 },
    { key: "shearResting", name: "shear on the resting plate", symbol: "tau_0", unit: "Pa", limit: 0.005, derivative: true },
    { key: "shearSliding", name: "shear on the sliding plate", symbol: "tau_H", unit: "Pa", limit: 0.005, derivative: true },
    { key: "midVelocity", name: "velocity halfway", symbol: "u_mid", unit: "m/s", limit: 0.005 },
  ],
  family: { baseNx: 8, baseNy: 8, ratio: 2, count: 3, gradingX: { kind: "uniform" }, gradingY: { kind: "uniform" } },
  formalOrder: 2,
  order: "Order 2 in velocity and flow rate; a straight profile is exact.",
  physicsWords: { time: "steady", model: "laminar", space: "plane", compressible: false },
  graded: true,
  numerics: {},
  reference: (p) => ({ velocityMS: largestVelocity(p), lengthM: p.gapM, velocityName: "largest velocity", lengthName: "gap" }),
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
  yardsticks: (p) => [exactYardstick(p)],
});

const sizeOf = (p: Parameters, spec: MeshSpec): RectangleSpec => ({
  lengthM: p.lengthM,
  heightM: p.gapM,
  ...spec,
  periodicX: p.ends === ENDS.joined,
});

/** Flow between the plates as the solver takes it. */
export function platesPhysics(p: Parameters): FlowPhysics {
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

/** Largest speed anywhere in the gap, m/s. */
function largestVelocity(p: Parameters): number {
  const f = flowOf(p);
  const turning = f.gapM / 2 - (f.wallSpeedMS * f.viscosityPaS) / (f.gapM * f.pressureGradientPaM || Number.NaN);
  const candidates = [Math.abs(f.wallSpeedMS)];
  if (turning > 0 && turning < f.gapM) candidates.push(Math.abs(platesVelocity(f, turning)));
  return Math.max(...candidates);
}

/** Velocity along the plates in the last column of cells, where the flow is most developed. */
function lastColumn(flow: SteadyFlow, p: Parameters, mesh: RectangleMesh): Float64Array {
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

function acrossProfile(flow: SteadyFlow, p: Parameters, mesh: RectangleMesh): Profile {
  const { y } = centres(mesh);
  return {
    key: "across",
    name: "velocity across the gap",
    abscissa: { name: "y", unit: "m", values: [0, ...y, p.gapM] },
    value: { name: "u", unit: "m/s", values: [0, ...lastColumn(flow, p, mesh), p.wallSpeedMS] },
  };
}

function velocityError(flow: SteadyFlow, p: Parameters): ErrorNorms {
  const f = flowOf(p);
  return { ...fieldError(flow.mesh, "u", "m/s", flow.finest.u, (_x, y) => platesVelocity(f, y)), scale: largestVelocity(p) };
}

function exactYardstick(p: Parameters): Yardstick {
  const f = flowOf(p);
  const shear = platesShear(f);
  const values = {
    flowRate: platesFlowRate(f),
    shearResting: shear.resting,
    shearSliding: shear.sliding,
    midVelocity: platesVelocity(f, p.gapM / 2),
  };
  const at = Array.from({ length: 41 }, (_, k) => (p.gapM * k) / 40);
  const reynolds = (p.densityKgM3 * largestVelocity(p) * p.gapM) / p.viscosityPaS;
  return {
    key: "plates-exact",
    name: "Exact profile between plates",
    kind: "exact",
    source: "Exact solution of the Navier-Stokes equations; White, Viscous Fluid Flow, section 3-2",
    validity: {
      sentence: `Holds for laminar, developed flow: Reynolds number by gap below about 1500; here ${reynolds.toPrecision(3)}.`,
      inside: reynolds < 1500,
    },
    values: Object.entries(values).map(([quantityKey, value]) => ({ quantityKey, value, standardUncertainty: 0, uncertaintyNote: "exact" })),
    profiles: [{ profileKey: "across", abscissa: at, value: at.map((y) => platesVelocity(f, y)), standardUncertainty: 0, uncertaintyNote: "exact" }],
  };
}
