import { integrate } from "../numeric/ode.ts";
import { REYNOLDS } from "./parameters.ts";
import { pointwise, solution, within } from "./solution.ts";

/** One member of the series: lambda_n and G_n. */
interface Member {
  readonly lambda: number;
  readonly weight: number;
}

/** as many as give ten digits from x+ = 1e-3 on */
const MEMBERS = 25;

/** R and R' with what lambda does to them, at the wall: R'' + R'/r + lambda^2 (1 - r^2) R = 0. */
function atWall(lambda: number): Float64Array {
  const l2 = lambda * lambda;
  // A short way off the axis by the power series, where R'/r is nought over nought.
  const r0 = 1e-3;
  const start = [1 - (l2 * r0 ** 2) / 4 + (l2 * (1 + l2 / 4) * r0 ** 4) / 16, (-l2 * r0) / 2 + (l2 * (1 + l2 / 4) * r0 ** 3) / 4];
  const change = [(-lambda * r0 ** 2) / 2 + ((2 * lambda + lambda * l2) * r0 ** 4) / 16, -lambda * r0 + ((2 * lambda + lambda * l2) * r0 ** 3) / 4];
  return integrate(
    (r, y, out) => {
      const pull = l2 * (1 - r * r);
      out[0] = y[1];
      out[1] = -y[1] / r - pull * y[0];
      out[2] = y[3];
      out[3] = -y[3] / r - pull * y[2] - 2 * lambda * (1 - r * r) * y[0];
    },
    r0,
    [...start, ...change],
    [1],
    1e-12,
  )[0];
}

let members: readonly Member[] | undefined;

/** Eigenvalues by Newton's rule from their asymptotes 4 n + 8/3, found once. */
export function graetzMembers(): readonly Member[] {
  members ??= Array.from({ length: MEMBERS }, (_, n) => {
    let lambda = 4 * n + 8 / 3;
    let y = atWall(lambda);
    for (let k = 0; k < 8; k++) {
      const step = y[0] / y[2];
      lambda -= step;
      y = atWall(lambda);
      if (Math.abs(step) < 1e-7) break;
    }
    return { lambda, weight: y[1] / (lambda * y[2]) };
  });
  return members;
}

/** Heat number and mixed temperature at x+ = x / (D Re Pr), wall at one temperature. */
export function graetz(xPlus: number): { readonly local: number; readonly mean: number; readonly mixed: number } {
  let [flux, mixed] = [0, 0];
  for (const { lambda, weight } of graetzMembers()) {
    const fade = Math.exp(-2 * lambda * lambda * xPlus);
    flux += weight * fade;
    mixed += (weight * fade) / (lambda * lambda);
  }
  return { local: flux / (2 * mixed), mean: -Math.log(8 * mixed) / (4 * xPlus), mixed: 8 * mixed };
}

/** Heat taken up by developed laminar pipe flow from where the wall begins to be warm. */
export const pipeHeat = solution({
  id: "pipe-heat",
  name: "Developing heat transfer in a pipe",
  subject: "Heat in a flow",
  words: "graetz nusselt thermal entry constant wall temperature laminar tube",
  nature: "series",
  uncertainty: 0,
  costly: true,
  formulas: [
    "R''+\\frac{R'}{r}+\\lambda^2(1-r^2)R = 0, \\quad R(0)=1,\\; R(1)=0, \\qquad \\theta_m = 8\\sum_n\\frac{G_n}{\\lambda_n^2}e^{-2\\lambda_n^2x^+}",
    "\\mathit{Nu}_x = \\frac{\\sum G_n e^{-2\\lambda_n^2x^+}}{2\\sum (G_n/\\lambda_n^2) e^{-2\\lambda_n^2x^+}}, \\qquad x^+ = \\frac{x}{D\\,\\mathit{Re}\\,\\mathit{Pr}}",
  ],
  source: "Graetz, Ann. Phys. 18, 79 (1883); Shah & London, Laminar Flow Forced Convection in Ducts (1978), chapter V",
  physics: { heat: true, space: "axisymmetric" },
  parameters: [
    { key: "xPlus", label: "Distance over D Re Pr", symbol: "x^+", unit: "", preset: 0.02, low: 1e-5, high: 10, log: true },
    { ...REYNOLDS, label: "Reynolds number of the diameter", preset: 500, low: 1e-2, high: 1e6 },
    { key: "prandtl", label: "Prandtl number", symbol: "\\mathit{Pr}", unit: "", preset: 7, low: 1e-3, high: 1e5, log: true, like: "prandtl" },
  ],
  range: (p) => [
    within("x+", p.xPlus, { low: 1e-3 }),
    within("The Reynolds number", p.reynolds, { high: 2300 }),
    within("The Péclet number, below which heat also goes along the pipe,", p.reynolds * p.prandtl, { low: 50 }),
  ],
  values: (p) => {
    const { local, mean, mixed } = graetz(p.xPlus);
    return [
      { key: "local", name: "Nusselt number here", unit: "", value: local },
      { key: "mean", name: "Nusselt number, mean up to here", unit: "", value: mean },
      { key: "mixed", name: "mixed temperature, share of the first difference left", unit: "", value: mixed },
      { key: "last", name: "Nusselt number far down", unit: "", value: graetzMembers()[0].lambda ** 2 / 2 },
    ];
  },
  curves: () => [
    {
      key: "local",
      name: "Nusselt number along the pipe",
      x: { name: "x+", unit: "", log: true },
      y: { name: "Nusselt number", unit: "", log: true },
      from: 1e-3,
      to: 1,
      sample: pointwise((x) => graetz(x).local),
    },
  ],
});
