import { FLUID, UNIFORM } from "./common.ts";
import type { ParameterSpec, ProblemDescription, ValuesOf } from "./problem.ts";

const PIPE = [
  { key: "radiusM", label: "Radius", unit: "m", preset: 0.01, min: 1e-5, max: 10, help: "Inner radius of the pipe." },
  { key: "lengthM", label: "Length", unit: "m", preset: 0.02, min: 1e-5, max: 100, help: "Length computed along the axis." },
  { key: "meanVelocityMS", label: "Mean velocity", unit: "m/s", preset: 0.05, min: 1e-9, max: 100, help: "Flow rate over cross-section." },
  ...FLUID,
] as const satisfies readonly ParameterSpec[];

export type PipeParameters = ValuesOf<typeof PIPE>;

const shared = {
  physicsWords: { time: "steady", model: "laminar", space: "axisymmetric", compressible: false },
  kind: "exact",
  formalOrder: 2,
  graded: true,
  numerics: {},
  reference: (p) => ({ velocityMS: p.meanVelocityMS, lengthM: 2 * p.radiusM, velocityName: "mean velocity", lengthName: "diameter" }),
  similarity: [
    {
      key: "reynolds",
      label: "Reynolds number",
      preset: 100,
      sets: "meanVelocityMS",
      solve: (re, p) => (re * p.viscosityPaS) / (2 * p.densityKgM3 * p.radiusM),
      note: "By diameter and mean velocity.",
    },
  ],
} satisfies Partial<ProblemDescription<PipeParameters>>;

/** Developed flow in a pipe, ends joined to one another: the first revolved case. */
export const pipe: ProblemDescription<PipeParameters> = {
  ...shared,
  id: "pipe",
  title: "Pipe, developed flow",
  tests: "The revolved equations: areas, volumes and shear around an axis. The profile is a parabola.",
  order: "Order 2 in velocity; the wall shear follows from the force balance and is exact.",
  parameters: PIPE,
  quantities: [
    { key: "axisVelocity", name: "velocity on the axis", symbol: "u_0", unit: "m/s", limit: 0.005 },
    { key: "flowRate", name: "flow rate", symbol: "Q", unit: "m^3/s", limit: 0.005 },
    { key: "wallShear", name: "shear on the wall", symbol: "tau_w", unit: "Pa", limit: 0.005, derivative: true },
  ],
  family: { baseNx: 8, baseNy: 8, ratio: 2, count: 3, gradingX: UNIFORM, gradingY: UNIFORM },
};

/** Uniform flow entering a pipe and developing along it. */
export const pipeEntry: ProblemDescription<PipeParameters> = {
  ...shared,
  id: "pipe-entry",
  title: "Pipe, developing flow",
  kind: "published",
  tests: "Inflow, outlet and the growth of the layer at the wall, until the parabola is reached near the end.",
  order: "Order 2 at the end of the pipe; the inflow corner is singular, so that the entry length comes out lower.",
  parameters: PIPE.map((s) => (s.key === "lengthM" ? { ...s, preset: 0.24 } : s)),
  quantities: [
    { key: "endVelocity", name: "developed velocity on the axis", symbol: "u_0", unit: "m/s", limit: 0.005 },
    { key: "entryLength", name: "entry length, 99 % of the final velocity", symbol: "L_e/D", unit: "1", limit: 0.05 },
    { key: "pressureDrop", name: "pressure drop over the pipe", symbol: "dp", unit: "Pa", limit: 0.01 },
  ],
  family: { baseNx: 32, baseNy: 8, ratio: 2, count: 3, gradingX: { kind: "low-end", strength: 1.2 }, gradingY: { kind: "high-end", strength: 1.2 } },
};
