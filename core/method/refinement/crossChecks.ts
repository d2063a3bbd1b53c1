import { rulesOf } from "../../remarks/rule.ts";

/** What a procedure that starts from the observed order of three meshes says. */
export interface CrossCheck {
  /** 95 % uncertainty of the fine value, in the quantity's unit */
  readonly uncertainty: number;
  /** uncertainty of the extrapolated value, where the procedure gives one */
  readonly corrected?: number;
  /** the factor on the estimated error */
  readonly factor: number;
}

interface Observed {
  /** estimated error of the fine value by Richardson extrapolation at the observed order, in the quantity's unit */
  readonly error: number;
  readonly order: number;
  readonly formalOrder: number;
}

/**
 * Uncertainty as a factor of safety on the Richardson estimate, which depends on how far the observed order is from the formal one.
 * @example
 * factorOfSafety({ error: 1, order: 2, formalOrder: 2 }).uncertainty // 1.6
 * @source Xing & Stern, J. Fluids Eng. 132 (2010) 061403.
 */
export function factorOfSafety({ error, order, formalOrder }: Observed): CrossCheck {
  const share = order / formalOrder;
  const factor = share <= 1 ? 2.45 - 0.85 * share : 16.4 * share - 14.8;
  return { factor, uncertainty: factor * Math.abs(error) };
}

/**
 * Uncertainty from a correction factor on the Richardson estimate, of the value as it is and of the value corrected by it.
 * @param ratio spacing of the medium mesh over that of the fine one
 * @example
 * correctionFactor({ error: 1, order: 2, formalOrder: 2 }, 2).uncertainty // 1.1
 * @source Wilson, Shao & Stern, J. Fluids Eng. 126 (2004) 704.
 */
export function correctionFactor({ error, order, formalOrder }: Observed, ratio: number): CrossCheck {
  const correction = (ratio ** order - 1) / (ratio ** formalOrder - 1);
  const away = Math.abs(1 - correction);
  const factor = away < 0.125 ? 9.6 * away ** 2 + 1.1 : 2 * away + 1;
  const corrected = away < 0.25 ? 2.4 * away ** 2 + 0.1 : away;
  return { factor, uncertainty: factor * Math.abs(error), corrected: corrected * Math.abs(error) };
}

/** The rules of this file in words. */
export const CROSS_CHECK_RULES = rulesOf("core/method/refinement/crossChecks.ts", [
  {
    rule: "factor-of-safety",
    text: "P = observed over formal order; U = (2.45 − 0.85 P) |δ| for P up to 1, (16.4 P − 14.8) |δ| above, δ = e21/(r21^p − 1).",
    source: "Xing & Stern 2010",
  },
  {
    rule: "correction-factor",
    text: "C = (r21^p − 1)/(r21^pf − 1); U = (9.6 (1 − C)² + 1.1) |δ| for |1 − C| below 0.125, else (2 |1 − C| + 1) |δ|. Of the corrected value (2.4 (1 − C)² + 0.1) |δ| below 0.25, else |1 − C| |δ|.",
    source: "Wilson, Shao & Stern 2004",
  },
]);
