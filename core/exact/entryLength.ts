import { REYNOLDS } from "./parameters.ts";
import { eitherRegime, LAMINAR } from "./pipeRegime.ts";
import { pointwise, solution } from "./solution.ts";

const laminar = (re: number) => (0.619 ** 1.6 + (0.0567 * re) ** 1.6) ** (1 / 1.6);
const channel = (re: number) => (0.631 ** 1.6 + (0.0442 * re) ** 1.6) ** (1 / 1.6);
const turbulent = (re: number) => 4.4 * re ** (1 / 6);

/** Length a duct needs until its flow no longer changes. */
export const entryLength = solution({
  id: "entry-length",
  name: "Entry length of a duct",
  subject: "Friction",
  words: "development length hydrodynamic entrance pipe channel durst",
  nature: "correlation",
  uncertainty: 0.03,
  uncertaintyNote: "laminar: fit to computed lengths; turbulent lengths are known within a factor of two",
  formulas: [
    "\\frac{L}{D} = \\left[0.619^{1.6}+(0.0567\\,\\mathit{Re})^{1.6}\\right]^{1/1.6} \\;\\text{pipe}, \\qquad \\left[0.631^{1.6}+(0.0442\\,\\mathit{Re})^{1.6}\\right]^{1/1.6} \\;\\text{plates}",
    "\\frac{L}{D} \\approx 4.4\\,\\mathit{Re}^{1/6} \\quad\\text{turbulent pipe}",
  ],
  source: "Durst et al., J. Fluids Eng. 127, 1154 (2005), axis within 1 % of its last value; turbulent: White, Fluid Mechanics, section 6.1",
  physics: {},
  parameters: [{ ...REYNOLDS, label: "Reynolds number of mean speed and diameter, or gap", preset: 500, low: 1e-3, high: 1e8 }],
  range: (p) => eitherRegime(p.reynolds, { laminar: "Laminar.", turbulent: "Turbulent.", between: "no formula holds." }),
  values: ({ reynolds: re }) =>
    re <= LAMINAR
      ? [
          { key: "pipe", name: "entry length of a pipe over its diameter", unit: "", value: laminar(re) },
          { key: "plates", name: "entry length between plates over their gap", unit: "", value: channel(re) },
        ]
      : [{ key: "pipe", name: "entry length of a pipe over its diameter", unit: "", value: turbulent(re), uncertainty: 0.5 }],
  curves: () => [
    {
      key: "pipe",
      name: "entry length of a laminar pipe",
      x: { name: "Reynolds number", unit: "", log: true },
      y: { name: "length over diameter", unit: "", log: true },
      from: 0.1,
      to: LAMINAR,
      sample: pointwise(laminar),
    },
    {
      key: "plates",
      name: "entry length between plates, laminar",
      x: { name: "Reynolds number", unit: "", log: true },
      y: { name: "length over gap", unit: "", log: true },
      from: 0.1,
      to: LAMINAR,
      sample: pointwise(channel),
    },
  ],
});
