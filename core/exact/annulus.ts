import { DENSITY, LENGTH, PRESSURE_GRADIENT, VISCOSITY } from "./parameters.ts";
import { pointwise, solution, within } from "./solution.ts";

/** Developed laminar flow through the gap between two concentric pipes. */
export const annulus = solution({
  id: "annulus",
  name: "Annulus",
  subject: "Ducts and plates",
  words: "concentric ring gap laminar developed pressure gradient",
  nature: "exact",
  uncertainty: 0,
  formulas: [
    "u(r) = -\\frac{1}{4\\mu}\\frac{dp}{dx}\\left[a^2 - r^2 + (a^2 - b^2)\\frac{\\ln (a/r)}{\\ln (b/a)}\\right]",
    "\\dot V = -\\frac{\\pi}{8\\mu}\\frac{dp}{dx}\\left[a^4 - b^4 - \\frac{(a^2 - b^2)^2}{\\ln(a/b)}\\right]",
  ],
  source: "White, Viscous Fluid Flow, 3rd ed., section 3-3.2",
  physics: { space: "axisymmetric" },
  parameters: [
    { ...LENGTH, key: "outerM", label: "Outer radius", symbol: "a", preset: 0.02, like: "length" },
    { ...LENGTH, key: "innerM", label: "Inner radius", symbol: "b", preset: 0.01 },
    PRESSURE_GRADIENT,
    VISCOSITY,
    DENSITY,
  ],
  range: (p) => {
    const mean = Math.abs(flowRate(p)) / (Math.PI * (p.outerM ** 2 - p.innerM ** 2));
    return [
      within("The Reynolds number of the hydraulic diameter", (2 * p.densityKgM3 * mean * (p.outerM - p.innerM)) / p.viscosityPaS, { high: 2000 }),
    ];
  },
  values: (p) => {
    const [a, b] = [p.outerM, p.innerM];
    const top = Math.sqrt((a * a - b * b) / (2 * Math.log(a / b)));
    const slope = (r: number) => (-p.pressureGradientPaM / 4) * (-2 * r + (a * a - b * b) / (Math.log(a / b) * r));
    return [
      { key: "flowRate", name: "flow rate", unit: "m^3/s", value: flowRate(p) },
      { key: "mean", name: "mean velocity", unit: "m/s", value: flowRate(p) / (Math.PI * (a * a - b * b)) },
      { key: "radius", name: "radius of the largest velocity", unit: "m", value: top },
      { key: "largest", name: "largest velocity", unit: "m/s", value: velocity(p, top) },
      { key: "inner", name: "shear stress at the inner wall", unit: "Pa", value: slope(b) },
      { key: "outer", name: "shear stress at the outer wall", unit: "Pa", value: -slope(a) },
    ];
  },
  curves: (p) => [
    {
      key: "profile",
      name: "velocity across the gap",
      x: { name: "radius r", unit: "m" },
      y: { name: "velocity u", unit: "m/s" },
      from: p.innerM,
      to: p.outerM,
      sample: pointwise((r) => velocity(p, r)),
    },
  ],
});

interface Annulus {
  readonly outerM: number;
  readonly innerM: number;
  readonly pressureGradientPaM: number;
  readonly viscosityPaS: number;
}

function logRatio({ outerM, innerM }: Annulus): number {
  if (!(outerM > innerM)) throw new RangeError("The outer radius must be larger than the inner one.");
  return Math.log(outerM / innerM);
}

function velocity(p: Annulus, r: number): number {
  const [a, b] = [p.outerM, p.innerM];
  return (-p.pressureGradientPaM / (4 * p.viscosityPaS)) * (a * a - r * r - ((a * a - b * b) * Math.log(a / r)) / logRatio(p));
}

function flowRate(p: Annulus): number {
  const [a2, b2] = [p.outerM ** 2, p.innerM ** 2];
  return ((-Math.PI * p.pressureGradientPaM) / (8 * p.viscosityPaS)) * (a2 * a2 - b2 * b2 - (a2 - b2) ** 2 / logRatio(p));
}
