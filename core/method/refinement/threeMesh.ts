import { rulesOf } from "../../remarks/rule.ts";
import { fixedFit } from "./fits.ts";

/** Result of the three-mesh procedure for one quantity; see method 3. */
export type ThreeMesh =
  | {
      readonly kind: "monotone";
      /** observed order */
      readonly order: number;
      /** orders that the errors of the three values allow, where they are known */
      readonly orderRange?: readonly [low: number, high: number];
      /** order used in the uncertainty: the formal one where the observed one agrees with it, else the observed one held inside [0.5, formal] */
      readonly orderUsed: number;
      /** absent where the observed order is below 0.5 or more than 0.5 above the formal one */
      readonly extrapolated?: number;
      /** convergence indices of the fine and the medium mesh, absolute, in the quantity's unit */
      readonly indexFine: number;
      readonly indexMedium: number;
      readonly safety: 1.25 | 3;
      /** distance to the limit of terms of order 1 and 2 through the three values, with its factor: what bounds sets that converge too fast to be true */
      readonly guard?: number;
      /** part of the uncertainty that the errors of the values themselves make, in the quantity's unit */
      readonly fromErrors: number;
      /** 95 % uncertainty of the fine value, in the quantity's unit */
      readonly uncertainty: number;
      /** the observed order is within a tenth of the formal one */
      readonly agrees: boolean;
    }
  | {
      readonly kind: "oscillating";
      readonly uncertainty: number;
      readonly guard: number;
      readonly order?: number;
      readonly extrapolatedAsPublished?: number;
    }
  | { readonly kind: "diverging"; readonly uncertainty: number; readonly guard: number }
  | { readonly kind: "degenerate"; readonly uncertainty: number; readonly reason: string };

export interface ThreeMeshInput {
  /** fine, medium, coarse value, any one unit */
  readonly phi: readonly [number, number, number];
  /** representative spacings, fine < medium < coarse */
  readonly spacing: readonly [number, number, number];
  readonly formalOrder: number;
  /** 95 % errors of the three values for other reasons than the mesh: iteration, averaging; round-off is added here */
  readonly errors: readonly [number, number, number];
}

const OSCILLATING_SAFETY = 3;
const NEAR = 0.1;
const LEAST_ORDER = 0.5;
const MOST_ABOVE = 0.5;
/** factor on the distance to the limit of the two-term curve */
const GUARD = 1.25;

/**
 * Observed order, extrapolated value and fine-mesh convergence index of one quantity on three meshes, any ratios.
 * Within a tenth of the formal order that order and a safety factor of 1.25 are used; else a factor of 3 with the observed order held
 * between 0.5 and the formal one. The asymptotic ratio is not asked: with exactly three meshes it is |phi1 / phi2| whatever the data.
 * @example threeMesh({ phi: [10.01, 10.04, 10.16], spacing: [1, 2, 4], formalOrder: 2, errors: [0, 0, 0] })
 *   // monotone: order 2, extrapolated 10, uncertainty 1.25 * 0.03 / 3 = 0.0125
 * @throws {RangeError} Values not finite, spacings not increasing, formal order not positive.
 * @source Celik et al., J. Fluids Eng. 130, 078001 (2008); Oberkampf & Roy, Verification and Validation (2010), section 8.6.
 */
export function threeMesh(input: ThreeMeshInput): ThreeMesh {
  const [phi1, phi2, phi3] = input.phi;
  const [h1, h2, h3] = input.spacing;
  if (!input.phi.every(Number.isFinite)) throw new RangeError("Every value must be finite.");
  if (!(h1 > 0 && h2 > h1 && h3 > h2)) throw new RangeError(`Spacings must increase from fine to coarse: ${h1}, ${h2}, ${h3}.`);
  if (!(input.formalOrder > 0)) throw new RangeError("The formal order must be positive.");
  const r21 = h2 / h1;
  const r32 = h3 / h2;
  const e21 = phi2 - phi1;
  const e32 = phi3 - phi2;
  const roundOff = 64 * Number.EPSILON * Math.max(Math.abs(phi1), Math.abs(phi2), Math.abs(phi3));
  const [d1, d2, d3] = input.errors.map((x) => Math.max(Math.abs(x) || 0, roundOff));
  const range = Math.max(phi1, phi2, phi3) - Math.min(phi1, phi2, phi3);
  const kind = classOf(e21, e32, [Math.max(d1, d2), Math.max(d2, d3)], r21, r32);
  if (kind === "degenerate") {
    const noise = Math.max(d1, d2, d3);
    const reason =
      Math.max(Math.abs(e21), Math.abs(e32)) <= noise
        ? "the three values agree to within iteration error and round-off"
        : "one difference is no larger than iteration error and round-off";
    return { kind: "degenerate", uncertainty: Math.max(noise, range), reason };
  }
  const ratio = e21 / e32;
  const guard = GUARD * Math.abs(phi1 - twoTermLimit(input));
  const grown: ThreeMesh = { kind: "diverging", uncertainty: Math.max(3 * Math.max(Math.abs(e21), Math.abs(e32)), guard), guard };
  if (kind === "oscillating") return oscillating(input, r21, r32, range, guard);
  if (kind === "diverging") return grown;
  const order = observedOrder(ratio, r21, r32);
  const agrees = Math.abs(order - input.formalOrder) <= NEAR * input.formalOrder;
  const safety = agrees ? 1.25 : 3;
  const orderUsed = agrees ? input.formalOrder : Math.min(Math.max(order, LEAST_ORDER), input.formalOrder);
  const indexFine = (safety * Math.abs(e21)) / (r21 ** orderUsed - 1);
  const fromErrors = Math.hypot(d1, d2) / (r21 ** orderUsed - 1);
  // Two terms of unlike signs can pass for an order above the formal one while the limit lies far off.
  const tooFast = order > (1 + NEAR) * input.formalOrder;
  return {
    kind: "monotone",
    order,
    orderRange: orderRange([e21, Math.hypot(d1, d2)], [e32, Math.hypot(d2, d3)], r21, r32),
    orderUsed,
    ...(order >= LEAST_ORDER && order <= input.formalOrder + MOST_ABOVE ? { extrapolated: phi1 - e21 / (r21 ** order - 1) } : {}),
    indexFine,
    indexMedium: (safety * Math.abs(e32)) / (r32 ** orderUsed - 1),
    safety,
    fromErrors,
    ...(tooFast ? { guard } : {}),
    uncertainty: Math.hypot(tooFast ? Math.max(indexFine, guard) : indexFine, fromErrors),
    agrees,
  };
}

/**
 * Class of two changes between three meshes.
 * @param e21 medium less fine value
 * @param e32 coarse less medium value
 * @param noise what each change must exceed to be one
 */
export function classOf(e21: number, e32: number, noise: readonly [number, number], r21: number, r32: number): ThreeMesh["kind"] {
  if (Math.abs(e21) <= noise[0] || Math.abs(e32) <= noise[1]) return "degenerate";
  const ratio = e21 / e32;
  if (ratio < 0) return ratio > -1 ? "oscillating" : "diverging";
  // A positive order exists exactly below this limit, which is 1 for equal ratios.
  return ratio < Math.log(r21) / Math.log(r32) ? "monotone" : "diverging";
}

/** Orders between the two extremes of both differences; 0 where the differences may be without any order. */
function orderRange(fine: readonly [number, number], coarse: readonly [number, number], r21: number, r32: number): [number, number] {
  const at = (small: number, large: number) => {
    const ratio = Math.max(0, small) / large;
    if (!(large > 0) || ratio >= Math.log(r21) / Math.log(r32)) return 0;
    return ratio > 0 ? observedOrder(ratio, r21, r32) : Number.POSITIVE_INFINITY;
  };
  const [e21, e32] = [Math.abs(fine[0]), Math.abs(coarse[0])];
  return [at(e21 + fine[1], e32 - coarse[1]), at(e21 - fine[1], e32 + coarse[1])];
}

/** Limit of the two terms of order 1 and 2 that pass through the three values. */
function twoTermLimit({ phi, spacing }: ThreeMeshInput): number {
  return fixedFit({ phi, spacing }, "first-and-second", false)?.limit ?? phi[0];
}

function oscillating(input: ThreeMeshInput, r21: number, r32: number, range: number, guard: number): ThreeMesh {
  const [phi1, phi2, phi3] = input.phi;
  const order = solvePublished(Math.abs((phi3 - phi2) / (phi2 - phi1)), r21, r32);
  return {
    kind: "oscillating",
    uncertainty: Math.max((OSCILLATING_SAFETY * range) / 2, guard),
    guard,
    order,
    extrapolatedAsPublished: order === undefined ? undefined : (r21 ** order * phi1 - phi2) / (r21 ** order - 1),
  };
}

/** p from ln|e32/e21| + ln((r21^p + 1)/(r32^p + 1)) = p ln r21, as published for changes of opposite sign. */
function solvePublished(ratio: number, r21: number, r32: number): number | undefined {
  let p = Math.abs(Math.log(ratio)) / Math.log(r21);
  for (let k = 0; k < 200; k++) {
    const next = Math.abs(Math.log(ratio) + Math.log((r21 ** p + 1) / (r32 ** p + 1))) / Math.log(r21);
    if (!Number.isFinite(next)) return undefined;
    if (Math.abs(next - p) < 1e-12) return next;
    p = next;
  }
  return undefined;
}

/**
 * Order p > 0 with (r21^p - 1) / (r21^p (r32^p - 1)) = e21 / e32, by bisection: plain fixed-point iteration fails for r32 > r21^2.
 * @param ratio e21 / e32, in (0, ln r21 / ln r32)
 * @example
 * observedOrder(0.25, 2, 2).toFixed(6) // "2.000000"
 */
export function observedOrder(ratio: number, r21: number, r32: number): number {
  const misfit = (p: number) => Math.log(Math.expm1(p * Math.log(r21)) / (r21 ** p * Math.expm1(p * Math.log(r32)))) - Math.log(ratio);
  let low = 1e-9;
  let high = 1;
  while (misfit(high) > 0 && high < 400) high *= 2;
  for (let k = 0; k < 200; k++) {
    const mid = (low + high) / 2;
    // Further halving moves nothing.
    if (mid === low || mid === high) break;
    if (misfit(mid) > 0) low = mid;
    else high = mid;
  }
  return (low + high) / 2;
}

/** What is known of the finest mesh, and what is asked of the next. */
export interface FinestMesh {
  /** 95 %, one unit with the limit */
  readonly uncertainty: number;
  readonly limit: number;
  /** m */
  readonly spacing: number;
  readonly orderUsed: number;
  readonly cells: number;
  readonly dimension: 2 | 3;
}

/**
 * Spacing and cell count that would bring the uncertainty to a limit at the order used.
 * @throws {RangeError} Uncertainty, limit or order not positive.
 * @example
 * nextMesh({ uncertainty: 0.04, limit: 0.01, spacing: 0.1, orderUsed: 2, cells: 1000, dimension: 2 }) // { spacing: 0.05, cells: 4000 }
 */
export function nextMesh({ uncertainty, limit, spacing, orderUsed, cells, dimension }: FinestMesh): { spacing: number; cells: number } {
  if (!(uncertainty > 0 && limit > 0 && orderUsed > 0)) throw new RangeError("Uncertainty, limit and order must be positive.");
  const ratio = (limit / uncertainty) ** (1 / orderUsed);
  return { spacing: spacing * ratio, cells: Math.ceil(cells / ratio ** dimension) };
}

/** The rules of this file in words. */
export const THREE_MESH_RULES = rulesOf("core/method/refinement/threeMesh.ts", [
  {
    rule: "three-mesh",
    text: "Order p from ln((r21^p − 1)/(r21^p (r32^p − 1))) = ln(e21/e32), solved by bisection; extrapolated value φ1 − e21/(r21^p − 1); index = safety × |e21|/(r21^p − 1). Within a tenth of the formal order that order and a safety factor of 1.25 are used; else p held between 0.5 and the formal order, and 3. The extrapolated value is given only for p from 0.5 to formal + 0.5. Errors of the three values for other reasons are added by squares, times 1/(r^p − 1). The asymptotic ratio is not asked: with exactly three meshes it is |φ1/φ2| whatever the data.",
    source: "Celik et al. 2008",
  },
  {
    rule: "two-term-guard",
    text: "Where the order is more than a tenth above the formal one, or the set oscillates or diverges, the uncertainty is at least 1.25 times the distance from the fine value to the limit of φ0 + a1 h + a2 h² through the three values: two terms of unlike signs can pass for a high order while the limit lies far off. Without it 84 % of such sets were covered (npm run coverage).",
    source: "method of this product",
  },
  {
    rule: "not-converging",
    text: "The changes do not shrink as a positive order demands: e21/e32 is not below ln r21 / ln r32. No order is printed; three times the largest difference stands for the uncertainty and the verdict fails.",
    source: "method of this product",
  },
  {
    rule: "oscillating",
    text: "The changes have opposite signs and shrink: three times half the range stands for the uncertainty; no extrapolated value is adopted.",
    source: "method of this product",
  },
  {
    rule: "not-asymptotic",
    text: "The observed order is more than a tenth away from the formal one: it is held between 0.5 and the formal order and the safety factor is 3.",
    source: "Oberkampf & Roy 2010, section 8.6",
  },
  {
    rule: "rung-errors",
    text: "Iteration and averaging errors of the two finest runs, times 1/(r^p − 1), against the convergence index: beyond half of it is a doubt.",
    source: "method of this product",
  },
  {
    rule: "next-mesh",
    text: "Spacing that would bring the uncertainty to the limit at the order used, its cells, and its time from the cost exponent of the two finest runs.",
    source: "own",
  },
]);
