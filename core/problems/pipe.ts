import { type RectangleMesh, type RectangleSpec, rectangleMesh } from "../mesh/rectangle.ts";
import { rectangleQuality } from "../mesh/rectangleQuality.ts";
import { revolved } from "../mesh/revolved.ts";
import { pipeEntryDiameters } from "../method/setup/setup.ts";
import { boundaryOf } from "../monitors/boundary.ts";
import { interpolateAt } from "../numeric/lagrange.ts";
import type { FlowPhysics } from "../solver/incompressible/flowLevel.ts";
import { DEFAULT_STEADY_OPTIONS, SteadyFlow } from "../solver/incompressible/steadyFlow.ts";
import { crossing, exact, FLUID, UNIFORM } from "./common.ts";
import { fieldError } from "./errorNorms.ts";
import { centres, type ParameterSpec, type Parameters, type ProblemDefinition, problem } from "./problem.ts";
import type { MeshSpec } from "./runSettings.ts";

const PIPE: readonly ParameterSpec[] = [
  { key: "radiusM", label: "Radius", unit: "m", preset: 0.01, min: 1e-5, max: 10, help: "Inner radius of the pipe." },
  { key: "lengthM", label: "Length", unit: "m", preset: 0.02, min: 1e-5, max: 100, help: "Length computed along the axis." },
  { key: "meanVelocityMS", label: "Mean velocity", unit: "m/s", preset: 0.05, min: 1e-9, max: 100, help: "Flow rate over cross-section." },
  ...FLUID,
];

const sizeOf = (p: Parameters, spec: MeshSpec, periodicX: boolean): RectangleSpec => ({ lengthM: p.lengthM, heightM: p.radiusM, ...spec, periodicX });
const profile = (p: Parameters, r: number) => 2 * p.meanVelocityMS * (1 - (r / p.radiusM) ** 2);
const reynoldsOf = (p: Parameters) => (2 * p.densityKgM3 * p.meanVelocityMS * p.radiusM) / p.viscosityPaS;
type PipeMesh = RectangleMesh;

const revolvedPipe = (p: Parameters, spec: MeshSpec, periodicX: boolean): PipeMesh => {
  const plane = rectangleMesh(sizeOf(p, spec, periodicX));
  return { ...plane, ...revolved(plane) };
};

function pipePhysics(p: Parameters, inflow: "joined" | "uniform"): FlowPhysics {
  const nu = p.viscosityPaS / p.densityKgM3;
  return {
    densityKgM3: p.densityKgM3,
    kinematicViscosity: nu,
    bodyForce: inflow === "joined" ? [(8 * nu * p.meanVelocityMS) / p.radiusM ** 2, 0] : [0, 0],
    boundaries: {
      bottom: { kind: "symmetry" },
      top: { kind: "wall" },
      left: { kind: "velocity", velocity: [p.meanVelocityMS, 0] },
      right: { kind: "outlet", pressureOverDensity: 0 },
    },
  };
}

const column = (flow: SteadyFlow, mesh: PipeMesh, i: number) => {
  const { nx, ny } = centres(mesh);
  return Float64Array.from({ length: ny }, (_, j) => flow.finest.u[j * nx + i]);
};

/** Velocity on the axis from the cells of a column and their mirror images. */
function onAxis(mesh: PipeMesh, values: Float64Array): number {
  const { y } = centres(mesh);
  const at = [-y[1], -y[0], y[0], y[1]];
  return interpolateAt(at, [values[1], values[0], values[0], values[1]], 0);
}

/** Flow rate through the whole pipe at a column, m^3/s. */
function flowRate(mesh: PipeMesh, values: Float64Array): number {
  const lines = mesh.yLinesM;
  let sum = 0;
  for (let j = 0; j < values.length; j++) sum += values[j] * Math.PI * (lines[j + 1] ** 2 - lines[j] ** 2);
  return sum;
}

const shared = {
  physicsWords: { time: "steady", model: "laminar", space: "axisymmetric", compressible: false },
  kind: "exact",
  formalOrder: 2,
  graded: true,
  numerics: {},
  reference: (p) => ({ velocityMS: p.meanVelocityMS, lengthM: 2 * p.radiusM, velocityName: "mean velocity", lengthName: "diameter" }),
  similarity: [
    {
      key: "reynolds",
      label: "Reynolds number",
      preset: 100,
      sets: "meanVelocityMS",
      solve: (re, p) => (re * p.viscosityPaS) / (2 * p.densityKgM3 * p.radiusM),
      note: "By diameter and mean velocity.",
    },
  ],
} satisfies Partial<ProblemDefinition<PipeMesh, SteadyFlow>>;

/** Developed flow in a pipe, ends joined to one another: the first revolved case. */
export const pipe = problem<PipeMesh, SteadyFlow>({
  ...shared,
  id: "pipe",
  title: "Pipe, developed flow",
  tests: "The revolved equations: areas, volumes and shear around an axis. The profile is a parabola.",
  order: "Order 2 in velocity; the wall shear follows from the force balance and is exact.",
  parameters: PIPE,
  quantities: [
    { key: "axisVelocity", name: "velocity on the axis", symbol: "u_0", unit: "m/s", limit: 0.005 },
    { key: "flowRate", name: "flow rate", symbol: "Q", unit: "m^3/s", limit: 0.005 },
    { key: "wallShear", name: "shear on the wall", symbol: "tau_w", unit: "Pa", limit: 0.005, derivative: true },
  ],
  family: { baseNx: 8, baseNy: 8, ratio: 2, count: 3, gradingX: UNIFORM, gradingY: UNIFORM },
  mesh: (p, spec) => revolvedPipe(p, spec, true),
  quickQuality: (p, spec) => rectangleQuality(sizeOf(p, spec, true)),
  simulate: (p, mesh, numerics) => new SteadyFlow(mesh, pipePhysics(p, "joined"), { ...DEFAULT_STEADY_OPTIONS, ...numerics }),
  evaluate: (flow, p, mesh) => {
    const values = column(flow, mesh, 0);
    const b = boundaryOf(mesh, "top");
    let force = 0;
    for (let f = b.start; f < b.start + b.count; f++) force += flow.finest.boundaryTerms(f).shear[0];
    return {
      axisVelocity: onAxis(mesh, values),
      flowRate: flowRate(mesh, values),
      wallShear: (p.densityKgM3 * force) / (p.lengthM * p.radiusM),
    };
  },
  profiles: (flow, p, mesh) => [
    {
      key: "across",
      name: "velocity along a radius",
      abscissa: { name: "r", unit: "m", values: [0, ...centres(mesh).y, p.radiusM] },
      value: { name: "u", unit: "m/s", values: [onAxis(mesh, column(flow, mesh, 0)), ...column(flow, mesh, 0), 0] },
    },
  ],
  errorNorms: (flow, p, mesh) => [fieldError(mesh, "u", "m/s", flow.finest.u, (_x, r) => profile(p, r))],
  yardsticks: (p) => {
    const radii = Array.from({ length: 41 }, (_, k) => (p.radiusM * k) / 40);
    const re = reynoldsOf(p);
    return [
      {
        key: "pipe-exact",
        name: "Exact profile in a pipe",
        kind: "exact",
        source: "Exact solution of the Navier-Stokes equations; White, Viscous Fluid Flow, section 3-3",
        validity: {
          sentence: `Holds for laminar, developed flow: Reynolds number by diameter below about 2300; here ${re.toPrecision(3)}.`,
          inside: re < 2300,
        },
        values: [
          exact("axisVelocity", 2 * p.meanVelocityMS),
          exact("flowRate", Math.PI * p.radiusM ** 2 * p.meanVelocityMS),
          exact("wallShear", (4 * p.viscosityPaS * p.meanVelocityMS) / p.radiusM),
        ],
        profiles: [
          { profileKey: "across", abscissa: radii, value: radii.map((r) => profile(p, r)), standardUncertainty: 0, uncertaintyNote: "exact" },
        ],
      },
    ];
  },
});

/** share of the length at which the developed velocity is read: further on what the outlet asks for reaches back */
const READ_AT = 0.8;
const SHOWN_AT = 0.7;

/** Uniform flow entering a pipe and developing along it. */
export const pipeEntry = problem<PipeMesh, SteadyFlow>({
  ...shared,
  id: "pipe-entry",
  title: "Pipe, developing flow",
  kind: "published",
  tests: "Inflow, outlet and the growth of the layer at the wall, until the parabola is reached near the end.",
  order: "Order 2 at the end of the pipe; the inflow corner is singular, so that the entry length comes out lower.",
  parameters: PIPE.map((s) => (s.key === "lengthM" ? { ...s, preset: 0.24 } : s)),
  quantities: [
    { key: "endVelocity", name: "developed velocity on the axis", symbol: "u_0", unit: "m/s", limit: 0.005 },
    { key: "entryLength", name: "entry length, 99 % of the final velocity", symbol: "L_e/D", unit: "1", limit: 0.05 },
    { key: "pressureDrop", name: "pressure drop over the pipe", symbol: "dp", unit: "Pa", limit: 0.01 },
  ],
  family: { baseNx: 32, baseNy: 8, ratio: 2, count: 3, gradingX: { kind: "low-end", strength: 1.2 }, gradingY: { kind: "high-end", strength: 1.2 } },
  mesh: (p, spec) => revolvedPipe(p, spec, false),
  quickQuality: (p, spec) => rectangleQuality(sizeOf(p, spec, false)),
  simulate: (p, mesh, numerics) => new SteadyFlow(mesh, pipePhysics(p, "uniform"), { ...DEFAULT_STEADY_OPTIONS, ...numerics }),
  evaluate: (flow, p, mesh) => {
    const { nx, x } = centres(mesh);
    const axis = Float64Array.from({ length: nx }, (_, i) => onAxis(mesh, column(flow, mesh, i)));
    const b = boundaryOf(mesh, "left");
    let push = 0;
    let area = 0;
    for (let f = b.start; f < b.start + b.count; f++) {
      push -= flow.finest.boundaryTerms(f).pressure[0];
      area -= mesh.areaVectorM[2 * f];
    }
    return {
      endVelocity: interpolateAt(x, axis, READ_AT * p.lengthM),
      entryLength:
        crossing(
          x,
          axis.map((u) => u - 1.98 * p.meanVelocityMS),
        ) /
        (2 * p.radiusM),
      pressureDrop: (p.densityKgM3 * push) / area,
    };
  },
  second: (flow, p, mesh) => {
    const { nx, x } = centres(mesh);
    const axis = Float64Array.from({ length: nx }, (_, i) => onAxis(mesh, column(flow, mesh, i)));
    const at = (share: number) => interpolateAt(x, axis, share * p.lengthM);
    return [
      {
        quantityKey: "endVelocity",
        name: "developed velocity on the axis",
        unit: "m/s",
        first: at(READ_AT),
        firstBy: `reading it at ${READ_AT} of the length`,
        second: at(SHOWN_AT),
        secondBy: `reading it at ${SHOWN_AT}, where it has developed too`,
      },
    ];
  },
  profiles: (flow, _p, mesh) => [
    {
      key: "axis",
      name: "velocity along the axis",
      abscissa: { name: "x", unit: "m", values: [...centres(mesh).x] },
      value: { name: "u", unit: "m/s", values: Array.from({ length: centres(mesh).nx }, (_, i) => onAxis(mesh, column(flow, mesh, i))) },
    },
  ],
  errorNorms: () => [],
  yardsticks: (p) => {
    const re = reynoldsOf(p);
    const length = pipeEntryDiameters(re);
    const long = (READ_AT * p.lengthM) / (2 * p.radiusM) > 1.1 * length;
    return [
      {
        key: "pipe-entry",
        name: "Developed velocity, and entry length by correlation",
        kind: "table",
        source: "Durst, Ray, Unsal & Bayoumi, J. Fluids Eng. 127 (2005) 1154: L/D = (0.619^1.6 + (0.0567 Re)^1.6)^(1/1.6)",
        validity: {
          sentence: `Laminar, and read behind the entry: ${length.toPrecision(3)} diameters of the ${((READ_AT * p.lengthM) / (2 * p.radiusM)).toPrecision(3)} to the reading.`,
          inside: re < 2300 && long,
        },
        values: [
          {
            quantityKey: "endVelocity",
            value: 2 * p.meanVelocityMS,
            standardUncertainty: 0.002 * p.meanVelocityMS,
            uncertaintyNote: "what is left of the entry at the end",
          },
          {
            quantityKey: "entryLength",
            value: length,
            standardUncertainty: (0.03 * length) / Math.sqrt(3),
            uncertaintyNote: "3 % taken for the fit",
          },
        ],
        profiles: [],
      },
    ];
  },
});
