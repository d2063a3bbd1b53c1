import { platesFlowRate, platesShear, platesVelocity } from "../../exact/plates.ts";
import type { Reference } from "../../records/reference.ts";
import type { PlatesParameters } from "../describe/plates.ts";
import { flowOf, largestVelocity } from "../describe/plates.ts";
import type { ProblemTruth } from "../describe/problem.ts";

export const plates: ProblemTruth<PlatesParameters> = {
  yardsticks: (p) => [exactYardstick(p)],
};

function exactYardstick(p: PlatesParameters): Reference {
  const f = flowOf(p);
  const shear = platesShear(f);
  const values = {
    flowRate: platesFlowRate(f),
    shearResting: shear.resting,
    shearSliding: shear.sliding,
    midVelocity: platesVelocity(f, p.gapM / 2),
  };
  const at = Array.from({ length: 41 }, (_, k) => (p.gapM * k) / 40);
  const reynolds = (p.densityKgM3 * largestVelocity(p) * p.gapM) / p.viscosityPaS;
  return {
    key: "plates-exact",
    name: "Exact profile between plates",
    kind: "exact",
    source: "Exact solution of the Navier-Stokes equations; White, Viscous Fluid Flow, section 3-2",
    validity: {
      sentence: `Holds for laminar, developed flow: Reynolds number by gap below about 1500; here ${reynolds.toPrecision(3)}.`,
      inside: reynolds < 1500,
    },
    values: Object.entries(values).map(([quantityKey, value]) => ({ quantityKey, value, standardUncertainty: 0, uncertaintyNote: "exact" })),
    profiles: [{ profileKey: "across", abscissa: at, value: at.map((y) => platesVelocity(f, y)), standardUncertainty: 0, uncertaintyNote: "exact" }],
  };
}
