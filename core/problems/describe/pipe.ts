import { pipeEntryDiameters } from "../../method/setup/setup.ts";
import { exact, FLUID, UNIFORM } from "./common.ts";
import type { ParameterSpec, Parameters, ProblemDescription } from "./problem.ts";

const PIPE: readonly ParameterSpec[] = [
  { key: "radiusM", label: "Radius", unit: "m", preset: 0.01, min: 1e-5, max: 10, help: "Inner radius of the pipe." },
  { key: "lengthM", label: "Length", unit: "m", preset: 0.02, min: 1e-5, max: 100, help: "Length computed along the axis." },
  { key: "meanVelocityMS", label: "Mean velocity", unit: "m/s", preset: 0.05, min: 1e-9, max: 100, help: "Flow rate over cross-section." },
  ...FLUID,
];

export const profile = (p: Parameters, r: number) => 2 * p.meanVelocityMS * (1 - (r / p.radiusM) ** 2);

const reynoldsOf = (p: Parameters) => (2 * p.densityKgM3 * p.meanVelocityMS * p.radiusM) / p.viscosityPaS;

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
} satisfies Partial<ProblemDescription>;

/** Developed flow in a pipe, ends joined to one another: the first revolved case. */
export const pipe: ProblemDescription = {
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
  yardsticks: (p) => {
    const radii = Array.from({ length: 41 }, (_, k) => (p.radiusM * k) / 40);
    const re = reynoldsOf(p);
    return [
      {
        key: "pipe-exact",
        name: "Exact profile in a pipe",
        kind: "exact",
        source: "Exact solution of the Navier-Stokes equations; White, Viscous Fluid Flow, section 3-3",
        validity: {
          sentence: `Holds for laminar, developed flow: Reynolds number by diameter below about 2300; here ${re.toPrecision(3)}.`,
          inside: re < 2300,
        },
        values: [
          exact("axisVelocity", 2 * p.meanVelocityMS),
          exact("flowRate", Math.PI * p.radiusM ** 2 * p.meanVelocityMS),
          exact("wallShear", (4 * p.viscosityPaS * p.meanVelocityMS) / p.radiusM),
        ],
        profiles: [
          { profileKey: "across", abscissa: radii, value: radii.map((r) => profile(p, r)), standardUncertainty: 0, uncertaintyNote: "exact" },
        ],
      },
    ];
  },
};

/** share of the length at which the developed velocity is read: further on what the outlet asks for reaches back */
export const READ_AT = 0.8;

/** Uniform flow entering a pipe and developing along it. */
export const pipeEntry: ProblemDescription = {
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
  yardsticks: (p) => {
    const re = reynoldsOf(p);
    const length = pipeEntryDiameters(re);
    const long = (READ_AT * p.lengthM) / (2 * p.radiusM) > 1.1 * length;
    return [
      {
        key: "pipe-entry",
        name: "Developed velocity, and entry length by correlation",
        kind: "table",
        source: "Durst, Ray, Unsal & Bayoumi, J. Fluids Eng. 127 (2005) 1154: L/D = (0.619^1.6 + (0.0567 Re)^1.6)^(1/1.6)",
        validity: {
          sentence: `Laminar, and read behind the entry: ${length.toPrecision(3)} diameters of the ${((READ_AT * p.lengthM) / (2 * p.radiusM)).toPrecision(3)} to the reading.`,
          inside: re < 2300 && long,
        },
        values: [
          {
            quantityKey: "endVelocity",
            value: 2 * p.meanVelocityMS,
            standardUncertainty: 0.002 * p.meanVelocityMS,
            uncertaintyNote: "what is left of the entry at the end",
          },
          {
            quantityKey: "entryLength",
            value: length,
            standardUncertainty: (0.03 * length) / Math.sqrt(3),
            uncertaintyNote: "3 % taken for the fit",
          },
        ],
        profiles: [],
      },
    ];
  },
};
