import { manufacturedFlow, manufacturedGas } from "../manufactured/sources.ts";
import type { FaceMesh } from "../mesh/faceMesh.ts";
import { CELL_SHAPES, type CellShape, shapedRectangle } from "../mesh/shaped.ts";
import { SteadyGas, TransientGas } from "../solver/gas/gasFlow.ts";
import type { FlowPhysics } from "../solver/incompressible/flowLevel.ts";
import { DEFAULT_STEADY_OPTIONS, SteadyFlow } from "../solver/incompressible/steadyFlow.ts";
import { TransientFlow } from "../solver/incompressible/transientFlow.ts";
import { samplerOf } from "../solver/readings/sampler.ts";
import { exact, UNIFORM } from "./common.ts";
import { fieldError } from "./errorNorms.ts";
import { type Formulas, type ParameterSpec, type Parameters, problem } from "./problem.ts";

/** where the fields are read, m */
const POINT = [0.37, 0.61] as const;

const squareMesh = (nx: number, ny: number, shape: CellShape, seed?: number): FaceMesh =>
  shapedRectangle({ lengthM: 1, heightM: 1, nx, ny, gradingX: UNIFORM, gradingY: UNIFORM, periodicX: false }, shape, seed);

const END: ParameterSpec = {
  key: "endTimeS",
  label: "End",
  unit: "s",
  preset: 1,
  min: 1e-9,
  max: 1e6,
  help: "Where a formula uses t, the run is transient and ends at this time.",
};

const fieldsOf = (p: Parameters, f: Formulas) => manufacturedFlow(f.streamFunction, f.pressure, p.viscosityM2S);

export function manufacturedFlowPhysics(p: Parameters, f: Formulas): FlowPhysics {
  const field = fieldsOf(p, f);
  const given = {
    kind: "velocity",
    velocity: (x: number, y: number, t: number) => [field.u.at(x, y, t), field.v.at(x, y, t)] as const,
  } as const;
  return {
    kinematicViscosity: p.viscosityM2S,
    bodyForce: [0, 0],
    boundaries: { left: given, right: given, bottom: given, top: given },
    source: field.source,
    ...(field.usesTime ? { initial: (x: number, y: number) => [field.u.at(x, y, 0), field.v.at(x, y, 0)] as const } : {}),
  };
}

const endOf = (p: Parameters, transient: boolean) => (transient ? p.endTimeS : 0);

/** A flow of one's own choosing, kept up by the sources it needs. */
export const manufacturedFlowProblem = problem<FaceMesh, SteadyFlow | TransientFlow>({
  id: "manufactured-flow",
  title: "Manufactured flow",
  madeUpFluid: true,
  kind: "exact",
  tests: "Any smooth field you write down, made a solution by sources: every term of the incompressible equations on any cell shape.",
  order: "Velocity at order 2 on every cell shape, steady or, where a formula uses t, in time as well.",
  formalOrder: 2,
  physicsWords: { time: "steady", model: "laminar", space: "plane", compressible: false },
  parameters: [
    { key: "viscosityM2S", label: "Kinematic viscosity", unit: "m^2/s", preset: 0.02, min: 1e-9, max: 1e6, help: "The box is 1 m wide and high." },
    END,
  ],
  formulas: [
    {
      key: "streamFunction",
      label: "Stream function in x, y, t (m2/s)",
      preset: "y + 0.2 * sin(pi * x) * sin(pi * y) / pi",
      help: "Velocity is its slope: u = d/dy, v = -d/dx, which keeps mass whatever you write.",
    },
    { key: "pressure", label: "Pressure over density (m2/s2)", preset: "0.3 * cos(pi * x) * cos(pi * y)", help: "Its level does not matter." },
  ],
  quantities: [
    { key: "uPoint", name: "velocity at a fixed point", symbol: "u_P", unit: "m/s", limit: 0.005 },
    { key: "vPoint", name: "cross velocity at a fixed point", symbol: "v_P", unit: "m/s", limit: 0.01 },
  ],
  family: { baseNx: 16, baseNy: 16, ratio: 2, count: 3, gradingX: UNIFORM, gradingY: UNIFORM, shape: "smooth" },
  shapes: CELL_SHAPES,
  graded: false,
  numerics: { courant: 0.5, maxIterations: 5000, dropOrders: 6 },
  reference: () => ({ velocityMS: 1, lengthM: 1, velocityName: "unit velocity", lengthName: "side" }),
  mesh: (_p, spec) => squareMesh(spec.nx, spec.ny, spec.shape ?? "rows", spec.seed),
  simulate: (p, mesh, n, f) => {
    const physics = manufacturedFlowPhysics(p, f);
    if (!physics.initial) return new SteadyFlow(mesh, physics, { ...DEFAULT_STEADY_OPTIONS, ...n });
    return new TransientFlow(mesh, physics, {
      scheme: n.scheme,
      endTimeS: p.endTimeS,
      longestStepS: p.endTimeS / 8,
      courant: n.courant ?? 0.5,
      dropOrders: Math.min(4, n.dropOrders),
      maxIterations: n.maxIterations,
    });
  },
  evaluate: (sim, _p, mesh) => ({
    uPoint: samplerOf(mesh).at(sim.finest.u, POINT)[0],
    vPoint: samplerOf(mesh).at(sim.finest.v, POINT)[0],
  }),
  profiles: () => [],
  errorNorms: (sim, p, mesh, f) => {
    const field = fieldsOf(p, f);
    const t = sim instanceof TransientFlow ? sim.timeS : 0;
    return [
      fieldError(mesh, "u", "m/s", sim.finest.u, (x, y) => field.u.at(x, y, t)),
      fieldError(mesh, "v", "m/s", sim.finest.v, (x, y) => field.v.at(x, y, t)),
      fieldError(mesh, "p", "m^2/s^2", sim.finest.p, (x, y) => field.p.at(x, y, t), "free"),
    ];
  },
  yardsticks: (p, f) => {
    const field = fieldsOf(p, f);
    const t = endOf(p, field.usesTime);
    return [
      {
        key: "manufactured-flow",
        name: "The field that was written down",
        kind: "exact",
        source: "Manufactured; Roache, J. Fluids Eng. 124 (2002) 4",
        validity: { sentence: "Exact by construction.", inside: true },
        values: [exact("uPoint", field.u.at(...POINT, t)), exact("vPoint", field.v.at(...POINT, t))],
        profiles: [],
      },
    ];
  },
});

const gasOf = (p: Parameters) => ({ gamma: p.gamma, gasConstant: p.gasConstant, viscosityPaS: p.viscosityPaS, prandtl: p.prandtl });
const gasFields = (p: Parameters, f: Formulas) => manufacturedGas({ density: f.density, u: f.u, v: f.v, pressure: f.pressure }, gasOf(p));

/** The same for a gas, inviscid or viscous. */
export const manufacturedGasProblem = problem<FaceMesh, SteadyGas | TransientGas>({
  id: "manufactured-gas",
  title: "Manufactured gas flow",
  madeUpFluid: true,
  kind: "exact",
  tests: "Any smooth gas flow you write down, made a solution by sources of mass, momentum and energy; with viscosity, shear and heat flow too.",
  order: "Order 2 in density, velocity and pressure on rows and on distorted cells.",
  formalOrder: 2,
  physicsWords: { time: "steady", model: "laminar", space: "plane", compressible: true },
  parameters: [
    { key: "gamma", label: "Ratio of specific heats", unit: "", preset: 1.4, min: 1.01, max: 2.9, help: "The box is 1 m wide and high." },
    { key: "gasConstant", label: "Gas constant", unit: "J/(kg K)", preset: 287.05, min: 1, max: 1e4, help: "Of the perfect gas." },
    { key: "viscosityPaS", label: "Dynamic viscosity", unit: "Pa s", preset: 0, min: 0, max: 1e4, help: "0 for an inviscid gas." },
    { key: "prandtl", label: "Prandtl number", unit: "", preset: 0.71, min: 0.01, max: 100, help: "Only matters with viscosity." },
    { ...END, preset: 0.002 },
  ],
  formulas: [
    { key: "density", label: "Density in x, y, t (kg/m3)", preset: "1.2 + 0.15 * sin(pi * x) + 0.1 * cos(pi * y)", help: "Must stay positive." },
    { key: "u", label: "Velocity along x (m/s)", preset: "600 + 40 * sin(1.5 * pi * x) - 30 * cos(0.6 * pi * y)", help: "" },
    { key: "v", label: "Velocity along y (m/s)", preset: "500 - 50 * cos(0.5 * pi * x) + 30 * sin(pi * y)", help: "" },
    { key: "pressure", label: "Pressure (Pa)", preset: "100000 + 20000 * cos(2 * pi * x) + 30000 * sin(pi * y)", help: "Must stay positive." },
  ],
  quantities: [
    { key: "densityPoint", name: "density at a fixed point", symbol: "rho_P", unit: "kg/m^3", limit: 0.005 },
    { key: "pressurePoint", name: "pressure at a fixed point", symbol: "p_P", unit: "Pa", limit: 0.005 },
  ],
  family: { baseNx: 16, baseNy: 16, ratio: 2, count: 3, gradingX: UNIFORM, gradingY: UNIFORM, shape: "smooth" },
  shapes: CELL_SHAPES,
  graded: false,
  numerics: { riemannFlux: "contact", limiter: "none", courant: 0.5, dropOrders: 8, maxIterations: 3000 },
  reference: () => ({ velocityMS: 1, lengthM: 1, velocityName: "unit velocity", lengthName: "side" }),
  mesh: (_p, spec) => squareMesh(spec.nx, spec.ny, spec.shape ?? "rows", spec.seed),
  simulate: (p, mesh, n, f) => {
    const field = gasFields(p, f);
    const given = { kind: "state", state: field.state } as const;
    const physics = {
      gas: gasOf(p),
      boundaries: { left: given, right: given, bottom: given, top: given },
      initial: (x: number, y: number) => field.state(field.usesTime ? x : 0.5, field.usesTime ? y : 0.5, 0),
      source: field.source,
    };
    const options = {
      riemannFlux: n.riemannFlux ?? "contact",
      limiter: n.limiter ?? "none",
      maxIterations: n.maxIterations,
      dropOrders: n.dropOrders,
    };
    if (!field.usesTime) return new SteadyGas(mesh, physics, options);
    return new TransientGas(mesh, physics, { ...options, endTimeS: p.endTimeS, courant: n.courant ?? 0.5 });
  },
  evaluate: (sim, _p, mesh) => {
    const take = (k: number) => Float64Array.from({ length: mesh.cellCount }, (_, c) => sim.space.w[4 * c + k]);
    return { densityPoint: samplerOf(mesh).at(take(0), POINT)[0], pressurePoint: samplerOf(mesh).at(take(3), POINT)[0] };
  },
  profiles: () => [],
  errorNorms: (sim, p, mesh, f) => {
    const field = gasFields(p, f);
    const t = sim instanceof TransientGas ? sim.timeS : 0;
    return (
      [
        ["density", "kg/m^3", 0],
        ["u", "m/s", 1],
        ["v", "m/s", 2],
        ["p", "Pa", 3],
      ] as const
    ).map(([name, unit, k]) =>
      fieldError(
        mesh,
        name,
        unit,
        Float64Array.from({ length: mesh.cellCount }, (_, c) => sim.space.w[4 * c + k]),
        (x, y) => field.state(x, y, t)[k],
      ),
    );
  },
  yardsticks: (p, f) => {
    const field = gasFields(p, f);
    const state = field.state(...POINT, endOf(p, field.usesTime));
    return [
      {
        key: "manufactured-gas",
        name: "The field that was written down",
        kind: "exact",
        source: "Manufactured; Roache, J. Fluids Eng. 124 (2002) 4",
        validity: { sentence: "Exact by construction.", inside: true },
        values: [exact("densityPoint", state[0]), exact("pressurePoint", state[3])],
        profiles: [],
      },
    ];
  },
});
