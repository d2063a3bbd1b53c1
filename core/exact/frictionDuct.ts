import { bisect } from "../numeric/bisect.ts";
import { GAMMA } from "./parameters.ts";
import { pointwise, solution } from "./solution.ts";

/** Friction factor (Darcy) times length over diameter up to where the flow is sonic. */
export function frictionLength(m: number, g: number): number {
  const m2 = m * m;
  return (1 - m2) / (g * m2) + ((g + 1) / (2 * g)) * Math.log(((g + 1) * m2) / (2 + (g - 1) * m2));
}

const pressure = (m: number, g: number) => Math.sqrt((g + 1) / (2 + (g - 1) * m * m)) / m;
const temperature = (m: number, g: number) => (g + 1) / (2 + (g - 1) * m * m);
const total = (m: number, g: number) => ((2 + (g - 1) * m * m) / (g + 1)) ** ((g + 1) / (2 * (g - 1))) / m;

/** Mach number after a length of duct. @throws {RangeError} The duct is longer than the flow can go. */
export function machAfterFriction(mach: number, length: number, gamma: number): number {
  const left = frictionLength(mach, gamma) - length;
  if (!(left >= 0)) throw new RangeError("The duct is longer than this flow can go: it chokes, and the state at its beginning changes.");
  if (left === 0) return 1;
  return mach < 1 ? bisect((m) => left - frictionLength(m, gamma), mach, 1) : bisect((m) => frictionLength(m, gamma) - left, 1, mach);
}

/** Gas in a duct of one section with friction and no heat. */
export const frictionDuct = solution({
  id: "friction-duct",
  name: "Duct flow with friction",
  subject: "Gas: ducts",
  words: "fanno adiabatic choking compressible pipe",
  nature: "exact",
  uncertainty: 0,
  formulas: [
    "\\frac{fL^*}{D} = \\frac{1-M^2}{\\gamma M^2}+\\frac{\\gamma+1}{2\\gamma}\\ln\\frac{(\\gamma+1)M^2}{2+(\\gamma-1)M^2}",
    "\\frac{p}{p^*} = \\frac1M\\sqrt{\\frac{\\gamma+1}{2+(\\gamma-1)M^2}}, \\qquad \\frac{T}{T^*} = \\frac{\\gamma+1}{2+(\\gamma-1)M^2}",
  ],
  source: "Shapiro, The Dynamics and Thermodynamics of Compressible Fluid Flow (1953), chapter 6; Darcy factor",
  physics: { compressible: true },
  parameters: [
    { key: "mach", label: "Mach number at the beginning", symbol: "M_1", unit: "", preset: 0.3, low: 0.01, high: 20, like: "mach" },
    { key: "length", label: "Friction factor times length over diameter", symbol: "fL/D", unit: "", preset: 2, low: 0, high: 1e4 },
    GAMMA,
  ],
  range: () => [{ inside: true, sentence: "Exact for one-dimensional flow with a friction factor that does not change." }],
  values: (p) => {
    const m = machAfterFriction(p.mach, p.length, p.gamma);
    return [
      { key: "mach", name: "Mach number at the end", unit: "", value: m },
      { key: "pressure", name: "pressure at the end over the beginning", unit: "", value: pressure(m, p.gamma) / pressure(p.mach, p.gamma) },
      {
        key: "temperature",
        name: "temperature at the end over the beginning",
        unit: "",
        value: temperature(m, p.gamma) / temperature(p.mach, p.gamma),
      },
      { key: "total", name: "total pressure at the end over the beginning", unit: "", value: total(m, p.gamma) / total(p.mach, p.gamma) },
      { key: "choking", name: "f L / D at which it chokes", unit: "", value: frictionLength(p.mach, p.gamma) },
    ];
  },
  curves: (p) => [
    {
      key: "mach",
      name: "Mach number along the duct",
      x: { name: "f x / D", unit: "" },
      y: { name: "Mach number", unit: "" },
      from: 0,
      to: 0.9999 * frictionLength(p.mach, p.gamma),
      sample: pointwise((x) => machAfterFriction(p.mach, x, p.gamma)),
    },
  ],
});
