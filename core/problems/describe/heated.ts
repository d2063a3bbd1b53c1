import { AIR, FLUID } from "./common.ts";
import type { ParameterSpec, ProblemDescription, ValuesOf } from "./problem.ts";

const PARAMETERS = [
  {
    key: "widthM",
    label: "Width or diameter",
    unit: "m",
    preset: 0.01,
    min: 1e-5,
    max: 10,
    help: "Between the plates, or across the pipe; half of it is computed.",
  },
  { key: "lengthM", label: "Length", unit: "m", preset: 0.2, min: 1e-5, max: 1000, help: "Long enough for the temperature profile to develop." },
  { key: "meanVelocityMS", label: "Mean velocity", unit: "m/s", preset: 0.15, min: 1e-9, max: 100, help: "Of the developed flow that enters." },
  { key: "prandtl", label: "Prandtl number", unit: "", preset: AIR.prandtl, min: 0.001, max: 1e4, help: "Of the fluid." },
  {
    key: "section",
    label: "Section",
    unit: "",
    preset: 0,
    min: 0,
    max: 1,
    help: "Plane or revolved.",
    choices: [
      { value: 0, name: "duct between plates" },
      { value: 1, name: "pipe" },
    ],
  },
  {
    key: "wall",
    label: "Wall",
    unit: "",
    preset: 0,
    min: 0,
    max: 1,
    help: "What is known at the wall.",
    choices: [
      { value: 0, name: "held at a temperature" },
      { value: 1, name: "heated evenly" },
    ],
  },
  ...FLUID,
] as const satisfies readonly ParameterSpec[];

export type HeatedParameters = ValuesOf<typeof PARAMETERS>;

export const PLANE = 0;

/** Kinematic viscosity, m^2/s. */
export const nuOf = (p: HeatedParameters) => p.viscosityPaS / p.densityKgM3;

/** hydraulic diameter: twice the width of a duct, the diameter of a pipe */
export const hydraulicOf = (p: HeatedParameters) => (p.section === PLANE ? 2 * p.widthM : p.widthM);

/** Developed flow heated at its walls, in a duct between plates or in a pipe. */
export const heated: ProblemDescription<HeatedParameters> = {
  id: "heated",
  title: "Heated duct or pipe",
  kind: "exact",
  tests: "Transport of heat by a known flow and its passage through a wall, held at a temperature or heated evenly.",
  order: "Order 2 in the developed Nusselt number.",
  formalOrder: 2,
  physicsWords: { time: "steady", model: "laminar", space: "plane", compressible: false },
  parameters: PARAMETERS,
  quantities: [{ key: "nusselt", name: "developed Nusselt number", symbol: "Nu", unit: "1", limit: 0.005, derivative: true }],
  family: { baseNx: 48, baseNy: 8, ratio: 2, count: 3, gradingX: { kind: "low-end", strength: 1.2 }, gradingY: { kind: "uniform" } },
  graded: true,
  numerics: {},
  similarity: [
    {
      key: "peclet",
      label: "Peclet number",
      preset: 150,
      sets: "meanVelocityMS",
      solve: (pe, p) => (pe * nuOf(p)) / (p.prandtl * hydraulicOf(p)),
      note: "By hydraulic diameter.",
    },
  ],
  reference: (p) => ({ velocityMS: p.meanVelocityMS, lengthM: hydraulicOf(p), velocityName: "mean velocity", lengthName: "hydraulic diameter" }),
};
