import { exact } from "../describe/common.ts";
import type { CylindersParameters } from "../describe/cylinders.ts";
import type { ProblemTruth } from "../describe/problem.ts";

/** Constants of u_theta = a r + b / r between the two cylinders. */
export function constants(p: CylindersParameters): { a: number; b: number } {
  const [r1, r2] = [p.innerM, p.outerM];
  const span = r2 * r2 - r1 * r1;
  return {
    a: (p.outerSpin * r2 * r2 - p.innerSpin * r1 * r1) / span,
    b: ((p.innerSpin - p.outerSpin) * r1 * r1 * r2 * r2) / span,
  };
}

/** Velocity around the axis at a radius, m/s: a r + b / r. */
export const turning = (p: CylindersParameters, r: number) => constants(p).a * r + constants(p).b / r;

export const cylinders: ProblemTruth<CylindersParameters> = {
  yardsticks: (p) => {
    const at = Array.from({ length: 41 }, (_, k) => p.innerM + ((p.outerM - p.innerM) * k) / 40);
    const taylor = ((p.innerSpin * p.innerM * (p.outerM - p.innerM) * p.densityKgM3) / p.viscosityPaS) * Math.sqrt((p.outerM - p.innerM) / p.innerM);
    return [
      {
        key: "cylinders-exact",
        name: "Exact flow between cylinders",
        kind: "exact",
        source: "Exact solution of the Navier-Stokes equations; White, Viscous Fluid Flow, section 3-2.3",
        validity: {
          sentence: "Exact in the plane for any speed; a real gap would not stay plane above a Taylor number of about 41.",
          inside: Number.isFinite(taylor),
        },
        values: [exact("torque", -4 * Math.PI * p.viscosityPaS * constants(p).b), exact("midVelocity", turning(p, (p.innerM + p.outerM) / 2))],
        profiles: [{ profileKey: "across", abscissa: at, value: at.map((r) => turning(p, r)), standardUncertainty: 0, uncertaintyNote: "exact" }],
      },
    ];
  },
};
