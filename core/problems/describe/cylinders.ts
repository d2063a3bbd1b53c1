import { FLUID, STEADY_PLANE, UNIFORM } from "./common.ts";
import type { ParameterSpec, ProblemDescription, ValuesOf } from "./problem.ts";

const PARAMETERS = [
  { key: "innerM", label: "Radius of the inner cylinder", unit: "m", preset: 0.02, min: 1e-5, max: 10, help: "It turns in the fluid." },
  { key: "outerM", label: "Radius of the outer cylinder", unit: "m", preset: 0.04, min: 1e-5, max: 20, help: "Around the fluid." },
  { key: "innerSpin", label: "Turning of the inner cylinder", unit: "rad/s", preset: 1, min: -1e5, max: 1e5, help: "Anticlockwise is positive." },
  { key: "outerSpin", label: "Turning of the outer cylinder", unit: "rad/s", preset: 0, min: -1e5, max: 1e5, help: "Anticlockwise is positive." },
  ...FLUID,
] as const satisfies readonly ParameterSpec[];

export type CylindersParameters = ValuesOf<typeof PARAMETERS>;

const speedOf = (p: CylindersParameters) => Math.max(Math.abs(p.innerSpin) * p.innerM, Math.abs(p.outerSpin) * p.outerM);

/** Circular flow between two rotating cylinders on a ring of cells. */
export const cylinders: ProblemDescription<CylindersParameters> = {
  id: "cylinders",
  title: "Rotating cylinders",
  kind: "exact",
  tests: "Curved walls and a mesh that closes on itself: convection along circles must balance pressure exactly.",
  order: "Order 2 in velocity and torque.",
  formalOrder: 2,
  physicsWords: STEADY_PLANE,
  parameters: PARAMETERS,
  quantities: [
    { key: "torque", name: "torque on the inner cylinder", symbol: "M_i", unit: "N m/m", limit: 0.005, derivative: true },
    { key: "midVelocity", name: "velocity halfway", symbol: "u_mid", unit: "m/s", limit: 0.005 },
  ],
  family: { baseNx: 32, baseNy: 8, ratio: 2, count: 3, gradingX: UNIFORM, gradingY: UNIFORM },
  counts: { nx: "cells around", ny: "cells across" },
  graded: true,
  numerics: {},
  reference: (p) => ({ velocityMS: speedOf(p), lengthM: p.outerM - p.innerM, velocityName: "largest wall speed", lengthName: "gap" }),
};
