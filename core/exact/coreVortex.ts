import { bisect } from "../numeric/bisect.ts";
import { KINEMATIC } from "./parameters.ts";
import { pointwise, solution } from "./solution.ts";

/** A line vortex that spreads by viscosity. */
export const coreVortex = solution({
  id: "spreading-vortex",
  name: "Spreading line vortex",
  subject: "Vortices",
  words: "lamb oseen circulation swirl diffusion transient",
  nature: "exact",
  uncertainty: 0,
  formulas: ["v_\\theta = \\frac{\\Gamma}{2\\pi r}\\left(1-e^{-r^2/4\\nu t}\\right)"],
  source: "Oseen, Ark. Mat. Astron. Fys. 7, 14 (1912); Lamb, Hydrodynamics, art. 334a",
  physics: { transient: true, space: "plane" },
  parameters: [
    { key: "circulation", label: "Circulation", symbol: "\\Gamma", unit: "m^2/s", preset: 0.1, low: 1e-6, high: 1e4, log: true },
    KINEMATIC,
    { key: "timeS", label: "Time since it was a line", symbol: "t", unit: "s", preset: 10, low: 1e-6, high: 1e6, log: true },
  ],
  range: () => [{ inside: true, sentence: "Exact for a plane vortex in fluid without walls." }],
  values: (p) => {
    const r = CORE * Math.sqrt(4 * p.kinematicM2S * p.timeS);
    return [
      { key: "radius", name: "radius of the fastest swirl", unit: "m", value: r },
      { key: "largest", name: "fastest swirl", unit: "m/s", value: swirl(p, r) },
      { key: "centre", name: "vorticity at the centre", unit: "1/s", value: p.circulation / (4 * Math.PI * p.kinematicM2S * p.timeS) },
    ];
  },
  curves: (p) => [
    {
      key: "profile",
      name: "swirl over the radius",
      x: { name: "radius r", unit: "m" },
      y: { name: "swirl velocity", unit: "m/s" },
      from: 0,
      to: 8 * Math.sqrt(p.kinematicM2S * p.timeS),
      sample: pointwise((r) => swirl(p, r)),
    },
  ],
});

/** Root of 1 + 2 s^2 = exp(s^2), where the swirl is fastest. */
const CORE = bisect((s) => Math.expm1(s * s) - 2 * s * s, 0.8, 2);

function swirl(p: { readonly circulation: number; readonly kinematicM2S: number; readonly timeS: number }, r: number): number {
  return r === 0 ? 0 : (-p.circulation * Math.expm1((-r * r) / (4 * p.kinematicM2S * p.timeS))) / (2 * Math.PI * r);
}
