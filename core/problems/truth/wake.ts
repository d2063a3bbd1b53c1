import { exact } from "../describe/common.ts";
import type { ProblemTruth } from "../describe/problem.ts";
import type { WakeParameters } from "../describe/wake.ts";

const reynoldsOf = (p: WakeParameters) => (p.densityKgM3 * p.velocityMS * p.spacingM) / p.viscosityPaS;

/** the field begins half a spacing behind the bars */
const BEGIN = -0.5;

/** Exact flow behind a row of bars: velocity and pressure at a point. */
export function wakeField(p: WakeParameters) {
  const re = reynoldsOf(p);
  const decay = re / 2 - Math.sqrt((re * re) / 4 + 4 * Math.PI ** 2);
  const k = 2 * Math.PI;
  const at = (x: number, y: number) => [x / p.spacingM + BEGIN, y / p.spacingM - 0.5] as const;
  return {
    u: (x: number, y: number) => {
      const [X, Y] = at(x, y);
      return p.velocityMS * (1 - Math.exp(decay * X) * Math.cos(k * Y));
    },
    v: (x: number, y: number) => {
      const [X, Y] = at(x, y);
      return ((p.velocityMS * decay) / k) * Math.exp(decay * X) * Math.sin(k * Y);
    },
    p: (x: number, y: number) => {
      const [X] = at(x, y);
      return 0.5 * p.densityKgM3 * p.velocityMS ** 2 * (1 - Math.exp(2 * decay * X));
    },
    decay,
  };
}

/** Where the velocities are read, m. */
export const point = (p: WakeParameters) => [0.61 * p.spacingM, 0.29 * p.spacingM] as const;

export const wake: ProblemTruth<WakeParameters> = {
  yardsticks: (p) => {
    const field = wakeField(p);
    const x = 0.6 * p.spacingM;
    const at = Array.from({ length: 41 }, (_, k) => (p.spacingM * k) / 40);
    return [
      {
        key: "wake-exact",
        name: "Exact wake behind a grid",
        kind: "exact",
        source: "Kovasznay, Proc. Cambridge Phil. Soc. 44 (1948) 58",
        validity: { sentence: "An exact solution of the steady Navier-Stokes equations at any Reynolds number.", inside: true },
        values: [exact("uPoint", field.u(...point(p))), exact("vPoint", field.v(...point(p)))],
        profiles: [{ profileKey: "across", abscissa: at, value: at.map((y) => field.u(x, y)), standardUncertainty: 0, uncertaintyNote: "exact" }],
      },
    ];
  },
};
