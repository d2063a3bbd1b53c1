import { cornerExpansion, obliqueShock } from "../../exact/gasDynamics.ts";
import { exact } from "../describe/common.ts";
import type { CornerParameters } from "../describe/corners.ts";
import type { ProblemTruth } from "../describe/problem.ts";

/** Field in ramp lengths: a quarter ahead of the corner, its height, and where readings are taken behind it. */
export const AHEAD = 0.5;

export const BEHIND = 1.5;

export const RAD = Math.PI / 180;

/**
 * The oblique shock of the ramp.
 * @throws {RangeError} where it would be detached
 */
export const rampOf = (p: CornerParameters) => obliqueShock(p.mach, p.angleDeg * RAD, p.gamma);

export const ramp: ProblemTruth<CornerParameters> = {
  yardsticks: (p) => {
    const s = rampOf(p);
    return [
      {
        key: "ramp-exact",
        name: "Exact oblique shock",
        kind: "exact",
        source: "Anderson, Modern Compressible Flow, 3rd ed., section 4.3",
        validity: { sentence: "Inviscid perfect gas, shock attached to the corner.", inside: true },
        values: [exact("shockAngle", s.angle / RAD), exact("pressureRatio", s.pressureRatio), exact("machBehind", s.machBehind)],
        profiles: [
          {
            profileKey: "wall",
            abscissa: [-AHEAD, -1e-6, 1e-6, BEHIND],
            value: [1, 1, s.pressureRatio, s.pressureRatio],
            standardUncertainty: 0,
            uncertaintyNote: "exact",
          },
        ],
      },
    ];
  },
};

export const corner: ProblemTruth<CornerParameters> = {
  yardsticks: (p) => {
    const s = cornerExpansion(p.mach, p.angleDeg * RAD, p.gamma);
    return [
      {
        key: "corner-exact",
        name: "Exact expansion fan",
        kind: "exact",
        source: "Prandtl-Meyer expansion; Liepmann & Roshko, Elements of Gasdynamics (1957)",
        validity: { sentence: "Inviscid perfect gas, supersonic throughout.", inside: true },
        values: [exact("pressureRatio", s.pressureRatio), exact("machBehind", s.machBehind)],
        profiles: [
          {
            profileKey: "wall",
            abscissa: [-AHEAD, -1e-6, 1e-6, BEHIND],
            value: [1, 1, s.pressureRatio, s.pressureRatio],
            standardUncertainty: 0,
            uncertaintyNote: "exact",
          },
        ],
      },
    ];
  },
};
