import { AIR, FLUID, STEADY_PLANE } from "./common.ts";
import type { Parameters, ProblemDescription } from "./problem.ts";

/** by mean velocity and twice the height of the inlet channel, which is its hydraulic diameter */
const reynoldsOf = (p: Parameters) => (2 * p.stepM * p.meanVelocityMS * p.densityKgM3) / p.viscosityPaS;

/** Reattachment over step height, expansion 2, developed flow at the step. @source Erturk, Comput. Fluids 37 (2008) 633, table 1 */
const REATTACHMENT: readonly (readonly [reynolds: number, length: number])[] = [
  [100, 2.922],
  [200, 4.982],
  [300, 6.751],
  [400, 8.237],
  [500, 9.42],
  [600, 10.349],
  [700, 11.129],
  [800, 11.834],
];

/** Inlet at the step itself, Re 800. @source Gartling, Int. J. Numer. Methods Fluids 11 (1990) 953: 6.10 channel heights */
const WITHOUT_CHANNEL = 12.2;

const AIR_NU = AIR.viscosity / AIR.density;

/** Flow over a step that doubles the channel. */
export const step: ProblemDescription = {
  id: "step",
  title: "Step with reattachment",
  kind: "published",
  tests: "Separation at an edge, a long recirculation and its reattachment, with an outlet that must not disturb them.",
  order: "Order 2 in the reattachment length, once the shear layer is resolved; the edge itself is singular.",
  formalOrder: 2,
  physicsWords: STEADY_PLANE,
  parameters: [
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
  ],
  quantities: [
    { key: "reattachment", name: "reattachment length over step height", symbol: "x_r/h", unit: "1", limit: 0.01, derivative: true },
    { key: "pressureRise", name: "pressure at the outlet over the inlet's, in dynamic pressures", symbol: "C_p", unit: "1", limit: 0.02 },
  ],
  family: { baseNx: 60, baseNy: 16, ratio: 2, count: 3, gradingX: { kind: "low-end", strength: 1.3 }, gradingY: { kind: "uniform" } },
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
  yardsticks: (p) => {
    const re = reynoldsOf(p);
    const long = (value: number) => p.lengthSteps > 1.5 * value;
    const make = (key: string, name: string, source: string, at: number, value: number, channel: boolean) => ({
      key,
      name,
      kind: "table" as const,
      source,
      validity: {
        sentence: `Holds at Re ${at}${channel ? " with a channel before the step" : " with the developed profile at the step"}, and a length well beyond ${value} steps; here Re ${re.toPrecision(4)}, ${p.inletSteps} and ${p.lengthSteps} steps.`,
        inside: Math.abs(re / at - 1) < 0.005 && long(value) && channel === p.inletSteps >= 3,
      },
      values: [
        { quantityKey: "reattachment", value, standardUncertainty: 0.002 * value, uncertaintyNote: "0.2 % from the spread of published figures" },
      ],
      profiles: [],
    });
    const out = REATTACHMENT.filter(([r]) => Math.abs(re / r - 1) < 0.05).map(([r, value]) =>
      make(`step-${r}`, `Published reattachment, Re ${r}`, "Erturk, Comput. Fluids 37 (2008) 633", r, value, true),
    );
    if (Math.abs(re / 800 - 1) < 0.05) {
      out.push(
        make("step-bare", "Published reattachment, no channel", "Gartling, Int. J. Numer. Methods Fluids 11 (1990) 953", 800, WITHOUT_CHANNEL, false),
      );
    }
    return out.filter((y) => y.values[0].value > 0);
  },
};
