import { AIR, FLUID, STEADY_PLANE } from "./common.ts";
import type { ParameterSpec, ProblemDescription, ValuesOf } from "./problem.ts";

const AIR_NU = AIR.viscosity / AIR.density;

const PARAMETERS = [
  { key: "stepM", label: "Height of the step", unit: "m", preset: 0.01, min: 1e-5, max: 10, help: "The channel upstream is as high as the step." },
  {
    key: "lengthSteps",
    label: "Length behind the step",
    unit: "",
    preset: 20,
    min: 4,
    max: 200,
    help: "In step heights; at least twice the reattachment length.",
  },
  {
    key: "inletSteps",
    label: "Channel before the step",
    unit: "",
    preset: 5,
    min: 0,
    max: 50,
    help: "In step heights; 0 lets the developed flow in at the step itself.",
  },
  {
    key: "meanVelocityMS",
    label: "Mean velocity of the inflow",
    unit: "m/s",
    preset: (200 * AIR_NU) / 0.02,
    min: 1e-9,
    max: 1000,
    help: "A developed profile enters.",
  },
  ...FLUID,
] as const satisfies readonly ParameterSpec[];

export type StepParameters = ValuesOf<typeof PARAMETERS>;

/** Flow over a step that doubles the channel. */
export const backwardFacingStep: ProblemDescription<StepParameters> = {
  id: "step",
  title: "Step with reattachment",
  kind: "published",
  tests: "Separation at an edge, a long recirculation and its reattachment, with an outlet that must not disturb them.",
  order: "Order 2 in the reattachment length, once the shear layer is resolved; the edge itself is singular.",
  formalOrder: 2,
  physicsWords: STEADY_PLANE,
  parameters: PARAMETERS,
  quantities: [
    { key: "reattachment", name: "reattachment length over step height", symbol: "x_r/h", unit: "1", limit: 0.01, derivative: true },
    {
      key: "pressureRise",
      name: "pressure at the outlet over the inlet's, in dynamic pressures",
      symbol: "C_p",
      unit: "1",
      limit: 0.02,
      ofDomain: true,
    },
  ],
  family: { baseNx: 60, baseNy: 16, ratio: 2, count: 3, gradingX: { kind: "low-end", strength: 1.3 }, gradingY: { kind: "uniform" } },
  domain: { parameter: "lengthSteps", counts: "nx" },
  counts: { nx: "cells behind the step", ny: "cells over the whole height" },
  graded: true,
  numerics: {},
  similarity: [
    {
      key: "reynolds",
      label: "Reynolds number",
      preset: 200,
      sets: "meanVelocityMS",
      solve: (re, p) => (re * p.viscosityPaS) / (2 * p.stepM * p.densityKgM3),
      note: "By mean velocity and twice the inlet height; published every 100 from 100 to 800.",
    },
  ],
  reference: (p) => ({ velocityMS: p.meanVelocityMS, lengthM: 2 * p.stepM, velocityName: "mean velocity", lengthName: "twice the step" }),
  cellCount: (p, spec) => {
    const half = Math.max(1, Math.round(spec.ny / 2));
    return 2 * spec.nx * half + (p.inletSteps > 0 ? Math.max(2, Math.round((spec.nx * p.inletSteps) / p.lengthSteps)) * half : 0);
  },
};
