import type { HeatedParameters } from "../describe/heated.ts";
import { hydraulicOf, nuOf, PLANE } from "../describe/heated.ts";
import type { ProblemTruth } from "../describe/problem.ts";

export const HELD = 0;

const pecletOf = (p: HeatedParameters) => (p.meanVelocityMS * hydraulicOf(p) * p.prandtl) / nuOf(p);

/** stretch the developed profile is read over, shares of the length: further on what the outlet asks for reaches back */
export const READ_FROM = 0.7;

/** Developed Nusselt numbers. @source Shah & London, Laminar Flow Forced Convection in Ducts (1978), tables 2 and 42 */
const NUSSELT = { duct: { held: 7.5407, heated: 8.2353 }, pipe: { held: 3.6568, heated: 4.3636 } } as const;

export const heated: ProblemTruth<HeatedParameters> = {
  yardsticks: (p) => {
    const value = NUSSELT[p.section === PLANE ? "duct" : "pipe"][p.wall === HELD ? "held" : "heated"];
    const graetz = (READ_FROM * p.lengthM) / (hydraulicOf(p) * pecletOf(p));
    return [
      {
        key: "heated-developed",
        name: "Developed Nusselt number",
        kind: "exact",
        source: "Shah & London, Laminar Flow Forced Convection in Ducts (1978)",
        validity: {
          sentence: `Holds where the profile has developed, distance to the reading over diameter and Peclet number above about 0.05 (here ${graetz.toPrecision(2)}), at Peclet numbers above about 50 (here ${pecletOf(p).toPrecision(3)}).`,
          inside: graetz > 0.04 && pecletOf(p) >= 50,
        },
        values: [{ quantityKey: "nusselt", value, standardUncertainty: 5e-5, uncertaintyNote: "exact series, digits as printed" }],
        profiles: [],
      },
    ];
  },
};
