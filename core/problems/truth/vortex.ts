import type { GasState } from "../../solver/gas/gas.ts";
import { exact } from "../describe/common.ts";
import type { ProblemTruth } from "../describe/problem.ts";
import type { VortexParameters } from "../describe/vortex.ts";
import { soundOf } from "../describe/vortex.ts";

/** the box in core radii */
export const BOX = 10;

/** time the vortex needs to pass through the box once */
const passOf = (p: VortexParameters) => (BOX * p.coreM) / (p.mach * soundOf(p));

/** Exact state: the vortex is carried along unchanged, entropy is the same everywhere. */
export function vortexField(p: VortexParameters): (x: number, y: number, t: number) => GasState {
  const side = BOX * p.coreM;
  const sound = soundOf(p);
  const drift = p.mach * sound;
  const rho0 = p.pressurePa / (p.gasConstant * p.temperatureK);
  const wrap = (q: number) => q - side * Math.round(q / side);
  const beta = p.strength;
  return (x, y, t) => {
    const X = wrap(x - side / 2 - drift * t) / p.coreM;
    const Y = wrap(y - side / 2 - drift * t) / p.coreM;
    const f = (beta / (2 * Math.PI)) * Math.exp(0.5 * (1 - X * X - Y * Y));
    const T = 1 - ((p.gamma - 1) / 2) * f * f;
    const rho = rho0 * T ** (1 / (p.gamma - 1));
    return [rho, drift - f * sound * Y, drift + f * sound * X, p.pressurePa * T ** (p.gamma / (p.gamma - 1))];
  };
}

/** Time after which the vortex is back where it began, s. */
export const endOf = (p: VortexParameters) => p.passes * passOf(p);

export const travellingVortex: ProblemTruth<VortexParameters> = {
  yardsticks: (p) => {
    const field = vortexField(p);
    const side = BOX * p.coreM;
    const t = endOf(p);
    const q = (side / 2 + p.mach * soundOf(p) * t) % side;
    const at = Array.from({ length: 81 }, (_, k) => (side * k) / 80);
    return [
      {
        key: "vortex-exact",
        name: "Exact travelling vortex",
        kind: "exact",
        source: "Isentropic vortex; Shu, in Lecture Notes in Mathematics 1697 (1998), p. 325",
        validity: { sentence: "Exact for an inviscid gas; what reaches around the joined ends is below 1e-5 of the core.", inside: true },
        values: [exact("coreDensity", field(q, q, t)[0]), exact("corePressure", field(q, q, t)[3])],
        profiles: [
          { profileKey: "across", abscissa: at, value: at.map((x) => field(x, side / 2, t)[3]), standardUncertainty: 0, uncertaintyNote: "exact" },
        ],
      },
    ];
  },
};
