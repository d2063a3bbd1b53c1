import { riemannSolution } from "../../exact/gasDynamics.ts";
import { exact } from "../describe/common.ts";
import type { GasTubesParameters } from "../describe/gasTubes.ts";
import type { ProblemTruth } from "../describe/problem.ts";

/** The exact solution of the problem the two states pose. */
export function tubeSolution(p: GasTubesParameters) {
  return riemannSolution(
    { density: p.leftDensity, velocity: 0, pressure: p.leftPressurePa },
    { density: p.rightDensity, velocity: 0, pressure: p.rightPressurePa },
    p.gamma,
  );
}

export const shockTube: ProblemTruth<GasTubesParameters> = {
  yardsticks: (p) => {
    const s = tubeSolution(p);
    const reach = Math.max(Math.abs(s.waves.left), Math.abs(s.waves.right)) * p.endTimeS;
    const x = Array.from({ length: 201 }, (_, k) => (p.lengthM * k) / 200);
    const at = (q: number) => s.at((q - p.lengthM / 2) / p.endTimeS);
    return [
      {
        key: "tube-exact",
        name: "Exact solution of the Riemann problem",
        kind: "exact",
        source: "Toro, Riemann Solvers and Numerical Methods for Fluid Dynamics, 3rd ed., ch. 4",
        validity: {
          sentence: `Holds until a wave reaches an end: the fastest has run ${reach.toPrecision(3)} m of ${(p.lengthM / 2).toPrecision(3)} m.`,
          inside: reach < p.lengthM / 2,
        },
        values: [
          exact("plateauPressure", s.star.pressure),
          exact("shockPosition", p.lengthM / 2 + s.waves.right * p.endTimeS),
          exact("contactVelocity", s.star.velocity),
        ],
        profiles: [
          { profileKey: "density", abscissa: x, value: x.map((q) => at(q).density), standardUncertainty: 0, uncertaintyNote: "exact" },
          { profileKey: "pressure", abscissa: x, value: x.map((q) => at(q).pressure), standardUncertainty: 0, uncertaintyNote: "exact" },
        ],
      },
    ];
  },
};
