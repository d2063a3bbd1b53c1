import { GAS, UNIFORM } from "./common.ts";
import type { ParameterSpec, ProblemDescription, ValuesOf } from "./problem.ts";

const PARAMETERS = [
  { key: "mach", label: "Mach number", unit: "", preset: 2.5, min: 1.05, max: 10, help: "Of the oncoming flow." },
  { key: "angleDeg", label: "Turning of the wall", unit: "deg", preset: 12, min: 0.1, max: 60, help: "At the corner." },
  { key: "lengthM", label: "Length", unit: "m", preset: 0.1, min: 1e-6, max: 1000, help: "The field is two lengths long and 1.2 high." },
  { key: "pressurePa", label: "Pressure", unit: "Pa", preset: 101325, min: 1e-3, max: 1e9, help: "Of the oncoming flow." },
  { key: "temperatureK", label: "Temperature", unit: "K", preset: 277.15, min: 1, max: 1e4, help: "Of the oncoming flow." },
  ...GAS,
] as const satisfies readonly ParameterSpec[];

export type CornerParameters = ValuesOf<typeof PARAMETERS>;

/** Speed of sound of the oncoming stream, m/s. */
export const soundOf = (p: CornerParameters) => Math.sqrt(p.gamma * p.gasConstant * p.temperatureK);

const shared = {
  kind: "exact",
  physicsWords: { time: "steady", model: "inviscid", space: "plane", compressible: true },
  parameters: PARAMETERS,
  family: { baseNx: 60, baseNy: 40, ratio: 2, count: 3, gradingX: UNIFORM, gradingY: UNIFORM },
  graded: false,
  numerics: { riemannFlux: "contact", limiter: "smooth", dropOrders: 6, maxIterations: 3000 },
  reference: (p) => ({ velocityMS: p.mach * soundOf(p), lengthM: p.lengthM, velocityName: "oncoming velocity", lengthName: "length" }),
} satisfies Partial<ProblemDescription<CornerParameters>>;

/** A wall that turns a supersonic flow into itself. */
export const ramp: ProblemDescription<CornerParameters> = {
  ...shared,
  id: "ramp",
  title: "Compression ramp",
  tests: "An oblique shock captured across cells it does not follow: its angle, and the state behind it.",
  order: "The state behind the shock at nearly order 2 away from it; mean errors (L1) at order 1, as at any shock.",
  formalOrder: 1,
  quantities: [
    { key: "shockAngle", name: "angle of the shock", symbol: "beta", unit: "deg", limit: 0.002 },
    { key: "pressureRatio", name: "pressure ratio on the ramp", symbol: "p_2/p_1", unit: "1", limit: 0.002 },
    { key: "machBehind", name: "Mach number on the ramp", symbol: "M_2", unit: "1", limit: 0.005 },
  ],
};

/** A wall that turns away from a supersonic flow. */
export const corner: ProblemDescription<CornerParameters> = {
  ...shared,
  id: "corner",
  title: "Expansion corner",
  tests: "A fan that spreads from a point without loss: total pressure must be kept where no shock is.",
  order: "Between 1 and 2: the fan is singular at the corner and has kinks at its edges.",
  formalOrder: 2,
  quantities: [
    { key: "pressureRatio", name: "pressure ratio behind the corner", symbol: "p_2/p_1", unit: "1", limit: 0.005 },
    { key: "machBehind", name: "Mach number behind the corner", symbol: "M_2", unit: "1", limit: 0.005 },
  ],
};
