import { DENSITY, LENGTH, PRESSURE_GRADIENT, VISCOSITY } from "./parameters.ts";
import { pointwise, solution, within } from "./solution.ts";

interface Duct {
  readonly widthM: number;
  readonly heightM: number;
  readonly pressureGradientPaM: number;
  readonly viscosityPaS: number;
}

/** odd members of the series up to where they fall under round-off of the sums */
const MEMBERS = Array.from({ length: 60 }, (_, k) => 2 * k + 1);

/** cosh(x) / cosh(top) for |x| <= top, without overflow. */
const coshRatio = (x: number, top: number) => (Math.exp(Math.abs(x) - top) * (1 + Math.exp(-2 * Math.abs(x)))) / (1 + Math.exp(-2 * top));

/** Velocity at (y, z) from the middle, m/s: the gap's parabola across the shorter side less what the two other walls take. */
export function rectangleVelocity(p: Duct, yM: number, zM: number): number {
  // The series runs along the shorter side: it converges fastest so.
  const [a, b, y, z] = p.widthM <= p.heightM ? [p.widthM / 2, p.heightM / 2, yM, zM] : [p.heightM / 2, p.widthM / 2, zM, yM];
  const push = -p.pressureGradientPaM / p.viscosityPaS;
  let sum = 0;
  for (const n of MEMBERS) {
    const q = (n * Math.PI) / (2 * a);
    const sign = n % 4 === 1 ? 1 : -1;
    sum += ((sign * coshRatio(q * z, q * b)) / n ** 3) * Math.cos(q * y);
  }
  return push * ((a * a - y * y) / 2 - ((16 * a * a) / Math.PI ** 3) * sum);
}

/** Flow rate, m^3/s. */
export function rectangleFlowRate(p: Duct): number {
  const [a, b] = [Math.min(p.widthM, p.heightM) / 2, Math.max(p.widthM, p.heightM) / 2];
  const push = -p.pressureGradientPaM / p.viscosityPaS;
  let sum = 0;
  for (const n of MEMBERS) sum += Math.tanh((n * Math.PI * b) / (2 * a)) / n ** 5;
  return ((4 * b * a ** 3 * push) / 3) * (1 - ((192 * a) / (Math.PI ** 5 * b)) * sum);
}

/** Developed laminar flow through a duct of rectangular section. */
export const rectangularDuct = solution({
  id: "rectangular-duct",
  name: "Rectangular duct",
  subject: "Ducts and plates",
  words: "square channel laminar developed aspect ratio series",
  nature: "series",
  uncertainty: 0,
  formulas: [
    "u = -\\frac{1}{\\mu}\\frac{dp}{dx}\\left[\\frac{a^2-y^2}{2} - \\frac{16a^2}{\\pi^3}\\sum_{n\\,\\mathrm{odd}}\\frac{(-1)^{(n-1)/2}}{n^3}\\,\\frac{\\cosh(n\\pi z/2a)}{\\cosh(n\\pi b/2a)}\\cos\\frac{n\\pi y}{2a}\\right]",
    "\\dot V = -\\frac{4ba^3}{3\\mu}\\frac{dp}{dx}\\left[1-\\frac{192a}{\\pi^5 b}\\sum_{n\\,\\mathrm{odd}}\\frac{\\tanh(n\\pi b/2a)}{n^5}\\right]",
  ],
  source: "White, Viscous Fluid Flow, 3rd ed., section 3-3.3; half sides a <= b",
  physics: { space: "three-dimensional" },
  parameters: [
    { ...LENGTH, key: "widthM", label: "Width", symbol: "2a", preset: 0.02, like: "length" },
    { ...LENGTH, key: "heightM", label: "Height", symbol: "2b", preset: 0.02 },
    PRESSURE_GRADIENT,
    VISCOSITY,
    DENSITY,
  ],
  range: (p) => [within("The Reynolds number of the hydraulic diameter", reynolds(p), { high: 2000 })],
  values: (p) => {
    const mean = rectangleFlowRate(p) / (p.widthM * p.heightM);
    const hydraulic = (2 * p.widthM * p.heightM) / (p.widthM + p.heightM);
    const largest = rectangleVelocity(p, 0, 0);
    return [
      { key: "flowRate", name: "flow rate", unit: "m^3/s", value: rectangleFlowRate(p) },
      { key: "mean", name: "mean velocity", unit: "m/s", value: mean },
      { key: "largest", name: "velocity on the axis", unit: "m/s", value: largest },
      { key: "ratio", name: "velocity on the axis over the mean", unit: "", value: largest / mean },
      {
        key: "frictionReynolds",
        name: "friction factor (Darcy) times Reynolds number",
        unit: "",
        value: (-2 * p.pressureGradientPaM * hydraulic ** 2) / (p.viscosityPaS * mean),
      },
      { key: "shear", name: "mean wall shear stress", unit: "Pa", value: (-p.pressureGradientPaM * hydraulic) / 4 },
    ];
  },
  curves: (p) => [
    {
      key: "across",
      name: "velocity across the width, at half height",
      x: { name: "y from the middle", unit: "m" },
      y: { name: "velocity u", unit: "m/s" },
      from: -p.widthM / 2,
      to: p.widthM / 2,
      sample: pointwise((y) => rectangleVelocity(p, y, 0)),
    },
    {
      key: "up",
      name: "velocity over the height, at half width",
      x: { name: "z from the middle", unit: "m" },
      y: { name: "velocity u", unit: "m/s" },
      from: -p.heightM / 2,
      to: p.heightM / 2,
      sample: pointwise((z) => rectangleVelocity(p, 0, z)),
    },
  ],
});

function reynolds(p: Duct & { readonly densityKgM3: number }): number {
  const mean = Math.abs(rectangleFlowRate(p)) / (p.widthM * p.heightM);
  return (p.densityKgM3 * mean * 2 * p.widthM * p.heightM) / ((p.widthM + p.heightM) * p.viscosityPaS);
}
