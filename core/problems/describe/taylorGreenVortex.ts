import { FLUID, UNIFORM } from "./common.ts";
import type { ParameterSpec, ProblemDescription, ValuesOf } from "./problem.ts";

const PARAMETERS = [
  {
    key: "sideM",
    label: "Side of the box",
    unit: "m",
    preset: 0.1,
    min: 1e-6,
    max: 100,
    help: "Holds two by two eddies; opposite sides are joined.",
  },
  { key: "velocityMS", label: "Largest velocity at the beginning", unit: "m/s", preset: 0.02, min: 1e-9, max: 1000, help: "Of the eddies." },
  {
    key: "driftMS",
    label: "Drift",
    unit: "m/s",
    preset: 0.01,
    min: -1000,
    max: 1000,
    help: "Carries the eddies along x, and half as fast along y.",
  },
  { key: "endTimeS", label: "End", unit: "s", preset: 5, min: 1e-9, max: 1e6, help: "Time the run ends at." },
  ...FLUID,
] as const satisfies readonly ParameterSpec[];

export type TaylorGreenParameters = ValuesOf<typeof PARAMETERS>;

/** Rows of eddies that decay by viscosity while they drift through a box whose ends are joined. */
export const taylorGreenVortex: ProblemDescription<TaylorGreenParameters> = {
  id: "eddies",
  title: "Decaying eddies",
  kind: "exact",
  tests: "The transient solver in space and time at once: too much or too little damping shows as a wrong rate of decay.",
  order: "Order 2 in space and time: the step follows the mesh at a fixed Courant number.",
  formalOrder: 2,
  physicsWords: { time: "transient", model: "laminar", space: "plane", compressible: false },
  parameters: PARAMETERS,
  quantities: [
    { key: "energy", name: "kinetic energy of the eddies at the end", symbol: "k", unit: "J/kg", limit: 0.02 },
    { key: "decayed", name: "share of the energy that is left", symbol: "k/k_0", unit: "1", limit: 0.02 },
  ],
  family: { baseNx: 16, baseNy: 16, ratio: 2, count: 3, gradingX: UNIFORM, gradingY: UNIFORM, shape: "rows" },
  shapes: ["rows", "smooth", "jittered"],
  graded: false,
  numerics: { dropOrders: 4, maxIterations: 20_000, courant: 0.5 },
  reference: (p) => ({ velocityMS: p.velocityMS, lengthM: p.sideM, velocityName: "largest velocity", lengthName: "side" }),
};
