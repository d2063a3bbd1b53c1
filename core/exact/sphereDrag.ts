import { REYNOLDS } from "./parameters.ts";
import { pointwise, solution, within } from "./solution.ts";

/** Drag coefficient of a smooth sphere, from creeping flow to below the drag crisis. */
export function sphereDragCoefficient(re: number): number {
  return (24 / re) * (1 + 0.15 * re ** 0.681) + 0.407 / (1 + 8710 / re);
}

/** Measured drag of a sphere in formulas. */
export const sphereDrag = solution({
  id: "sphere-drag",
  name: "Drag of a sphere",
  subject: "Bodies",
  words: "drag correlation schiller naumann brown lawler sphere coefficient",
  nature: "correlation",
  uncertainty: 0.06,
  uncertaintyNote: "read off the scatter of the measured points it was fitted to",
  formulas: [
    "C_D = \\frac{24}{\\mathit{Re}}\\left(1+0.150\\,\\mathit{Re}^{0.681}\\right)+\\frac{0.407}{1+8710/\\mathit{Re}}",
    "C_D = \\frac{24}{\\mathit{Re}}\\left(1+0.15\\,\\mathit{Re}^{0.687}\\right) \\quad (\\mathit{Re} \\le 800)",
  ],
  source: "Brown & Lawler, J. Environ. Eng. 129, 222 (2003); Schiller & Naumann, Z. VDI 77, 318 (1933)",
  physics: { space: "three-dimensional" },
  parameters: [{ ...REYNOLDS, label: "Reynolds number of the diameter" }],
  range: (p) => [within("The Reynolds number", p.reynolds, { low: 0.002, high: 2e5 })],
  values: (p) => [
    { key: "cd", name: "drag coefficient", unit: "", value: sphereDragCoefficient(p.reynolds) },
    ...(p.reynolds <= 800
      ? [{ key: "older", name: "drag coefficient by the older formula", unit: "", value: (24 / p.reynolds) * (1 + 0.15 * p.reynolds ** 0.687) }]
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
      sample: pointwise(sphereDragCoefficient),
    },
  ],
});
