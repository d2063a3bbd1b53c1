import { bisect } from "../numeric/bisect.ts";
import { GAMMA } from "./parameters.ts";
import { pointwise, solution } from "./solution.ts";

/** Total temperature over that of the sonic state. */
export const totalTemperature = (m: number, g: number) => ((g + 1) * m * m * (2 + (g - 1) * m * m)) / (1 + g * m * m) ** 2;
const pressure = (m: number, g: number) => (1 + g) / (1 + g * m * m);
const temperature = (m: number, g: number) => ((1 + g) * m) ** 2 / (1 + g * m * m) ** 2;
const total = (m: number, g: number) => pressure(m, g) * ((2 + (g - 1) * m * m) / (g + 1)) ** (g / (g - 1));

/** Mach number after heat was added. @throws {RangeError} More heat than the flow can take. */
export function machAfterHeat(mach: number, ratio: number, gamma: number): number {
  const wanted = totalTemperature(mach, gamma) * ratio;
  if (!(wanted <= 1)) throw new RangeError("The flow cannot take that much heat: it chokes, and the state at its beginning changes.");
  if (mach < 1) return bisect((m) => totalTemperature(m, gamma) - wanted, 0, 1);
  // Fast flows fall towards this limit as they grow faster still.
  if (wanted <= (gamma * gamma - 1) / (gamma * gamma)) throw new RangeError("No flow is so cold and so fast.");
  return bisect((m) => wanted - totalTemperature(m, gamma), 1, 1e6);
}

/** Gas in a duct of one section with heat and no friction. */
export const heatedDuct = solution({
  id: "heated-duct",
  name: "Duct flow with heating",
  subject: "Gas: ducts",
  words: "rayleigh line heat addition cooling choking compressible",
  nature: "exact",
  uncertainty: 0,
  formulas: [
    "\\frac{T_0}{T_0^*} = \\frac{(\\gamma+1)M^2[2+(\\gamma-1)M^2]}{(1+\\gamma M^2)^2}, \\qquad \\frac{p}{p^*} = \\frac{1+\\gamma}{1+\\gamma M^2}",
  ],
  source: "Shapiro, The Dynamics and Thermodynamics of Compressible Fluid Flow (1953), chapter 7",
  physics: { compressible: true, inviscid: true, heat: true },
  parameters: [
    { key: "mach", label: "Mach number at the beginning", symbol: "M_1", unit: "", preset: 0.3, low: 0.01, high: 20, like: "mach" },
    { key: "ratio", label: "Total temperature at the end over the beginning", symbol: "T_{02}/T_{01}", unit: "", preset: 1.5, low: 0.01, high: 1000 },
    GAMMA,
  ],
  range: () => [{ inside: true, sentence: "Exact for one-dimensional flow of a perfect gas without friction." }],
  values: (p) => {
    const m = machAfterHeat(p.mach, p.ratio, p.gamma);
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
      { key: "choking", name: "ratio of total temperatures at which it chokes", unit: "", value: 1 / totalTemperature(p.mach, p.gamma) },
    ];
  },
  curves: (p) => [
    {
      key: "total",
      name: "total temperature over Mach number",
      x: { name: "Mach number", unit: "" },
      y: { name: "total temperature over its largest", unit: "" },
      from: 0,
      to: 3,
      sample: pointwise((m) => totalTemperature(m, p.gamma)),
    },
  ],
});
