import { integrate, type Slope } from "../numeric/ode.ts";
import { secant } from "../numeric/secant.ts";
import { solution, within } from "./solution.ts";

interface Channel {
  readonly halfAngle: number;
  readonly reynolds: number;
}

/** F''' + 2 Re alpha F F' + 4 alpha^2 F' = 0 over eta = theta / alpha; F''(0) is sought so that F(1) = 0. */
const slope =
  ({ halfAngle: a, reynolds }: Channel): Slope =>
  (_, y, out) => {
    out[0] = y[1];
    out[1] = y[2];
    out[2] = -(2 * a * reynolds * y[0] + 4 * a * a) * y[1];
    out[3] = y[0];
  };

/** F'' on the axis; found by raising the Reynolds number from zero, so that the branch without backflow is kept. */
function curvature(p: Channel): number {
  const steps = 12;
  let found = -2;
  for (let k = 1; k <= steps; k++) {
    const part = { ...p, reynolds: (p.reynolds * k) / steps };
    const miss = (c: number) => integrate(slope(part), 0, [1, 0, c, 0], [1], 1e-11)[0][0];
    found = secant(miss, found, found * 1.02);
  }
  const exact = (c: number) => integrate(slope(p), 0, [1, 0, c, 0], [1])[0][0];
  return secant(exact, found, found * (1 + 1e-6));
}

/** Laminar flow between plane walls that meet in a line: converging or diverging. */
export const wedgeChannel = solution({
  id: "wedge-channel",
  name: "Converging and diverging channel",
  subject: "Ducts and plates",
  words: "jeffery hamel wedge diverging converging channel plane laminar separation",
  nature: "similarity",
  uncertainty: 0,
  formulas: [
    "F''' + 2\\,\\mathit{Re}\\,\\alpha F F' + 4\\alpha^2 F' = 0, \\quad F(0)=1,\\; F'(0)=0,\\; F(1)=0",
    "u_r = u_0(r)\\,F(\\theta/\\alpha), \\quad \\mathit{Re} = \\alpha r u_0/\\nu \\quad (\\text{negative: towards the edge})",
  ],
  source: "Jeffery, Phil. Mag. 29, 455 (1915); Hamel (1916); White, Viscous Fluid Flow, section 3-8.2",
  physics: { space: "plane" },
  parameters: [
    { key: "halfAngle", label: "Half angle", symbol: "\\alpha", unit: "rad", preset: 0.0872664626, low: 1e-3, high: 1.5 },
    { key: "reynolds", label: "Reynolds number of half width and axis", symbol: "\\mathit{Re}", unit: "", preset: 50, low: -1000, high: 600 },
  ],
  // Past it the flow turns back at the walls, and several solutions exist.
  range: (p) => [within("The slope -F' at the wall", -integrate(slope(p), 0, [1, 0, curvature(p), 0], [1])[0][1], { low: 0 })],
  values: (p) => {
    const c = curvature(p);
    const [end] = integrate(slope(p), 0, [1, 0, c, 0], [1]);
    return [
      { key: "curvature", name: "F'' on the axis", unit: "", value: c },
      { key: "wall", name: "-F' at the wall", unit: "", value: -end[1] },
      { key: "mean", name: "mean velocity over that on the axis", unit: "", value: end[3] },
    ];
  },
  curves: (p) => {
    const c = curvature(p);
    return [
      {
        key: "profile",
        name: "radial velocity over that on the axis",
        x: { name: "angle over half angle", unit: "" },
        y: { name: "F", unit: "" },
        from: 0,
        to: 1,
        sample: (places) => integrate(slope(p), 0, [1, 0, c, 0], places).map((y) => y[0]),
      },
    ];
  },
});
