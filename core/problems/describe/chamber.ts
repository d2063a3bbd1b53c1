import { AIR, FLUID, STEADY_PLANE } from "./common.ts";
import type { ParameterSpec, ProblemDescription, ValuesOf } from "./problem.ts";

const PARAMETERS = [
  { key: "sideM", label: "Side of the chamber", unit: "m", preset: 0.05, min: 1e-5, max: 100, help: "The chamber is square." },
  { key: "warmK", label: "Warm wall", unit: "K", preset: 283.15, min: 1, max: 5000, help: "The left wall." },
  {
    key: "coldK",
    label: "Cold wall",
    unit: "K",
    preset: 277.15,
    min: 1,
    max: 5000,
    help: "The right wall; floor and ceiling are sealed against heat.",
  },
  { key: "gravityMS2", label: "Gravity", unit: "m/s^2", preset: 9.81, min: 0, max: 1000, help: "Downward." },
  { key: "expansionPerK", label: "Thermal expansion", unit: "K^-1", preset: 0.00357, min: 1e-7, max: 1, help: "1/T for a gas." },
  { key: "prandtl", label: "Prandtl number", unit: "", preset: AIR.prandtl, min: 0.001, max: 1e4, help: "Published figures hold for 0.71." },
  ...FLUID,
] as const satisfies readonly ParameterSpec[];

export type ChamberParameters = ValuesOf<typeof PARAMETERS>;

/** Kinematic viscosity, m^2/s. */
export const nuOf = (p: ChamberParameters) => p.viscosityPaS / p.densityKgM3;

/** Thermal diffusivity, m^2/s. */
export const diffusivityOf = (p: ChamberParameters) => nuOf(p) / p.prandtl;

/** Square chamber, one side wall warm and one cold: air turns over by its own buoyancy. */
export const chamber: ProblemDescription<ChamberParameters> = {
  id: "chamber",
  title: "Chamber with one warm wall",
  kind: "published",
  tests: "Flow and temperature that drive one another in a closed box. Heat flow and velocity extrema approach published figures.",
  order: "Order 2 in Nusselt number and extrema.",
  formalOrder: 2,
  physicsWords: STEADY_PLANE,
  parameters: PARAMETERS,
  quantities: [
    { key: "nusselt", name: "mean Nusselt number of the warm wall", symbol: "Nu", unit: "1", limit: 0.005, derivative: true },
    { key: "uMax", name: "largest velocity on the vertical mid-plane", symbol: "u_max L/a", unit: "1", limit: 0.01 },
    { key: "vMax", name: "largest velocity on the horizontal mid-plane", symbol: "v_max L/a", unit: "1", limit: 0.01 },
    { key: "uMaxAt", name: "height of the largest velocity", symbol: "y/L", unit: "1", limit: 0.01 },
    { key: "vMaxAt", name: "place of the largest rise", symbol: "x/L", unit: "1", limit: 0.02 },
  ],
  family: {
    baseNx: 24,
    baseNy: 24,
    ratio: 2,
    count: 3,
    gradingX: { kind: "both-ends", strength: 1.4 },
    gradingY: { kind: "both-ends", strength: 1.4 },
  },
  graded: true,
  numerics: { dropOrders: 6 },
  similarity: [
    {
      key: "rayleigh",
      label: "Rayleigh number",
      preset: 1e5,
      sets: "warmK",
      solve: (ra, p) => p.coldK + (ra * nuOf(p) * diffusivityOf(p)) / (p.gravityMS2 * p.expansionPerK * p.sideM ** 3),
      note: "Published figures exist for 1e3, 1e4, 1e5 and 1e6.",
    },
  ],
  reference: (p) => ({
    velocityMS: Math.sqrt(p.gravityMS2 * p.expansionPerK * Math.abs(p.warmK - p.coldK) * p.sideM),
    lengthM: p.sideM,
    velocityName: "buoyant velocity",
    lengthName: "side",
  }),
};
