import { DENSITY } from "./parameters.ts";
import { pointwise, solution } from "./solution.ts";

/** m^3/s through a fitting of Kv = 1 (1 m^3/h at 1 bar, density 1000) per root of Pa over kg/m^3 */
const PER_KV = (1 / 3600) * Math.sqrt(1000 / 1e5);
/** gallons (US) a minute at 1 psi */
const CV_PER_KV = 3.785411784e-3 / 60 / (Math.sqrt(6894.757293168 / 1000) * PER_KV);

/** Flow, pressure drop and the coefficients a fitting is catalogued by. */
export const flowCoefficient = solution({
  id: "flow-coefficient",
  name: "Flow coefficients of a fitting",
  subject: "Openings",
  words: "kv cv loss coefficient zeta pressure drop flow rate louvre damper",
  nature: "exact",
  uncertainty: 0,
  uncertaintyNote: "the definitions themselves",
  formulas: [
    "K_v = \\dot V\\,[\\mathrm{m^3/h}]\\sqrt{\\frac{\\rho/1000}{\\Delta p\\,[\\mathrm{bar}]}}, \\qquad C_v \\approx 1.156\\,K_v",
    "\\zeta = \\frac{2\\Delta p\\,A^2}{\\rho\\dot V^2}, \\qquad C_d = \\zeta^{-1/2}",
  ],
  source: "IEC 60534-1 for Kv and Cv; definitions",
  physics: {},
  parameters: [
    { key: "flowM3S", label: "Flow rate", symbol: "\\dot V", unit: "m^3/s", preset: 0.05, low: 1e-12, high: 1e5, log: true },
    { key: "dropPa", label: "Pressure drop", symbol: "\\Delta p", unit: "Pa", preset: 30, low: 1e-6, high: 1e9, log: true },
    { key: "areaM2", label: "Reference area", symbol: "A", unit: "m^2", preset: 0.02, low: 1e-9, high: 1e4, log: true },
    DENSITY,
  ],
  range: () => [{ inside: true, sentence: "Definitions; they mean one number only where the flow goes with the root of the drop." }],
  values: (p) => {
    const kv = p.flowM3S / (PER_KV * Math.sqrt(p.dropPa / p.densityKgM3));
    const zeta = (2 * p.dropPa * p.areaM2 ** 2) / (p.densityKgM3 * p.flowM3S ** 2);
    return [
      { key: "kv", name: "Kv, m³/h at 1 bar", unit: "", value: kv },
      { key: "cv", name: "Cv, US gallons a minute at 1 psi", unit: "", value: kv / CV_PER_KV },
      { key: "zeta", name: "loss coefficient", unit: "", value: zeta },
      { key: "cd", name: "discharge coefficient", unit: "", value: 1 / Math.sqrt(zeta) },
    ];
  },
  curves: (p) => [
    {
      key: "drop",
      name: "pressure drop over flow rate",
      x: { name: "flow rate", unit: "m^3/s" },
      y: { name: "pressure drop", unit: "Pa" },
      from: 0,
      to: 2 * p.flowM3S,
      sample: pointwise((v) => p.dropPa * (v / p.flowM3S) ** 2),
    },
  ],
});
