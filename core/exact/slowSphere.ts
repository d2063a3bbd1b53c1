import { REYNOLDS } from "./parameters.ts";
import { pointwise, solution, within } from "./solution.ts";

/** Drag of a sphere where inertia is small but felt. */
export const slowSphere = solution({
  id: "slow-sphere",
  name: "Sphere with slight inertia",
  subject: "Bodies",
  words: "oseen drag sphere low reynolds correction matched expansion",
  nature: "asymptotic",
  uncertainty: 0.02,
  uncertaintyNote: "the difference of its last two members",
  formulas: ["C_D = \\frac{24}{\\mathit{Re}}\\left[1+\\frac{3}{16}\\mathit{Re}+\\frac{9}{160}\\mathit{Re}^2\\ln\\frac{\\mathit{Re}}{2}\\right]"],
  source: "Oseen, Ark. Mat. Astron. Fys. 6, 29 (1910); Proudman & Pearson, J. Fluid Mech. 2, 237 (1957)",
  physics: { space: "axisymmetric" },
  parameters: [{ ...REYNOLDS, label: "Reynolds number of the diameter", preset: 0.3, high: 100 }],
  range: (p) => [within("The Reynolds number", p.reynolds, { high: 0.5 })],
  values: (p) => {
    const last = Math.abs((9 / 160) * p.reynolds ** 2 * Math.log(p.reynolds / 2)) / (1 + (3 / 16) * p.reynolds);
    return [
      { key: "cd", name: "drag coefficient", unit: "", value: (24 / p.reynolds) * threeTerms(p.reynolds), uncertainty: last },
      {
        key: "oseen",
        name: "drag coefficient by the first two members",
        unit: "",
        value: (24 / p.reynolds) * (1 + (3 / 16) * p.reynolds),
        uncertainty: last,
      },
    ];
  },
  curves: (p) => [
    {
      key: "drag",
      name: "drag coefficient over Reynolds number",
      x: { name: "Reynolds number", unit: "", log: true },
      y: { name: "drag coefficient", unit: "", log: true },
      from: Math.min(0.01, p.reynolds),
      to: Math.max(0.5, p.reynolds),
      sample: pointwise((re) => (24 / re) * threeTerms(re)),
    },
  ],
});

const threeTerms = (re: number) => 1 + (3 / 16) * re + (9 / 160) * re * re * Math.log(re / 2);
