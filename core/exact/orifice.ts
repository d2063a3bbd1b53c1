import { DENSITY, LENGTH } from "./parameters.ts";
import { pointwise, solution, within } from "./solution.ts";

/** Discharge coefficient of a sharp orifice with corner taps. @source ISO 5167-2:2003, equation (4), Reader-Harris & Gallagher */
export function dischargeCoefficient(beta: number, reynolds: number, pipeM: number): number {
  const a = ((19000 * beta) / reynolds) ** 0.8;
  const small = pipeM < 0.07112 ? 0.011 * (0.75 - beta) * (2.8 - pipeM / 0.0254) : 0;
  return (
    0.5961 +
    0.0261 * beta ** 2 -
    0.216 * beta ** 8 +
    0.000521 * ((1e6 * beta) / reynolds) ** 0.7 +
    (0.0188 + 0.0063 * a) * beta ** 3.5 * (1e6 / reynolds) ** 0.3 +
    small
  );
}

interface Plate {
  readonly beta: number;
  readonly pipeM: number;
  readonly dropPa: number;
  readonly densityKgM3: number;
  readonly viscosityPaS: number;
}

/** Mass flow and what goes with it: the coefficient depends on the flow, so both are found together. */
function flowOf(p: Plate): { readonly mass: number; readonly coefficient: number; readonly reynolds: number } {
  const area = (Math.PI / 4) * (p.beta * p.pipeM) ** 2;
  const ideal = (area * Math.sqrt(2 * p.dropPa * p.densityKgM3)) / Math.sqrt(1 - p.beta ** 4);
  let coefficient = 0.6;
  let reynolds = 0;
  for (let k = 0; k < 60; k++) {
    reynolds = (4 * coefficient * ideal) / (Math.PI * p.pipeM * p.viscosityPaS);
    coefficient = dischargeCoefficient(p.beta, reynolds, p.pipeM);
  }
  return { mass: coefficient * ideal, coefficient, reynolds };
}

/** Flow through a standard orifice plate. */
export const orifice = solution({
  id: "orifice",
  name: "Orifice plate",
  subject: "Openings",
  words: "discharge coefficient differential pressure metering corner taps flow rate",
  nature: "correlation",
  uncertainty: 0.006,
  uncertaintyNote: "of the discharge coefficient, area ratios 0.2 to 0.6; 0.5 % to beta 0.6, more beyond",
  formulas: [
    "\\dot m = \\frac{C}{\\sqrt{1-\\beta^4}}\\,\\frac{\\pi}{4}d^2\\sqrt{2\\Delta p\\,\\rho}, \\qquad \\beta = d/D",
    "C = 0.5961+0.0261\\beta^2-0.216\\beta^8+0.000521\\left(\\tfrac{10^6\\beta}{\\mathit{Re}}\\right)^{0.7}+(0.0188+0.0063A)\\beta^{3.5}\\left(\\tfrac{10^6}{\\mathit{Re}}\\right)^{0.3}",
  ],
  source: "ISO 5167-2:2003, corner taps; Reader-Harris & Sattary, Flow Meas. Instrum. (1990)",
  physics: { turbulent: true },
  parameters: [
    { ...LENGTH, key: "pipeM", label: "Diameter of the pipe", symbol: "D", preset: 0.1, like: "length" },
    { key: "beta", label: "Diameter of the hole over the pipe's", symbol: "\\beta", unit: "", preset: 0.5, low: 0.05, high: 0.9 },
    { key: "dropPa", label: "Pressure drop at the plate", symbol: "\\Delta p", unit: "Pa", preset: 5000, low: 1e-3, high: 1e8, log: true },
    { ...DENSITY, preset: 1000 },
    {
      key: "viscosityPaS",
      label: "Dynamic viscosity",
      symbol: "\\mu",
      unit: "Pa s",
      preset: 1e-3,
      low: 1e-7,
      high: 10,
      log: true,
      like: "viscosity",
    },
  ],
  range: (p) => {
    const { reynolds } = flowOf(p);
    return [
      within("The diameter ratio", p.beta, { low: 0.1, high: 0.75 }),
      within("The pipe's diameter", p.pipeM, { low: 0.05, high: 1 }),
      within("The hole's diameter", p.beta * p.pipeM, { low: 0.0125 }),
      within("The Reynolds number of the pipe", reynolds, { low: p.beta <= 0.56 ? 5000 : 16000 * p.beta ** 2 }),
    ];
  },
  values: (p) => {
    const { mass, coefficient, reynolds } = flowOf(p);
    return [
      { key: "coefficient", name: "discharge coefficient", unit: "", value: coefficient },
      { key: "mass", name: "mass flow", unit: "kg/s", value: mass },
      { key: "volume", name: "flow rate", unit: "m^3/s", value: mass / p.densityKgM3 },
      { key: "reynolds", name: "Reynolds number of the pipe", unit: "", value: reynolds },
    ];
  },
  curves: (p) => [
    {
      key: "coefficient",
      name: "discharge coefficient over Reynolds number",
      x: { name: "Reynolds number of the pipe", unit: "", log: true },
      y: { name: "discharge coefficient", unit: "" },
      from: 5000,
      to: 1e7,
      sample: pointwise((re) => dischargeCoefficient(p.beta, re, p.pipeM)),
    },
  ],
});
