import { REYNOLDS } from "./parameters.ts";
import { pointwise, solution, within } from "./solution.ts";

/** Euler's constant */
const EULER = 0.5772156649015329;

/** Drag coefficient of a long smooth cylinder across the stream, below the drag crisis. */
const fitted = (re: number) => 1.18 + 6.8 / re ** 0.89 + 1.96 / Math.sqrt(re) - (0.0004 * re) / (1 + 3.64e-7 * re * re);

/** 1/S of the slow-flow expansion. */
const slow = (re: number) => 1 / (Math.log(8 / re) + 0.5 - EULER);

/** Measured drag of a cylinder in a formula, and what theory says where it is slow. */
export const cylinderDrag = solution({
  id: "cylinder-drag",
  name: "Drag of a cylinder",
  subject: "Bodies",
  words: "drag correlation circular cylinder crossflow lamb oseen sucker brauer coefficient",
  nature: "correlation",
  uncertainty: 0.15,
  uncertaintyNote: "its largest distance from computed drag, near Reynolds number 40; elsewhere less",
  formulas: [
    "C_D = 1.18+\\frac{6.8}{\\mathit{Re}^{0.89}}+\\frac{1.96}{\\mathit{Re}^{1/2}}-\\frac{0.0004\\,\\mathit{Re}}{1+3.64\\cdot 10^{-7}\\mathit{Re}^2}",
    "C_D = \\frac{8\\pi}{\\mathit{Re}}\\left(S-0.87\\,S^3\\right), \\quad S^{-1} = \\ln\\frac{8}{\\mathit{Re}}+\\tfrac12-\\gamma_E \\quad (\\mathit{Re} \\le 0.5)",
  ],
  source: "Sucker & Brauer, Wärme- und Stoffübertragung 8, 149 (1975); Lamb, Phil. Mag. 21, 112 (1911); Kaplun, J. Math. Mech. 6, 595 (1957)",
  physics: { space: "plane" },
  parameters: [{ ...REYNOLDS, label: "Reynolds number of the diameter" }],
  range: (p) => [within("The Reynolds number", p.reynolds, { low: 1e-4, high: 2e5 })],
  values: ({ reynolds: re }) => [
    { key: "cd", name: "drag coefficient", unit: "", value: fitted(re) },
    ...(re <= 0.5
      ? [
          {
            key: "slow",
            name: "drag coefficient by the slow-flow expansion",
            unit: "",
            value: ((8 * Math.PI) / re) * (slow(re) - 0.87 * slow(re) ** 3),
            uncertainty: 0.87 * slow(re) ** 2,
          },
        ]
      : []),
  ],
  curves: () => [
    {
      key: "drag",
      name: "drag coefficient over Reynolds number",
      x: { name: "Reynolds number", unit: "", log: true },
      y: { name: "drag coefficient", unit: "", log: true },
      from: 0.01,
      to: 2e5,
      sample: pointwise(fitted),
    },
  ],
});
