import { DENSITY, LENGTH, PRESSURE_GRADIENT, VISCOSITY } from "./parameters.ts";
import { pointwise, solution, within } from "./solution.ts";

/** Developed laminar flow through a duct of elliptic section. */
export const ellipticDuct = solution({
  id: "elliptic-duct",
  name: "Elliptic duct",
  subject: "Ducts and plates",
  words: "ellipse laminar developed",
  nature: "exact",
  uncertainty: 0,
  formulas: [
    "u = -\\frac{1}{2\\mu}\\frac{dp}{dx}\\,\\frac{a^2b^2}{a^2+b^2}\\left(1-\\frac{y^2}{a^2}-\\frac{z^2}{b^2}\\right)",
    "\\dot V = -\\frac{\\pi}{4\\mu}\\frac{dp}{dx}\\,\\frac{a^3b^3}{a^2+b^2}",
  ],
  source: "White, Viscous Fluid Flow, 3rd ed., section 3-3.3",
  physics: { space: "three-dimensional" },
  parameters: [
    { ...LENGTH, key: "halfWidthM", label: "Half width", symbol: "a", preset: 0.02, like: "length" },
    { ...LENGTH, key: "halfHeightM", label: "Half height", symbol: "b", preset: 0.01 },
    PRESSURE_GRADIENT,
    VISCOSITY,
    DENSITY,
  ],
  range: (p) => [
    within(
      "The Reynolds number of mean speed and smaller axis",
      (p.densityKgM3 * (Math.abs(axis(p)) / 2) * 2 * Math.min(p.halfWidthM, p.halfHeightM)) / p.viscosityPaS,
      {
        high: 2000,
      },
    ),
  ],
  values: (p) => [
    { key: "flowRate", name: "flow rate", unit: "m^3/s", value: (Math.PI / 2) * p.halfWidthM * p.halfHeightM * axis(p) },
    { key: "mean", name: "mean velocity", unit: "m/s", value: axis(p) / 2 },
    { key: "largest", name: "velocity on the axis", unit: "m/s", value: axis(p) },
  ],
  curves: (p) =>
    (
      [
        ["across", "velocity across the width, at half height", p.halfWidthM],
        ["up", "velocity over the height, at half width", p.halfHeightM],
      ] as const
    ).map(([key, name, half]) => ({
      key,
      name,
      x: { name: "from the middle", unit: "m" },
      y: { name: "velocity u", unit: "m/s" },
      from: -half,
      to: half,
      sample: pointwise((x) => axis(p) * (1 - (x / half) ** 2)),
    })),
});

/** Velocity on the axis, m/s. */
function axis(p: {
  readonly halfWidthM: number;
  readonly halfHeightM: number;
  readonly pressureGradientPaM: number;
  readonly viscosityPaS: number;
}): number {
  const [a2, b2] = [p.halfWidthM ** 2, p.halfHeightM ** 2];
  return ((-p.pressureGradientPaM / (2 * p.viscosityPaS)) * a2 * b2) / (a2 + b2);
}
