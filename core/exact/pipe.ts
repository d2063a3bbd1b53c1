import { DENSITY, LENGTH, SPEED, VISCOSITY } from "./parameters.ts";
import { pointwise, solution, within } from "./solution.ts";

/** Developed laminar flow through a round pipe. */
export const pipe = solution({
  id: "pipe",
  name: "Round pipe",
  subject: "Ducts and plates",
  words: "hagen poiseuille tube laminar developed parabola friction pressure drop",
  nature: "exact",
  uncertainty: 0,
  formulas: [
    "u(r) = 2 \\bar u \\left(1 - \\frac{4 r^2}{D^2}\\right), \\qquad \\frac{dp}{dx} = -\\frac{32 \\mu \\bar u}{D^2}",
    "\\tau_w = \\frac{8 \\mu \\bar u}{D}, \\qquad f = \\frac{64}{\\mathit{Re}}",
  ],
  source: "White, Viscous Fluid Flow, 3rd ed., section 3-3; Darcy friction factor",
  physics: { space: "axisymmetric" },
  parameters: [
    { ...LENGTH, key: "diameterM", label: "Diameter", symbol: "D", preset: 0.02, like: "length" },
    { ...SPEED, key: "meanMS", label: "Mean velocity", symbol: "\\bar u", preset: 0.5 },
    VISCOSITY,
    DENSITY,
  ],
  range: (p) => [within("The Reynolds number of the diameter", (p.densityKgM3 * p.meanMS * p.diameterM) / p.viscosityPaS, { high: 2300 })],
  values: (p) => {
    const reynolds = (p.densityKgM3 * p.meanMS * p.diameterM) / p.viscosityPaS;
    return [
      { key: "gradient", name: "pressure gradient", unit: "Pa/m", value: (-32 * p.viscosityPaS * p.meanMS) / p.diameterM ** 2 },
      { key: "flowRate", name: "flow rate", unit: "m^3/s", value: (Math.PI / 4) * p.diameterM ** 2 * p.meanMS },
      { key: "axis", name: "velocity on the axis", unit: "m/s", value: 2 * p.meanMS },
      { key: "shear", name: "wall shear stress", unit: "Pa", value: (8 * p.viscosityPaS * p.meanMS) / p.diameterM },
      { key: "friction", name: "friction factor (Darcy)", unit: "", value: 64 / reynolds },
      { key: "reynolds", name: "Reynolds number", unit: "", value: reynolds },
    ];
  },
  curves: (p) => [
    {
      key: "profile",
      name: "velocity over the radius",
      x: { name: "radius r", unit: "m" },
      y: { name: "velocity u", unit: "m/s" },
      from: 0,
      to: p.diameterM / 2,
      sample: pointwise((r) => 2 * p.meanMS * (1 - ((2 * r) / p.diameterM) ** 2)),
    },
  ],
});
