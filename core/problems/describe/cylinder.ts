import type { QuantitySpec } from "../../records/quantity.ts";
import { FLUID, STEADY_PLANE } from "./common.ts";
import type { ParameterSpec, ProblemDescription, SimilaritySpec, ValuesOf } from "./problem.ts";
import type { MeshSpec } from "./runSettings.ts";

/** cells downstream for each cell along a side of the square around the post */
export const DOWNSTREAM = 2.25;

const PARAMETERS = [
  {
    key: "diameterM",
    label: "Diameter of the post",
    unit: "m",
    preset: 0.02,
    min: 1e-6,
    max: 10,
    help: "The channel is 4.1 diameters high and 22 long.",
  },
  {
    key: "meanVelocityMS",
    label: "Mean velocity of the inflow",
    unit: "m/s",
    preset: (20 * 1.74e-5) / (1.274 * 0.02),
    min: 1e-9,
    max: 1000,
    help: "A developed profile enters.",
  },
  ...FLUID,
] as const satisfies readonly ParameterSpec[];

export type CylinderParameters = ValuesOf<typeof PARAMETERS>;
export type SheddingParameters = CylinderParameters & { readonly endTimeS: number };

const WATCHED: readonly QuantitySpec[] = [
  { key: "drag", name: "drag coefficient", symbol: "c_D", unit: "1", limit: 0.005, derivative: true },
  { key: "lift", name: "lift coefficient", symbol: "c_L", unit: "1", limit: 0.05, derivative: true, kind: "cross-force" },
  { key: "pressureDifference", name: "pressure difference over the post", symbol: "dp/(rho U^2)", unit: "1", limit: 0.01 },
];

const shared = {
  kind: "published",
  formalOrder: 2,
  cellCount: (_p: CylinderParameters, spec: MeshSpec) => {
    const side = Math.max(2, Math.round(spec.nx / 4));
    return 4 * side * spec.ny + side * Math.max(2, Math.round(side * DOWNSTREAM));
  },
  counts: { nx: "cells around the post", ny: "cells from the post to the walls" },
  graded: true,
  reference: (p) => ({ velocityMS: p.meanVelocityMS, lengthM: p.diameterM, velocityName: "mean velocity", lengthName: "diameter" }),
} satisfies Partial<ProblemDescription<CylinderParameters>>;

const reynoldsNumber = (preset: number): SimilaritySpec<CylinderParameters>[] => [
  {
    key: "reynolds",
    label: "Reynolds number",
    preset,
    sets: "meanVelocityMS",
    solve: (re: number, p: CylinderParameters) => (re * p.viscosityPaS) / (p.densityKgM3 * p.diameterM),
    note: `By diameter and mean velocity; published at ${preset}.`,
  },
];

/** A round post in a channel, steady. */
export const cylinder: ProblemDescription<CylinderParameters> = {
  ...shared,
  id: "post",
  title: "Post in a channel, steady",
  tests: "Forces on a curved wall on a mapped mesh: pressure and shear together, and a lift a thousand times smaller than the drag.",
  order: "Order 2 in drag and pressure difference; the lift is small and comes last.",
  physicsWords: STEADY_PLANE,
  parameters: PARAMETERS,
  quantities: WATCHED,
  family: { baseNx: 64, baseNy: 20, ratio: 2, count: 3, gradingX: { kind: "uniform" }, gradingY: { kind: "low-end", strength: 1.6 } },
  numerics: {},
  similarity: reynoldsNumber(20),
};

/** The same post when its wake sheds eddies. */
export const cylinderShedding: ProblemDescription<SheddingParameters> = {
  ...shared,
  id: "post-shedding",
  title: "Post in a channel, shedding",
  tests: "A flow that never settles: forces that swing at a frequency of their own, in space and time at once.",
  order: "Order 2 in space and time; peaks and frequency need several full cycles.",
  physicsWords: { time: "transient", model: "laminar", space: "plane", compressible: false },
  parameters: [
    ...PARAMETERS.map((s) => (s.key === "meanVelocityMS" ? { ...s, preset: 5 * s.preset } : s)),
    {
      key: "endTimeS",
      label: "End",
      unit: "s",
      preset: 32,
      min: 1e-6,
      max: 1e6,
      help: "About a hundred diameters at the mean velocity, so that the wake forgets its start.",
    },
  ],
  quantities: [
    { key: "dragPeak", name: "largest drag coefficient", symbol: "c_D,max", unit: "1", limit: 0.02, derivative: true },
    { key: "liftPeak", name: "largest lift coefficient", symbol: "c_L,max", unit: "1", limit: 0.05, derivative: true, kind: "cross-force" },
    { key: "strouhal", name: "Strouhal number", symbol: "St", unit: "1", limit: 0.02 },
    ...WATCHED,
  ],
  summarised: ["dragPeak", "liftPeak", "strouhal"],
  family: { baseNx: 48, baseNy: 16, ratio: 1.5, count: 3, gradingX: { kind: "uniform" }, gradingY: { kind: "low-end", strength: 1.6 } },
  numerics: { dropOrders: 2, maxIterations: 50_000, courant: 2 },
  similarity: reynoldsNumber(100),
};
