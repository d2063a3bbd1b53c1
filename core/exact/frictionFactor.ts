import { bisect } from "../numeric/bisect.ts";
import { REYNOLDS } from "./parameters.ts";
import { eitherRegime, LAMINAR, TURBULENT } from "./pipeRegime.ts";
import { pointwise, solution } from "./solution.ts";

/**
 * Darcy friction factor of turbulent pipe flow, solved and not approximated.
 * @param roughness sand roughness over diameter
 * @source Colebrook, J. Inst. Civ. Eng. 11, 133 (1939)
 */
export function turbulentFriction(reynolds: number, roughness: number): number {
  // s = 1 / sqrt(f); the left side grows with s and the right side falls.
  const s = bisect((x) => x + 2 * Math.log10(roughness / 3.7 + (2.51 * x) / reynolds), 0.5, 60);
  return 1 / (s * s);
}

const frictionOf = (reynolds: number, roughness: number) => (reynolds <= LAMINAR ? 64 / reynolds : turbulentFriction(reynolds, roughness));

/** Friction factor of a round pipe, laminar to fully rough. */
export const frictionFactor = solution({
  id: "friction-factor",
  name: "Friction factor of a pipe",
  subject: "Friction",
  words: "colebrook white haaland blasius prandtl karman moody darcy roughness turbulent smooth pipe loss",
  nature: "correlation",
  uncertainty: 0.05,
  uncertaintyNote: "smooth pipes; commercial roughness is known to a tenth of the factor at best; laminar values are exact",
  formulas: [
    "f = \\frac{64}{\\mathit{Re}} \\;\\;(\\mathit{Re}\\le 2300), \\qquad \\frac{1}{\\sqrt f} = -2\\log_{10}\\left(\\frac{\\varepsilon/D}{3.7}+\\frac{2.51}{\\mathit{Re}\\sqrt f}\\right) \\;\\;(\\mathit{Re}\\ge 4000)",
    "f \\approx 0.316\\,\\mathit{Re}^{-1/4}, \\qquad \\frac{1}{\\sqrt f}\\approx -1.8\\log_{10}\\left[\\left(\\frac{\\varepsilon/D}{3.7}\\right)^{1.11}+\\frac{6.9}{\\mathit{Re}}\\right]",
  ],
  source: "Colebrook, J. Inst. Civ. Eng. 11, 133 (1939); Haaland, J. Fluids Eng. 105, 89 (1983); Blasius (1913). Darcy factor",
  physics: { turbulent: true },
  parameters: [
    { ...REYNOLDS, label: "Reynolds number of the diameter", preset: 1e5, low: 1, high: 1e9 },
    { key: "roughness", label: "Roughness over diameter", symbol: "\\varepsilon/D", unit: "", preset: 0, low: 0, high: 0.05 },
  ],
  range: (p) =>
    eitherRegime(p.reynolds, {
      laminar: "Laminar: exact.",
      turbulent: "Turbulent: measured.",
      between: "the flow is neither, and no formula holds.",
    }),
  values: (p) => {
    const [re, k] = [p.reynolds, p.roughness];
    if (re <= LAMINAR) return [{ key: "f", name: "friction factor (Darcy)", unit: "", value: 64 / re, uncertainty: 0 }];
    return [
      { key: "f", name: "friction factor (Darcy)", unit: "", value: turbulentFriction(re, k), ...(k > 0 ? { uncertainty: 0.1 } : {}) },
      { key: "explicit", name: "friction factor, explicit formula", unit: "", value: (-1.8 * Math.log10((k / 3.7) ** 1.11 + 6.9 / re)) ** -2 },
      ...(k === 0 && re <= 1e5 ? [{ key: "power", name: "friction factor, power law of smooth pipes", unit: "", value: 0.3164 * re ** -0.25 }] : []),
    ];
  },
  curves: (p) => [
    {
      key: "laminar",
      name: "friction factor, laminar",
      x: { name: "Reynolds number", unit: "", log: true },
      y: { name: "friction factor (Darcy)", unit: "", log: true },
      from: 300,
      to: LAMINAR,
      sample: pointwise((re) => frictionOf(re, p.roughness)),
    },
    {
      key: "turbulent",
      name: "friction factor, turbulent",
      x: { name: "Reynolds number", unit: "", log: true },
      y: { name: "friction factor (Darcy)", unit: "", log: true },
      from: TURBULENT,
      to: 1e8,
      sample: pointwise((re) => frictionOf(re, p.roughness)),
    },
  ],
});
