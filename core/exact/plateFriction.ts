import { REYNOLDS } from "./parameters.ts";
import { pointwise, solution, within } from "./solution.ts";

const local = (re: number) => 0.455 / Math.log(0.06 * re) ** 2;
const mean = (re: number) => 0.523 / Math.log(0.06 * re) ** 2;

/** Skin friction of a smooth flat plate, turbulent from its leading edge. */
export const plateFriction = solution({
  id: "plate-friction",
  name: "Friction of a flat plate",
  subject: "Turbulent walls",
  words: "skin friction turbulent boundary layer prandtl schlichting white power law drag",
  nature: "correlation",
  uncertainty: 0.05,
  uncertaintyNote: "spread of the laws among one another and about measurements",
  formulas: [
    "c_f = \\frac{0.455}{\\ln^2(0.06\\,\\mathit{Re}_x)}, \\qquad C_F = \\frac{0.523}{\\ln^2(0.06\\,\\mathit{Re}_L)}",
    "C_F = \\frac{0.455}{(\\log_{10}\\mathit{Re}_L)^{2.58}}, \\qquad c_f = 0.0592\\,\\mathit{Re}_x^{-1/5}, \\qquad c_f = 0.027\\,\\mathit{Re}_x^{-1/7}",
  ],
  source: "White, Viscous Fluid Flow, section 6-6.2; Schlichting & Gersten, section 18.2.5; Prandtl (1927)",
  physics: { turbulent: true },
  parameters: [{ ...REYNOLDS, label: "Reynolds number of the length", preset: 1e6, low: 1e4, high: 1e11 }],
  range: (p) => [within("The Reynolds number", p.reynolds, { low: 5e5, high: 1e9 })],
  values: ({ reynolds: re }) => [
    { key: "cf", name: "skin friction coefficient here", unit: "", value: local(re) },
    { key: "cfMean", name: "skin friction coefficient, mean", unit: "", value: mean(re) },
    { key: "logarithm", name: "mean coefficient, power of the logarithm", unit: "", value: 0.455 / Math.log10(re) ** 2.58 },
    { key: "fifth", name: "coefficient here, fifth root", unit: "", value: 0.0592 * re ** -0.2, ...(re > 1e7 ? { uncertainty: 0.25 } : {}) },
    { key: "seventh", name: "coefficient here, seventh root", unit: "", value: 0.027 * re ** (-1 / 7) },
  ],
  curves: () => [
    {
      key: "local",
      name: "skin friction coefficient along the plate",
      x: { name: "Reynolds number of the distance", unit: "", log: true },
      y: { name: "skin friction coefficient", unit: "", log: true },
      from: 5e5,
      to: 1e9,
      sample: pointwise(local),
    },
    {
      key: "mean",
      name: "mean skin friction coefficient",
      x: { name: "Reynolds number of the length", unit: "", log: true },
      y: { name: "skin friction coefficient", unit: "", log: true },
      from: 5e5,
      to: 1e9,
      sample: pointwise(mean),
    },
  ],
});
