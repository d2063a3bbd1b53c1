import { type PlatesFlow, platesFlowRate, platesVelocity } from "../../exact/plates.ts";
import type { ParameterSpec, ProblemDescription, ValuesOf } from "./problem.ts";

/** values of the parameter `ends` */
export const ENDS = { joined: 0, developed: 1, uniform: 2 } as const;

const PARAMETERS = [
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
] as const satisfies readonly ParameterSpec[];

export type PlatesParameters = ValuesOf<typeof PARAMETERS>;

/** The flow between the plates, for its exact solution. */
export const flowOf = (p: PlatesParameters): PlatesFlow => ({
  gapM: p.gapM,
  wallSpeedMS: p.wallSpeedMS,
  pressureGradientPaM: p.pressureGradientPaM,
  viscosityPaS: p.viscosityPaS,
});

/** Steady flow between two plates, one sliding, with a pressure gradient: the whole field is known exactly. */
export const plates: ProblemDescription<PlatesParameters> = {
  id: "plates",
  title: "Flow between plates, one sliding",
  kind: "exact",
  tests:
    "Diffusion, wall shear and the pressure gradient. Central differences are exact for a straight profile; a curved one must come out at order 2.",
  parameters: PARAMETERS,
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
  entry: (p) =>
    p.ends === ENDS.uniform ? { lengthM: p.lengthM, gapM: p.gapM, meanVelocityMS: Math.abs(platesFlowRate(flowOf(p))) / p.gapM } : undefined,
  reference: (p) => ({ velocityMS: largestVelocity(p), lengthM: p.gapM, velocityName: "largest velocity", lengthName: "gap" }),
};

/** Largest speed anywhere in the gap, m/s. */
export function largestVelocity(p: PlatesParameters): number {
  const f = flowOf(p);
  const turning = f.gapM / 2 - (f.wallSpeedMS * f.viscosityPaS) / (f.gapM * f.pressureGradientPaM || Number.NaN);
  const candidates = [Math.abs(f.wallSpeedMS)];
  if (turning > 0 && turning < f.gapM) candidates.push(Math.abs(platesVelocity(f, turning)));
  return Math.max(...candidates);
}
