import { integrate } from "../numeric/ode.ts";
import { PRANDTL, REYNOLDS } from "./parameters.ts";
import { similarLayer } from "./similarLayers.ts";
import { pointwise, solution, within } from "./solution.ts";

/** -theta'(0) of theta'' + Pr f theta' / 2 = 0, theta from 1 at the wall to 0 outside. */
export function plateHeatSlope(prandtl: number): number {
  const { wall } = similarLayer({ a: 0.5, b: 0 });
  // One over the integral of (f''/f''(0))^Pr, written as equations so that one solver does both.
  const [y] = integrate(
    (_, s, out) => {
      out[0] = s[1];
      out[1] = s[2];
      out[2] = -0.5 * s[0] * s[2];
      out[3] = (Math.max(s[2], 0) / wall) ** prandtl;
    },
    0,
    [0, 0, wall, 0],
    [Math.max(14, 30 / Math.sqrt(prandtl))],
    1e-12,
  );
  return 1 / y[3];
}

/** Heat from a flat plate of one temperature. */
export const plateHeat = solution({
  id: "plate-heat",
  name: "Heat transfer of a flat plate",
  subject: "Heat in a flow",
  words: "pohlhausen nusselt boundary layer forced convection plate laminar turbulent",
  nature: "similarity",
  uncertainty: 0,
  costly: true,
  uncertaintyNote: "the turbulent law is fitted to measurements, within 15 %",
  formulas: [
    "\\theta''+\\tfrac12\\mathit{Pr} f\\theta' = 0, \\qquad \\mathit{Nu}_x = -\\theta'(0)\\,\\mathit{Re}_x^{1/2} \\approx 0.332\\,\\mathit{Pr}^{1/3}\\mathit{Re}_x^{1/2}",
    "\\mathit{Nu}_x = 0.0296\\,\\mathit{Re}_x^{4/5}\\mathit{Pr}^{1/3} \\quad\\text{turbulent}",
  ],
  source: "Pohlhausen, Z. angew. Math. Mech. 1, 115 (1921); Incropera et al., Fundamentals of Heat and Mass Transfer, section 7.2",
  physics: { heat: true, space: "plane" },
  parameters: [
    { ...REYNOLDS, label: "Reynolds number of the distance", symbol: "\\mathit{Re}_x", preset: 1e5, low: 1, high: 1e9 },
    { ...PRANDTL, low: 0.01, high: 1000 },
  ],
  range: (p) => [
    p.reynolds <= 5e5
      ? within("The Reynolds number", p.reynolds, { low: 1e3 })
      : within("The Reynolds number, taken as turbulent,", p.reynolds, { high: 1e8 }),
    ...(p.reynolds > 5e5 ? [within("The Prandtl number", p.prandtl, { low: 0.6, high: 60 })] : []),
  ],
  values: (p) =>
    p.reynolds <= 5e5
      ? [
          { key: "local", name: "Nusselt number here", unit: "", value: plateHeatSlope(p.prandtl) * Math.sqrt(p.reynolds) },
          { key: "mean", name: "Nusselt number, mean up to here", unit: "", value: 2 * plateHeatSlope(p.prandtl) * Math.sqrt(p.reynolds) },
          { key: "slope", name: "slope of the temperature at the wall", unit: "", value: plateHeatSlope(p.prandtl) },
        ]
      : [{ key: "local", name: "Nusselt number here", unit: "", value: 0.0296 * p.reynolds ** 0.8 * p.prandtl ** (1 / 3), uncertainty: 0.15 }],
  curves: (p) => [
    {
      key: "local",
      name: "Nusselt number along the plate, laminar",
      x: { name: "Reynolds number of the distance", unit: "", log: true },
      y: { name: "Nusselt number", unit: "", log: true },
      from: 1e3,
      to: 5e5,
      sample: (places) => {
        const slope = plateHeatSlope(p.prandtl);
        return pointwise((re) => slope * Math.sqrt(re))(places);
      },
    },
  ],
});
