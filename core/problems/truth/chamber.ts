import { WARM_WALL, WARM_WALL_SOURCE, WARM_WALL_SPREAD } from "../../tables/warmWall.ts";
import type { ChamberParameters } from "../describe/chamber.ts";
import { diffusivityOf, nuOf } from "../describe/chamber.ts";
import { nearest } from "../describe/common.ts";
import type { ProblemTruth } from "../describe/problem.ts";

const rayleighOf = (p: ChamberParameters) => (p.gravityMS2 * p.expansionPerK * (p.warmK - p.coldK) * p.sideM ** 3) / (nuOf(p) * diffusivityOf(p));

export const chamber: ProblemTruth<ChamberParameters> = {
  yardsticks: (p) => {
    const ra = rayleighOf(p);
    return nearest(WARM_WALL, (t) => t.rayleigh, ra).map((t) => {
      const away = Math.abs(ra / t.rayleigh - 1);
      const near = away < 0.001 && Math.abs(p.prandtl - 0.71) < 0.005;
      const { nusselt, velocity, place } = WARM_WALL_SPREAD;
      const value = (quantityKey: string, v: number, spread: number) => ({
        quantityKey,
        value: v,
        standardUncertainty: spread * v,
        uncertaintyNote: "spread of published figures",
      });
      return {
        key: `warm-wall-${t.rayleigh}`,
        name: `Warm-wall benchmark, Ra ${t.rayleigh.toExponential(0).replace("e+", "e")}`,
        kind: "table" as const,
        source: WARM_WALL_SOURCE,
        validity: {
          sentence: `Holds at Ra ${t.rayleigh.toExponential(0).replace("e+", "e")} and Pr 0.71; here Ra ${ra.toPrecision(4)}, Pr ${p.prandtl}.`,
          inside: near,
        },
        values: [
          value("nusselt", t.nusselt, nusselt),
          value("uMax", t.uMax, velocity),
          value("vMax", t.vMax, velocity),
          value("uMaxAt", t.uMaxAt, place),
          value("vMaxAt", t.vMaxAt, 2 * place),
        ],
        profiles: [],
      };
    });
  },
};
