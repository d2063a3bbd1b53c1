import { PRANDTL } from "./parameters.ts";
import { pointwise, solution, within } from "./solution.ts";

const whole = (ra: number, pr: number) => (0.825 + (0.387 * ra ** (1 / 6)) / (1 + (0.492 / pr) ** (9 / 16)) ** (8 / 27)) ** 2;
const laminar = (ra: number, pr: number) => 0.68 + (0.67 * ra ** 0.25) / (1 + (0.492 / pr) ** (9 / 16)) ** (4 / 9);

/** Heat that rises by itself along a warm upright plate. */
export const verticalPlate = solution({
  id: "vertical-plate",
  name: "Natural convection at an upright plate",
  subject: "Natural convection",
  words: "churchill chu nusselt rayleigh free buoyancy wall",
  nature: "correlation",
  uncertainty: 0.15,
  uncertaintyNote: "scatter of measurements about the formula",
  formulas: [
    "\\overline{\\mathit{Nu}} = \\left\\{0.825+\\frac{0.387\\,\\mathit{Ra}^{1/6}}{[1+(0.492/\\mathit{Pr})^{9/16}]^{8/27}}\\right\\}^2",
    "\\overline{\\mathit{Nu}} = 0.68+\\frac{0.670\\,\\mathit{Ra}^{1/4}}{[1+(0.492/\\mathit{Pr})^{9/16}]^{4/9}} \\quad (\\mathit{Ra}\\le 10^9)",
  ],
  source: "Churchill & Chu, Int. J. Heat Mass Transfer 18, 1323 (1975)",
  physics: { heat: true },
  parameters: [
    {
      key: "rayleigh",
      label: "Rayleigh number of the height",
      symbol: "\\mathit{Ra}",
      unit: "",
      preset: 1e8,
      low: 1e-2,
      high: 1e14,
      log: true,
      like: "rayleigh",
    },
    PRANDTL,
  ],
  range: (p) => [within("The Rayleigh number", p.rayleigh, { low: 0.1, high: 1e12 })],
  values: (p) => [
    { key: "nusselt", name: "mean Nusselt number", unit: "", value: whole(p.rayleigh, p.prandtl) },
    ...(p.rayleigh <= 1e9
      ? [{ key: "laminar", name: "mean Nusselt number, laminar formula", unit: "", value: laminar(p.rayleigh, p.prandtl), uncertainty: 0.1 }]
      : []),
  ],
  curves: (p) => [
    {
      key: "nusselt",
      name: "mean Nusselt number over Rayleigh number",
      x: { name: "Rayleigh number", unit: "", log: true },
      y: { name: "mean Nusselt number", unit: "", log: true },
      from: 1,
      to: 1e12,
      sample: pointwise((ra) => whole(ra, p.prandtl)),
    },
  ],
});
