import { turbulentFriction } from "./frictionFactor.ts";
import { REYNOLDS } from "./parameters.ts";
import { pointwise, solution, within } from "./solution.ts";

/** @source Gnielinski, Int. Chem. Eng. 16, 359 (1976) */
function gnielinski(re: number, pr: number): number {
  const f = turbulentFriction(re, 0) / 8;
  return (f * (re - 1000) * pr) / (1 + 12.7 * Math.sqrt(f) * (pr ** (2 / 3) - 1));
}

/** Heat transfer of developed turbulent flow in a smooth pipe. */
export const turbulentPipeHeat = solution({
  id: "turbulent-pipe-heat",
  name: "Turbulent heat transfer in a pipe",
  subject: "Heat in a flow",
  words: "gnielinski dittus boelter nusselt forced convection tube",
  nature: "correlation",
  uncertainty: 0.1,
  uncertaintyNote: "nine tenths of the measured points lie within; the power law is off by up to a quarter",
  formulas: [
    "\\mathit{Nu} = \\frac{(f/8)(\\mathit{Re}-1000)\\mathit{Pr}}{1+12.7\\sqrt{f/8}\\,(\\mathit{Pr}^{2/3}-1)}",
    "\\mathit{Nu} = 0.023\\,\\mathit{Re}^{4/5}\\mathit{Pr}^{0.4}\\;\\text{(heated)}",
  ],
  source: "Gnielinski, Int. Chem. Eng. 16, 359 (1976), friction by Colebrook; Dittus & Boelter (1930) as given by McAdams",
  physics: { heat: true, turbulent: true },
  parameters: [
    { ...REYNOLDS, label: "Reynolds number of the diameter", preset: 5e4, low: 1500, high: 1e8 },
    { key: "prandtl", label: "Prandtl number", symbol: "\\mathit{Pr}", unit: "", preset: 0.71, low: 0.01, high: 1e4, log: true, like: "prandtl" },
  ],
  range: (p) => [
    within("The Reynolds number", p.reynolds, { low: 3000, high: 5e6 }),
    within("The Prandtl number", p.prandtl, { low: 0.5, high: 2000 }),
  ],
  values: (p) => [
    { key: "nusselt", name: "Nusselt number", unit: "", value: gnielinski(p.reynolds, p.prandtl) },
    ...(p.reynolds >= 1e4 && p.prandtl >= 0.6 && p.prandtl <= 160
      ? [
          {
            key: "power",
            name: "Nusselt number, power law, heated",
            unit: "",
            value: 0.023 * p.reynolds ** 0.8 * p.prandtl ** 0.4,
            uncertainty: 0.25,
          },
        ]
      : []),
  ],
  curves: (p) => [
    {
      key: "nusselt",
      name: "Nusselt number over Reynolds number",
      x: { name: "Reynolds number", unit: "", log: true },
      y: { name: "Nusselt number", unit: "", log: true },
      from: 3000,
      to: 5e6,
      sample: pointwise((re) => gnielinski(re, p.prandtl)),
    },
  ],
});
