/** Result of the three-mesh procedure for one quantity; see method 3. */
export type ThreeMesh =
  | {
      readonly kind: "monotone";
      readonly order: number;
      /** order used in the uncertainty: the observed one, or that held inside [0.5, formal] */
      readonly orderUsed: number;
      readonly extrapolated: number;
      /** convergence indices of the fine and the medium mesh, absolute, in the quantity's unit */
      readonly indexFine: number;
      readonly indexMedium: number;
      readonly safety: 1.25 | 3;
      /** 95 % uncertainty of the fine value, in the quantity's unit */
      readonly uncertainty: number;
      /** index32 / (r21^p index21) at the observed order, 1 in the asymptotic range */
      readonly asymptoticRatio: number;
      readonly trusted: boolean;
    }
  | { readonly kind: "oscillating"; readonly uncertainty: number; readonly order?: number; readonly extrapolatedAsPublished?: number }
  | { readonly kind: "diverging"; readonly uncertainty: number }
  | { readonly kind: "degenerate"; readonly uncertainty: number; readonly reason: string };

export interface ThreeMeshInput {
  /** fine, medium, coarse value, any one unit */
  readonly phi: readonly [number, number, number];
  /** representative spacings, fine < medium < coarse */
  readonly spacing: readonly [number, number, number];
  readonly formalOrder: number;
  /** difference below which two values count as equal: iteration error, round-off */
  readonly noise: number;
}

const OSCILLATING_SAFETY = 3;

/**
 * Observed order, extrapolated value and fine-mesh convergence index of one quantity on three meshes, any ratios.
 * @throws {RangeError} Values not finite, spacings not increasing, formal order not positive.
 * @source Celik et al., J. Fluids Eng. 130, 078001 (2008); classes and limits as method 3.
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
  const noise = Math.max(input.noise, roundOff);
  const range = Math.max(phi1, phi2, phi3) - Math.min(phi1, phi2, phi3);
  if (Math.abs(e21) <= noise || Math.abs(e32) <= noise) {
    const reason =
      Math.max(Math.abs(e21), Math.abs(e32)) <= noise
        ? "the three values agree to within iteration error and round-off"
        : "one difference is no larger than iteration error and round-off";
    return { kind: "degenerate", uncertainty: Math.max(noise, range), reason };
  }
  const ratio = e21 / e32;
  if (ratio < 0)
    return ratio > -1 ? oscillating(input, r21, r32, range) : { kind: "diverging", uncertainty: 3 * Math.max(Math.abs(e21), Math.abs(e32)) };
  // A positive order exists exactly below this limit, which is 1 for equal ratios.
  if (ratio >= Math.log(r21) / Math.log(r32)) return { kind: "diverging", uncertainty: 3 * Math.max(Math.abs(e21), Math.abs(e32)) };
  const order = observedOrder(ratio, r21, r32);
  const asymptotic = Math.abs(e32) / (r32 ** order - 1) / (r21 ** order * (Math.abs(e21) / (r21 ** order - 1)));
  const trusted = order >= 0.5 && order <= input.formalOrder + 0.5 && Math.abs(asymptotic * relative(phi1, phi2) - 1) <= 0.1;
  const safety = trusted ? 1.25 : 3;
  const orderUsed = trusted ? order : Math.min(Math.max(order, 0.5), input.formalOrder);
  const indexFine = (safety * Math.abs(e21)) / (r21 ** orderUsed - 1);
  return {
    kind: "monotone",
    order,
    orderUsed,
    extrapolated: phi1 - e21 / (r21 ** order - 1),
    indexFine,
    indexMedium: (safety * Math.abs(e32)) / (r32 ** orderUsed - 1),
    safety,
    uncertainty: indexFine,
    asymptoticRatio: asymptotic * relative(phi1, phi2),
    trusted,
  };
}

/** Ratio of the values the two published indices are relative to; 1 where they would divide by zero. */
const relative = (phi1: number, phi2: number) => (phi1 !== 0 && phi2 !== 0 ? Math.abs(phi1 / phi2) : 1);

function oscillating(input: ThreeMeshInput, r21: number, r32: number, range: number): ThreeMesh {
  const [phi1, phi2, phi3] = input.phi;
  const order = solvePublished(Math.abs((phi3 - phi2) / (phi2 - phi1)), r21, r32);
  return {
    kind: "oscillating",
    uncertainty: (OSCILLATING_SAFETY * range) / 2,
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
 */
export function observedOrder(ratio: number, r21: number, r32: number): number {
  const misfit = (p: number) => Math.log(Math.expm1(p * Math.log(r21)) / (r21 ** p * Math.expm1(p * Math.log(r32)))) - Math.log(ratio);
  let low = 1e-9;
  let high = 1;
  while (misfit(high) > 0 && high < 400) high *= 2;
  for (let k = 0; k < 200; k++) {
    const mid = (low + high) / 2;
    if (misfit(mid) > 0) low = mid;
    else high = mid;
  }
  return (low + high) / 2;
}

/** Spacing and cell count that would bring the uncertainty to a limit at the order used. */
export function nextMesh(
  uncertainty: number,
  limit: number,
  spacing: number,
  orderUsed: number,
  cells: number,
  dimension: 2 | 3,
): { spacing: number; cells: number } {
  if (!(uncertainty > 0 && limit > 0 && orderUsed > 0)) throw new RangeError("Uncertainty, limit and order must be positive.");
  const ratio = (limit / uncertainty) ** (1 / orderUsed);
  return { spacing: spacing * ratio, cells: Math.ceil(cells / ratio ** dimension) };
}
