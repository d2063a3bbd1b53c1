import { CELL_SHAPES } from "../../mesh/shapes.ts";
import { UNIFORM } from "./common.ts";
import type { ParameterSpec, ProblemDescription, ValuesOf } from "./problem.ts";

const END = {
  key: "endTimeS",
  label: "End",
  unit: "s",
  preset: 1,
  min: 1e-9,
  max: 1e6,
  help: "Where a formula uses t, the run is transient and ends at this time.",
} as const satisfies ParameterSpec;

const FLOW_PARAMETERS = [
  { key: "viscosityM2S", label: "Kinematic viscosity", unit: "m^2/s", preset: 0.02, min: 1e-9, max: 1e6, help: "The box is 1 m wide and high." },
  END,
] as const satisfies readonly ParameterSpec[];

export const REVOLVED = 1;

const ROUND = {
  key: "round",
  label: "Room",
  unit: "",
  preset: 0,
  min: 0,
  max: 1,
  help: "A box of 1 m, or the ring it sweeps round an axis 1 m below it; y is then the radius, from 1 to 2.",
  choices: [
    { value: 0, name: "plane box, x and y from 0 to 1" },
    { value: REVOLVED, name: "ring round the x axis, radius y from 1 to 2" },
  ],
} as const satisfies ParameterSpec;

const GAS_PARAMETERS = [
  { key: "gamma", label: "Ratio of specific heats", unit: "", preset: 1.4, min: 1.01, max: 2.9, help: "The box is 1 m wide and high." },
  { key: "gasConstant", label: "Gas constant", unit: "J/(kg K)", preset: 287.05, min: 1, max: 1e4, help: "Of the perfect gas." },
  { key: "viscosityPaS", label: "Dynamic viscosity", unit: "Pa s", preset: 0, min: 0, max: 1e4, help: "0 for an inviscid gas." },
  { key: "prandtl", label: "Prandtl number", unit: "", preset: 0.71, min: 0.01, max: 100, help: "Only matters with viscosity." },
  ROUND,
  { ...END, preset: 0.002 },
] as const satisfies readonly ParameterSpec[];

const CARRIED_PARAMETERS = [
  { ...FLOW_PARAMETERS[0], help: "Of the flow that carries." },
  {
    key: "diffusivityM2S",
    label: "Diffusivity of what is carried",
    unit: "m^2/s",
    preset: 0.05,
    min: 1e-9,
    max: 1e6,
    help: "Of heat: conductivity over density and heat capacity.",
  },
  ROUND,
  END,
] as const satisfies readonly ParameterSpec[];

export type ManufacturedCarriedParameters = ValuesOf<typeof CARRIED_PARAMETERS>;
export type ManufacturedFlowParameters = ValuesOf<typeof FLOW_PARAMETERS>;
export type ManufacturedGasParameters = ValuesOf<typeof GAS_PARAMETERS>;

/** A flow of one's own choosing, kept up by the sources it needs. */
export const manufacturedFlowProblem: ProblemDescription<ManufacturedFlowParameters> = {
  id: "manufactured-flow",
  title: "Manufactured flow",
  madeUpFluid: true,
  kind: "exact",
  tests: "Any smooth field you write down, made a solution by sources: every term of the incompressible equations on any cell shape.",
  order: "Velocity at order 2 on every cell shape, steady or, where a formula uses t, in time as well.",
  formalOrder: 2,
  physicsWords: { time: "steady", model: "laminar", space: "plane", compressible: false },
  parameters: FLOW_PARAMETERS,
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
};

/** Heat or a trace, carried by a flow of one's own choosing or conducted in one at rest. */
export const manufacturedCarriedProblem: ProblemDescription<ManufacturedCarriedParameters> = {
  id: "manufactured-carried",
  title: "Manufactured heat or trace",
  madeUpFluid: true,
  kind: "exact",
  tests: "Advection and diffusion of heat or a trace in any flow you write down, in the plane or round an axis; with no flow, conduction alone.",
  order: "What is carried, and the flow, at order 2 on every cell shape, in the plane and round an axis.",
  formalOrder: 2,
  physicsWords: { time: "steady", model: "laminar", space: "plane", compressible: false },
  parameters: CARRIED_PARAMETERS,
  formulas: [
    {
      key: "carried",
      label: "What is carried, in x, y, t (K)",
      preset: "4 + 3 * sin(pi * x) * cos(pi * y / 2) + x * y",
      help: "Temperature, or any trace.",
    },
    {
      key: "streamFunction",
      label: "Stream function in x, y, t",
      preset: "y ^ 2 / 2 + 0.2 * sin(pi * x) * sin(pi * y) / pi",
      help: "u = d/dy, v = -d/dx, both over y in a ring. 0 leaves conduction alone.",
    },
    { key: "pressure", label: "Pressure over density (m2/s2)", preset: "0.3 * cos(pi * x) * cos(pi * y)", help: "Its level does not matter." },
  ],
  quantities: [
    { key: "carriedPoint", name: "what is carried, at a fixed point", symbol: "q_P", unit: "K", limit: 0.005 },
    { key: "uPoint", name: "velocity at a fixed point", symbol: "u_P", unit: "m/s", limit: 0.005 },
  ],
  family: { baseNx: 16, baseNy: 16, ratio: 2, count: 3, gradingX: UNIFORM, gradingY: UNIFORM, shape: "smooth" },
  shapes: CELL_SHAPES,
  graded: false,
  numerics: { courant: 0.5, maxIterations: 5000, dropOrders: 6 },
  reference: () => ({ velocityMS: 1, lengthM: 1, velocityName: "unit velocity", lengthName: "side" }),
};

/** The same for a gas, inviscid or viscous. */
export const manufacturedGasProblem: ProblemDescription<ManufacturedGasParameters> = {
  id: "manufactured-gas",
  title: "Manufactured gas flow",
  madeUpFluid: true,
  kind: "exact",
  tests:
    "Any smooth gas flow you write down, made a solution by sources of mass, momentum and energy; with viscosity, shear and heat flow too; in the plane or round an axis.",
  order: "Order 2 in density, velocity and pressure on rows and on distorted cells, in the plane and round an axis.",
  formalOrder: 2,
  physicsWords: { time: "steady", model: "laminar", space: "plane", compressible: true },
  parameters: GAS_PARAMETERS,
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
};
