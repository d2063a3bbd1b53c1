import { WARM_WALL, WARM_WALL_SOURCE, warmWallUncertainty } from "../../tables/warmWall.ts";
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
      const uncertainty = warmWallUncertainty(t);
      const value = (quantityKey: keyof typeof uncertainty) => ({
        quantityKey,
        value: t[quantityKey],
        standardUncertainty: uncertainty[quantityKey],
        uncertaintyNote: quantityKey.endsWith("At")
          ? "spread of published figures, and half a unit of the last digit printed"
          : "spread of published figures",
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
        values: [value("nusselt"), value("uMax"), value("vMax"), value("uMaxAt"), value("vMaxAt")],
        profiles: [],
      };
    });
  },
};
