import { KINEMATIC, LENGTH } from "./parameters.ts";
import { pointwise, solution, within } from "./solution.ts";

interface Jet {
  readonly momentum: number;
  readonly xM: number;
  readonly kinematicM2S: number;
}

const axis = (p: Jet) => ((3 * p.momentum ** 2) / (32 * p.kinematicM2S * p.xM)) ** (1 / 3);
/** height over which u falls to sech^2(1) */
const breadth = (p: Jet) => ((48 * p.kinematicM2S ** 2 * p.xM ** 2) / p.momentum) ** (1 / 3);

/** Laminar plane jet out of a narrow slot into resting fluid. */
export const planeJet = solution({
  id: "plane-jet",
  name: "Plane laminar jet",
  subject: "Jets and wakes",
  words: "schlichting bickley slot jet laminar similarity entrainment",
  nature: "similarity",
  uncertainty: 0,
  formulas: [
    "u = u_0 \\operatorname{sech}^2\\frac{y}{b}, \\quad u_0 = \\left(\\frac{3 M^2}{32\\nu x}\\right)^{1/3}, \\quad b = \\left(\\frac{48\\nu^2x^2}{M}\\right)^{1/3}",
    "M = \\int u^2\\,dy, \\qquad \\dot V' = (36 M \\nu x)^{1/3}",
  ],
  source: "Schlichting, Z. angew. Math. Mech. 13, 260 (1933); Bickley, Phil. Mag. 23, 727 (1937)",
  physics: { space: "plane" },
  parameters: [
    { key: "momentum", label: "Momentum flux over density and depth", symbol: "M", unit: "m^3/s^2", preset: 1e-5, low: 1e-12, high: 1e3, log: true },
    { ...LENGTH, key: "xM", label: "Distance from the slot", symbol: "x", preset: 0.05, like: "length" },
    KINEMATIC,
  ],
  range: (p) => [
    within("The Reynolds number of axis speed and breadth", (axis(p) * breadth(p)) / p.kinematicM2S, { high: 30 }),
    within("The breadth over the distance", breadth(p) / p.xM, { high: 0.3 }),
  ],
  values: (p) => [
    { key: "axis", name: "velocity on the axis", unit: "m/s", value: axis(p) },
    { key: "half", name: "half breadth at half the velocity", unit: "m", value: breadth(p) * Math.acosh(Math.SQRT2) },
    { key: "flowRate", name: "flow rate per depth", unit: "m^2/s", value: 2 * axis(p) * breadth(p) },
  ],
  curves: (p) => [
    {
      key: "profile",
      name: "velocity across the jet",
      x: { name: "y from the axis", unit: "m" },
      y: { name: "velocity u", unit: "m/s" },
      from: -4 * breadth(p),
      to: 4 * breadth(p),
      sample: pointwise((y) => axis(p) / Math.cosh(y / breadth(p)) ** 2),
    },
    {
      key: "along",
      name: "velocity on the axis",
      x: { name: "distance x", unit: "m" },
      y: { name: "velocity u", unit: "m/s" },
      from: p.xM / 10,
      to: p.xM,
      sample: pointwise((xM) => axis({ ...p, xM })),
    },
  ],
});
