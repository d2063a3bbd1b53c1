import type { ParameterSpec, ProblemDescription, ValuesOf } from "./problem.ts";

const PARAMETERS = [
  { key: "sideM", label: "Side of the box", unit: "m", preset: 0.05, min: 1e-5, max: 100, help: "The box is square." },
  { key: "lidSpeedMS", label: "Speed of the lid", unit: "m/s", preset: (1000 * 1.74e-5) / (1.274 * 0.05), min: 1e-9, max: 1000, help: "Along +x." },
  { key: "densityKgM3", label: "Density", unit: "kg/m^3", preset: 1.274, min: 1e-3, max: 2e4, help: "Of the fluid, constant." },
  { key: "viscosityPaS", label: "Dynamic viscosity", unit: "Pa s", preset: 1.74e-5, min: 1e-8, max: 1e4, help: "Of the fluid, constant." },
] as const satisfies readonly ParameterSpec[];

export type LiddedBoxParameters = ValuesOf<typeof PARAMETERS>;

/** why the lid's force grows with every mesh */
const LID = "the lid slides along the corners of walls at rest, where the shear has no bound";

/** Square box of fluid driven by its sliding lid. */
export const liddedBox: ProblemDescription<LiddedBoxParameters> = {
  id: "lidded-box",
  title: "Lidded box",
  kind: "published",
  tests:
    "Convection and pressure-velocity coupling in a closed box. Extrema and vortex centre approach published spectral figures at order 2; the lid's force does not converge, its shear is infinite at two corners.",
  parameters: PARAMETERS,
  quantities: [
    { key: "uMin", name: "lowest mid-plane velocity", symbol: "u_min/U", unit: "1", limit: 0.01 },
    { key: "vMax", name: "highest cross velocity", symbol: "v_max/U", unit: "1", limit: 0.01 },
    { key: "vMin", name: "lowest cross velocity", symbol: "v_min/U", unit: "1", limit: 0.01 },
    { key: "vortexX", name: "vortex centre, x", symbol: "x_c/L", unit: "1", limit: 0.01 },
    { key: "vortexY", name: "vortex centre, y", symbol: "y_c/L", unit: "1", limit: 0.01 },
    { key: "psiMin", name: "stream function at the centre", symbol: "psi/(U L)", unit: "1", limit: 0.01 },
    { key: "lidForce", name: "lid force coefficient", symbol: "F/(rho U^2 L)", unit: "1", limit: 0.02, derivative: true, divergent: LID },
  ],
  family: {
    baseNx: 32,
    baseNy: 32,
    ratio: 2,
    count: 3,
    gradingX: { kind: "both-ends", strength: 1.5 },
    gradingY: { kind: "both-ends", strength: 1.5 },
  },
  formalOrder: 2,
  order: "Order 2 in extrema and vortex centre; the lid's force does not converge.",
  physicsWords: { time: "steady", model: "laminar", space: "plane", compressible: false },
  graded: true,
  numerics: {},
  similarity: [
    {
      key: "reynolds",
      label: "Reynolds number",
      preset: 1000,
      sets: "lidSpeedMS",
      solve: (re, p) => (re * p.viscosityPaS) / (p.densityKgM3 * p.sideM),
      note: "Published tables exist for 100, 400 and 1000.",
    },
  ],
  reference: (p) => ({ velocityMS: p.lidSpeedMS, lengthM: p.sideM, velocityName: "lid speed", lengthName: "side" }),
};
