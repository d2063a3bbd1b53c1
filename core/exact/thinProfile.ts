import { pointwise, solution, within } from "./solution.ts";

/** Profile without thickness, its camber line a parabola. */
export const thinProfile = solution({
  id: "thin-profile",
  name: "Thin profile",
  subject: "Ideal flow",
  words: "thin aerofoil airfoil camber lift moment vortex sheet",
  nature: "asymptotic",
  uncertainty: 0.02,
  uncertaintyNote: "the sine of the incidence stands for itself; thickness adds its own share",
  formulas: [
    "c_l = 2\\pi(\\alpha + 2f), \\qquad c_{m,1/4} = -\\pi f",
    "\\Delta C_p = 4\\left(\\alpha\\,\\frac{1+\\cos\\theta}{\\sin\\theta}+4f\\sin\\theta\\right), \\quad x = \\tfrac12(1-\\cos\\theta)",
  ],
  source: "Glauert, The Elements of Aerofoil and Airscrew Theory, chapter VII; camber line z = 4 f x (1 - x)",
  physics: { inviscid: true, space: "plane" },
  parameters: [
    { key: "incidence", label: "Incidence", symbol: "\\alpha", unit: "rad", preset: 0.0523598776, low: -0.5, high: 0.5 },
    { key: "camber", label: "Largest camber over chord", symbol: "f", unit: "", preset: 0.02, low: -0.2, high: 0.2 },
  ],
  range: (p) => [
    within("The size of the incidence, rad,", Math.abs(p.incidence), { high: 0.18 }),
    within("The size of the camber", Math.abs(p.camber), { high: 0.06 }),
  ],
  values: (p) => [
    { key: "cl", name: "lift coefficient", unit: "", value: 2 * Math.PI * (p.incidence + 2 * p.camber) },
    { key: "cm", name: "moment coefficient about the quarter chord", unit: "", value: -Math.PI * p.camber },
    { key: "slope", name: "lift slope", unit: "1/rad", value: 2 * Math.PI },
    { key: "zero", name: "incidence of zero lift", unit: "rad", value: -2 * p.camber },
  ],
  curves: (p) => [
    {
      key: "load",
      name: "pressure difference over the chord",
      x: { name: "x over chord", unit: "" },
      y: { name: "difference of pressure coefficients", unit: "" },
      from: 0.002,
      to: 1,
      sample: pointwise((x) => {
        const cos = 1 - 2 * x;
        const sin = Math.sqrt(Math.max(0, 1 - cos * cos));
        return sin === 0 ? 0 : 4 * ((p.incidence * (1 + cos)) / sin + 4 * p.camber * sin);
      }),
    },
  ],
});
