import { KINEMATIC, LENGTH } from "./parameters.ts";
import { pointwise, solution, within } from "./solution.ts";

interface Jet {
  readonly momentum: number;
  readonly xM: number;
  readonly kinematicM2S: number;
}

const axis = (p: Jet) => (3 * p.momentum) / (8 * Math.PI * p.kinematicM2S * p.xM);
/** xi / r, so that u = u_0 / (1 + xi^2 / 4)^2 */
const slope = (p: Jet) => Math.sqrt((3 * p.momentum) / (16 * Math.PI)) / (p.kinematicM2S * p.xM);

/** Laminar round jet out of a small hole into resting fluid. */
export const roundJet = solution({
  id: "round-jet",
  name: "Round laminar jet",
  subject: "Jets and wakes",
  words: "schlichting axisymmetric jet laminar similarity entrainment",
  nature: "similarity",
  uncertainty: 0,
  formulas: [
    "u = \\frac{u_0}{(1+\\xi^2/4)^2}, \\quad u_0 = \\frac{3 M}{8\\pi\\nu x}, \\quad \\xi = \\sqrt{\\frac{3M}{16\\pi}}\\,\\frac{r}{\\nu x}",
    "M = 2\\pi\\int u^2 r\\,dr, \\qquad \\dot V = 8\\pi\\nu x",
  ],
  source: "Schlichting, Z. angew. Math. Mech. 13, 260 (1933); Schlichting & Gersten, section 7.2.6",
  physics: { space: "axisymmetric" },
  parameters: [
    { key: "momentum", label: "Momentum flux over density", symbol: "M", unit: "m^4/s^2", preset: 1e-7, low: 1e-14, high: 1e3, log: true },
    { ...LENGTH, key: "xM", label: "Distance from the hole", symbol: "x", preset: 0.05, like: "length" },
    KINEMATIC,
  ],
  range: (p) => [within("The Reynolds number of the jet, root of M over viscosity", Math.sqrt(p.momentum) / p.kinematicM2S, { low: 20, high: 1000 })],
  values: (p) => [
    { key: "axis", name: "velocity on the axis", unit: "m/s", value: axis(p) },
    { key: "half", name: "radius at half the velocity", unit: "m", value: (2 * Math.sqrt(Math.SQRT2 - 1)) / slope(p) },
    { key: "flowRate", name: "flow rate", unit: "m^3/s", value: 8 * Math.PI * p.kinematicM2S * p.xM },
  ],
  curves: (p) => [
    {
      key: "profile",
      name: "velocity over the radius",
      x: { name: "radius r", unit: "m" },
      y: { name: "velocity u", unit: "m/s" },
      from: 0,
      to: 8 / slope(p),
      sample: pointwise((r) => axis(p) / (1 + (slope(p) * r) ** 2 / 4) ** 2),
    },
  ],
});
