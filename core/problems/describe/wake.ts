import { CELL_SHAPES } from "../../mesh/shapes.ts";
import { FLUID, STEADY_PLANE, UNIFORM } from "./common.ts";
import type { ParameterSpec, ProblemDescription, ValuesOf } from "./problem.ts";

const PARAMETERS = [
  {
    key: "spacingM",
    label: "Spacing of the bars",
    unit: "m",
    preset: 0.01,
    min: 1e-6,
    max: 10,
    help: "Centre to centre; the field is as high as one spacing.",
  },
  {
    key: "velocityMS",
    label: "Mean velocity",
    unit: "m/s",
    preset: (40 * 1.74e-5) / (1.274 * 0.01),
    min: 1e-9,
    max: 1000,
    help: "Far behind the bars.",
  },
  ...FLUID,
] as const satisfies readonly ParameterSpec[];

export type WakeParameters = ValuesOf<typeof PARAMETERS>;

/** Laminar flow behind a two-dimensional grid of bars: the Navier-Stokes equations hold exactly. */
export const wake: ProblemDescription<WakeParameters> = {
  id: "wake",
  title: "Grid wake",
  kind: "exact",
  tests: "Convection and diffusion with every term at work, on any cell shape: the test of order for the incompressible solver.",
  order: "Velocity at order 2 on every cell shape; pressure at nearly 2 on rows and smoothly bent rows, lower on random and many-cornered cells.",
  formalOrder: 2,
  physicsWords: STEADY_PLANE,
  parameters: PARAMETERS,
  quantities: [
    { key: "uPoint", name: "velocity at a fixed point", symbol: "u_P", unit: "m/s", limit: 0.005 },
    { key: "vPoint", name: "cross velocity at a fixed point", symbol: "v_P", unit: "m/s", limit: 0.01 },
  ],
  family: { baseNx: 24, baseNy: 16, ratio: 2, count: 3, gradingX: UNIFORM, gradingY: UNIFORM, shape: "rows" },
  shapes: CELL_SHAPES,
  graded: false,
  numerics: {},
  similarity: [
    {
      key: "reynolds",
      label: "Reynolds number",
      preset: 40,
      sets: "velocityMS",
      solve: (re, p) => (re * p.viscosityPaS) / (p.densityKgM3 * p.spacingM),
      note: "By spacing and mean velocity; 40 is customary.",
    },
  ],
  reference: (p) => ({ velocityMS: p.velocityMS, lengthM: p.spacingM, velocityName: "mean velocity", lengthName: "spacing" }),
};
