import { GAMMA } from "./parameters.ts";
import { pointwise, solution, within } from "./solution.ts";

/** Vortex of constant entropy carried along by a stream of gas. */
export const travellingVortex = solution({
  id: "isentropic-vortex",
  name: "Travelling vortex",
  subject: "Vortices",
  words: "isentropic vortex shu euler convected compressible transient",
  nature: "exact",
  uncertainty: 0,
  formulas: [
    "(\\delta u,\\delta v) = \\frac{\\varepsilon}{2\\pi}e^{(1-r^2)/2}(-\\bar y,\\bar x), \\qquad T = 1-\\frac{(\\gamma-1)\\varepsilon^2}{8\\gamma\\pi^2}e^{1-r^2}, \\qquad \\rho = T^{1/(\\gamma-1)}, \\; p = \\rho T",
  ],
  source: "Shu, ICASE Report 97-65 (1997); lengths, density and temperature of the stream are 1",
  physics: { compressible: true, inviscid: true, transient: true, space: "plane" },
  parameters: [{ key: "strength", label: "Strength", symbol: "\\varepsilon", unit: "", preset: 5, low: 0.01, high: 12 }, GAMMA],
  range: (p) => [within("The temperature in the middle", middle(p), { low: 0 })],
  values: (p) => [
    { key: "temperature", name: "temperature in the middle", unit: "", value: middle(p) },
    { key: "density", name: "density in the middle", unit: "", value: density(p, 0) },
    { key: "pressure", name: "pressure in the middle", unit: "", value: density(p, 0) * middle(p) },
    { key: "swirl", name: "fastest swirl, at radius 1", unit: "", value: p.strength / (2 * Math.PI) },
  ],
  curves: (p) => [
    {
      key: "density",
      name: "density over the radius",
      x: { name: "radius r", unit: "" },
      y: { name: "density", unit: "" },
      from: 0,
      to: 5,
      sample: pointwise((r) => density(p, r)),
    },
    {
      key: "swirl",
      name: "swirl over the radius",
      x: { name: "radius r", unit: "" },
      y: { name: "swirl velocity", unit: "" },
      from: 0,
      to: 5,
      sample: pointwise((r) => (p.strength / (2 * Math.PI)) * r * Math.exp((1 - r * r) / 2)),
    },
  ],
});

interface Vortex {
  readonly strength: number;
  readonly gamma: number;
}

const temperature = (p: Vortex, r: number) => 1 - (((p.gamma - 1) * p.strength ** 2) / (8 * p.gamma * Math.PI ** 2)) * Math.exp(1 - r * r);
const middle = (p: Vortex) => temperature(p, 0);
function density(p: Vortex, r: number): number {
  const t = temperature(p, r);
  if (!(t > 0)) throw new RangeError("The vortex is so strong that no gas is left in its middle.");
  return t ** (1 / (p.gamma - 1));
}
