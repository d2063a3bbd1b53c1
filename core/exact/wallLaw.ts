import { bisect } from "../numeric/bisect.ts";
import { integrate } from "../numeric/ode.ts";
import { pointwise, type SolutionCurve, solution, within } from "./solution.ts";

interface Law {
  readonly kappa: number;
  readonly offset: number;
}

/** y+ at a u+: one formula from the wall outward. @source Spalding, J. Appl. Mech. 28, 455 (1961) */
function spaldingHeight({ kappa, offset }: Law, u: number): number {
  const k = kappa * u;
  // The exponential less its first members: a series where they would cancel.
  let rest = Math.exp(k) - 1 - k - k ** 2 / 2 - k ** 3 / 6;
  if (k < 0.5) {
    let term = k ** 4 / 24;
    rest = 0;
    for (let n = 5; term > 1e-18 * k ** 4; n++) {
      rest += term;
      term *= k / n;
    }
  }
  return u + Math.exp(-kappa * offset) * rest;
}

/** u+ of the one-formula law at a y+. */
export const spalding = (law: Law, y: number) => (y === 0 ? 0 : bisect((u) => spaldingHeight(law, u) - y, 0, y));

/** u+ of the law in four parts. @source Reichardt, Z. angew. Math. Mech. 31, 208 (1951); with exp(-y+/3) */
export const reichardt = ({ kappa, offset }: Law, y: number) =>
  Math.log(1 + kappa * y) / kappa + (offset - Math.log(kappa) / kappa) * (1 - Math.exp(-y / 11) - (y / 11) * Math.exp(-y / 3));

/** du+/dy+ of a mixing length that is damped at the wall. @source van Driest, J. Aeronaut. Sci. 23, 1007 (1956) */
const damped = (kappa: number, y: number) => {
  const length = kappa * y * -Math.expm1(-y / 26);
  return 2 / (1 + Math.sqrt(1 + 4 * length * length));
};

/** Mean velocity near a smooth wall in its own units. */
export const wallLaw = solution({
  id: "wall-law",
  name: "Law of the wall",
  subject: "Turbulent walls",
  words: "logarithmic law viscous sublayer buffer spalding reichardt van driest y plus u plus friction velocity",
  nature: "correlation",
  uncertainty: 0.03,
  uncertaintyNote: "spread of the constants over sources",
  formulas: [
    "u^+ = y^+ \\;(y^+<5), \\qquad u^+ = \\frac1\\kappa\\ln y^+ + B \\;(y^+>30)",
    "y^+ = u^+ + e^{-\\kappa B}\\left[e^{\\kappa u^+}-1-\\kappa u^+-\\tfrac{(\\kappa u^+)^2}{2}-\\tfrac{(\\kappa u^+)^3}{6}\\right]",
    "u^+ = \\tfrac1\\kappa\\ln(1+\\kappa y^+)+\\left(B-\\tfrac{\\ln\\kappa}{\\kappa}\\right)\\left(1-e^{-y^+/11}-\\tfrac{y^+}{11}e^{-y^+/3}\\right)",
    "\\frac{du^+}{dy^+} = \\frac{2}{1+\\sqrt{1+4\\kappa^2y^{+2}\\left(1-e^{-y^+/26}\\right)^2}}",
  ],
  source: "Spalding (1961); Reichardt (1951); van Driest (1956); constants: Coles, 2nd Symp. Naval Hydrodynamics (1956)",
  physics: { turbulent: true },
  parameters: [
    { key: "yPlus", label: "Height in wall units", symbol: "y^+", unit: "", preset: 100, low: 0, high: 1e5 },
    {
      key: "frictionReynolds",
      label: "Layer or half gap in wall units",
      symbol: "\\delta^+",
      unit: "",
      preset: 2000,
      low: 100,
      high: 1e6,
      log: true,
    },
    { key: "kappa", label: "Constant of the logarithm", symbol: "\\kappa", unit: "", preset: 0.41, low: 0.35, high: 0.45 },
    { key: "offset", label: "Constant added", symbol: "B", unit: "", preset: 5, low: 4, high: 6 },
  ],
  range: (p) => [
    within("The height over the layer's", p.yPlus / p.frictionReynolds, { high: 0.2 }),
    within("The layer in wall units", p.frictionReynolds, { low: 300 }),
  ],
  values: (p) => [
    { key: "spalding", name: "u+ by one formula", unit: "", value: spalding(p, p.yPlus) },
    { key: "reichardt", name: "u+ in four parts", unit: "", value: reichardt(p, p.yPlus) },
    { key: "damped", name: "u+ by a damped mixing length", unit: "", value: vanDriest(p.kappa, [p.yPlus])[0] },
    ...(p.yPlus > 30 ? [{ key: "log", name: "u+ by the logarithm", unit: "", value: Math.log(p.yPlus) / p.kappa + p.offset }] : []),
  ],
  curves: (p) => {
    const to = Math.max(50, 0.2 * p.frictionReynolds);
    const ends = { x: { name: "y+", unit: "", log: true }, y: { name: "u+", unit: "" }, to };
    const curve = (key: string, name: string, from: number, sample: SolutionCurve["sample"]) => ({ key, name, ...ends, from, sample });
    return [
      curve(
        "spalding",
        "u+ by one formula",
        0.5,
        pointwise((y) => spalding(p, y)),
      ),
      curve(
        "reichardt",
        "u+ in four parts",
        0.5,
        pointwise((y) => reichardt(p, y)),
      ),
      curve("damped", "u+ by a damped mixing length", 0.5, (ys) => vanDriest(p.kappa, ys)),
      curve(
        "log",
        "u+ by the logarithm",
        30,
        pointwise((y) => Math.log(y) / p.kappa + p.offset),
      ),
    ];
  },
});

/** u+ of the damped mixing length at ascending y+. */
export const vanDriest = (kappa: number, places: readonly number[]) =>
  integrate((y, _, out) => (out[0] = damped(kappa, y)), 0, [0], places, 1e-11).map((u) => u[0]);
