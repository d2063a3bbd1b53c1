import { GAS, UNIFORM } from "./common.ts";
import type { ParameterSpec, ProblemDescription, ValuesOf } from "./problem.ts";

const PARAMETERS = [
  { key: "lengthM", label: "Length of the tube", unit: "m", preset: 2, min: 1e-5, max: 1000, help: "The diaphragm is in the middle." },
  { key: "leftPressurePa", label: "Pressure on the left", unit: "Pa", preset: 101325, min: 1e-3, max: 1e9, help: "Before the burst." },
  { key: "leftDensity", label: "Density on the left", unit: "kg/m^3", preset: 1.274, min: 1e-6, max: 1e4, help: "Before the burst." },
  { key: "rightPressurePa", label: "Pressure on the right", unit: "Pa", preset: 10132.5, min: 1e-3, max: 1e9, help: "Before the burst." },
  { key: "rightDensity", label: "Density on the right", unit: "kg/m^3", preset: 0.15925, min: 1e-6, max: 1e4, help: "Before the burst." },
  { key: "endTimeS", label: "End", unit: "s", preset: 0.0014, min: 1e-12, max: 1e3, help: "Before a wave reaches an end of the tube." },
  ...GAS,
] as const satisfies readonly ParameterSpec[];

export type GasTubesParameters = ValuesOf<typeof PARAMETERS>;

/** A diaphragm between two chambers bursts: shock, contact and expansion run through the tube. */
export const shockTube: ProblemDescription<GasTubesParameters> = {
  id: "shock-tube",
  title: "Shock tube",
  kind: "exact",
  tests: "Jumps that must run at the right speed and stay sharp, without overshoots: the flux and the limiter.",
  order: "Order 1 in the mean (L1), as at any shock; a little less where the contact smears.",
  formalOrder: 1,
  physicsWords: { time: "transient", model: "inviscid", space: "plane", compressible: true },
  parameters: PARAMETERS,
  quantities: [
    { key: "plateauPressure", name: "pressure between the waves", symbol: "p*", unit: "Pa", limit: 0.005 },
    { key: "shockPosition", name: "position of the shock", symbol: "x_s", unit: "m", limit: 0.005 },
    { key: "contactVelocity", name: "velocity between the waves", symbol: "u*", unit: "m/s", limit: 0.005 },
  ],
  family: { baseNx: 100, baseNy: 4, ratio: 2, count: 3, gradingX: UNIFORM, gradingY: UNIFORM },
  counts: { nx: "cells along the tube", ny: "cells across" },
  graded: false,
  numerics: { riemannFlux: "contact", limiter: "bounds", courant: 0.4, maxIterations: 100_000, dropOrders: 1 },
  reference: (p) => ({
    velocityMS: Math.sqrt((p.gamma * p.leftPressurePa) / p.leftDensity),
    lengthM: p.lengthM,
    velocityName: "speed of sound",
    lengthName: "tube length",
  }),
};
