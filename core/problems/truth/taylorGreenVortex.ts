import { exact } from "../describe/common.ts";
import type { ProblemTruth } from "../describe/problem.ts";
import type { TaylorGreenParameters } from "../describe/taylorGreenVortex.ts";

/** Exact decaying eddies carried along by a drift: velocity and pressure at a point and time. */
export function taylorGreenField(p: TaylorGreenParameters) {
  const k = (2 * Math.PI) / p.sideM;
  const nu = p.viscosityPaS / p.densityKgM3;
  const at = (x: number, y: number, t: number) => [k * (x - p.driftMS * t), k * (y - 0.5 * p.driftMS * t)] as const;
  const decay = (t: number) => Math.exp(-2 * nu * k * k * t);
  return {
    u: (x: number, y: number, t: number) => {
      const [X, Y] = at(x, y, t);
      return p.driftMS + p.velocityMS * decay(t) * Math.sin(X) * Math.cos(Y);
    },
    v: (x: number, y: number, t: number) => {
      const [X, Y] = at(x, y, t);
      return 0.5 * p.driftMS - p.velocityMS * decay(t) * Math.cos(X) * Math.sin(Y);
    },
    p: (x: number, y: number, t: number) => {
      const [X, Y] = at(x, y, t);
      return 0.25 * p.densityKgM3 * (p.velocityMS * decay(t)) ** 2 * (Math.cos(2 * X) + Math.cos(2 * Y));
    },
    /** kinetic energy of the eddies alone, mean over the volume, J/kg */
    energy: (t: number) => 0.25 * (p.velocityMS * decay(t)) ** 2,
  };
}

export const taylorGreenVortex: ProblemTruth<TaylorGreenParameters> = {
  yardsticks: (p) => {
    const field = taylorGreenField(p);
    return [
      {
        key: "eddies-exact",
        name: "Exact decay of the eddies",
        kind: "exact",
        source: "Taylor, Phil. Mag. 46 (1923) 671; carried along by a uniform drift",
        validity: { sentence: "An exact solution of the Navier-Stokes equations.", inside: true },
        values: [exact("energy", field.energy(p.endTimeS)), exact("decayed", field.energy(p.endTimeS) / field.energy(0))],
        profiles: [],
      },
    ];
  },
};
