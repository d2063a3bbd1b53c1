import { GAS, UNIFORM } from "./common.ts";
import type { ParameterSpec, ProblemDescription, ValuesOf } from "./problem.ts";

const PARAMETERS = [
  {
    key: "coreM",
    label: "Radius of the core",
    unit: "m",
    preset: 0.01,
    min: 1e-6,
    max: 1000,
    help: "The box is ten radii wide; opposite sides are joined.",
  },
  { key: "mach", label: "Drift over the speed of sound", unit: "", preset: 0.8, min: 0.01, max: 5, help: "Along x and along y." },
  {
    key: "strength",
    label: "Strength",
    unit: "",
    preset: 4,
    min: 0.01,
    max: 8,
    help: "Largest turning velocity over the speed of sound, times 2 pi.",
  },
  { key: "passes", label: "Passages", unit: "", preset: 1, min: 0.01, max: 20, help: "Through the whole box." },
  { key: "pressurePa", label: "Pressure around it", unit: "Pa", preset: 101325, min: 1e-3, max: 1e9, help: "Far from the core." },
  { key: "temperatureK", label: "Temperature around it", unit: "K", preset: 277.15, min: 1, max: 1e4, help: "Far from the core." },
  ...GAS,
] as const satisfies readonly ParameterSpec[];

export type VortexParameters = ValuesOf<typeof PARAMETERS>;

/** Speed of sound of the stream, m/s. */
export const soundOf = (p: VortexParameters) => Math.sqrt(p.gamma * p.gasConstant * p.temperatureK);

/** A vortex carried through a box whose ends are joined comes back to where it began, unchanged. */
export const travellingVortex: ProblemDescription<VortexParameters> = {
  id: "travelling-vortex",
  title: "Travelling vortex",
  kind: "exact",
  tests: "Smooth compressible flow in time: whatever is missing after a passage was lost by the scheme.",
  order: "Order 2 in density and pressure without a limiter.",
  formalOrder: 2,
  physicsWords: { time: "transient", model: "inviscid", space: "plane", compressible: true },
  parameters: PARAMETERS,
  quantities: [
    { key: "coreDensity", name: "density in the core", symbol: "rho_0", unit: "kg/m^3", limit: 0.01 },
    { key: "corePressure", name: "pressure in the core", symbol: "p_0", unit: "Pa", limit: 0.01 },
  ],
  family: { baseNx: 32, baseNy: 32, ratio: 2, count: 3, gradingX: UNIFORM, gradingY: UNIFORM, shape: "rows" },
  shapes: ["rows", "smooth", "jittered"],
  graded: false,
  numerics: { riemannFlux: "contact", limiter: "none", courant: 0.5, maxIterations: 100_000, dropOrders: 1 },
  reference: (p) => ({ velocityMS: p.mach * soundOf(p), lengthM: p.coreM, velocityName: "drift", lengthName: "core radius" }),
};
