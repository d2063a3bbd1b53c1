import type { FaceMesh } from "../../mesh/faceMesh.ts";
import type { LawReading } from "../../records/laws.ts";
import type { ReadableGas } from "./readable.ts";

/** What thermodynamics asks of a steady gas flow without heat or work: entropy, total pressure and total enthalpy against what comes in. */
export function gasLaws(mesh: FaceMesh, space: ReadableGas): LawReading[] {
  const { gamma, gasConstant } = space.physics.gas;
  if (space.physics.source || space.physics.gas.viscosityPaS > 0) return [];
  const heat = (gamma * gasConstant) / (gamma - 1);
  const at = (c: number) => {
    const [rho, u, v, p] = space.w.subarray(4 * c, 4 * c + 4);
    const enthalpy = (heat / gasConstant) * (p / rho) + 0.5 * (u * u + v * v);
    const mach2 = (u * u + v * v) / ((gamma * p) / rho);
    return { s: Math.log(p / rho ** gamma) / gamma, h: enthalpy, total: p * (1 + ((gamma - 1) / 2) * mach2) ** (gamma / (gamma - 1)) };
  };
  let [low, total, enthalpy, mass] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY, 0, 0];
  for (let f = mesh.joinCount; f < mesh.faceCount; f++) {
    const into = -space.out[4 * (f - mesh.joinCount)];
    if (!(into > 0)) continue;
    const state = at(mesh.owner[f]);
    low = Math.min(low, state.s);
    total = Math.max(total, state.total);
    enthalpy += into * state.h;
    mass += into;
  }
  if (!(mass > 0)) return [];
  const given = enthalpy / mass;
  let [fall, rise, off, volume] = [0, 0, 0, 0];
  for (let c = 0; c < mesh.cellCount; c++) {
    const state = at(c);
    fall = Math.max(fall, low - state.s);
    rise = Math.max(rise, state.total / total - 1);
    // A shock smears over cells whose enthalpy is off by itself: the mean tells whether it is kept.
    off += Math.abs(state.h / given - 1) * mesh.volumeM2[c];
    volume += mesh.volumeM2[c];
  }
  return [
    { law: "entropy", share: fall },
    { law: "total-pressure", share: rise },
    { law: "total-enthalpy", share: off / volume },
  ];
}
