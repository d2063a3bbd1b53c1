import { pchip } from "../../numeric/pchip.ts";
import { rulesOf } from "../../remarks/rule.ts";
import { classOf, type ThreeMesh } from "./threeMesh.ts";

/** A curve on one mesh: abscissae rising, one value each. */
export interface Curve {
  readonly at: readonly number[];
  readonly value: readonly number[];
}

/** What three sets of values at the same places on three meshes say, place by place. */
export interface PointsRefinement {
  /** local order of each place that converges monotonically, at most 8; NaN elsewhere */
  readonly order: Float64Array;
  /** estimated distance of the fine value to the limit, without a safety factor, in the values' unit */
  readonly error: Float64Array;
  /** 95 % uncertainty at each place, in the values' unit */
  readonly band: Float64Array;
  /** mean of the local orders; absent where no place converges monotonically */
  readonly averageOrder?: number;
  /** weight of the local orders in bins of half an order from 0; the last holds all that are higher */
  readonly orders: readonly number[];
  /** shares of the places of each class; what moves less than round-off is settled */
  readonly shares: Readonly<Record<"monotone" | "oscillating" | "diverging" | "settled", number>>;
}

/** What three curves on three meshes say, point by point. */
export interface CurveRefinement {
  /** places of the finest curve that all three reach */
  readonly at: readonly number[];
  readonly fine: readonly number[];
  /** 95 % uncertainty at each place, in the curve's unit */
  readonly band: readonly number[];
  /** mean of the local orders; absent where no point converges monotonically */
  readonly averageOrder?: number;
  /** local orders of the points that converge monotonically, counted in bins of half an order from 0; the last holds all that are higher */
  readonly orders: readonly number[];
  /** shares of the points of each class; what moves less than round-off is settled */
  readonly shares: PointsRefinement["shares"];
}

const BIN = 0.5;
const BINS = 9;
const FEWEST = 5;
/** share of the values' range below which a change is rounding, not behaviour */
const ROUNDING = 1e-9;
const MOST_LOCAL = 8;
/** how far from the formal order the average may be to be counted as it */
const NEAR = 0.1;
const LEAST = 0.5;
/** two values that agree to this share of them are one, as in the three-mesh procedure */
const ROUND_OFF = 64 * Number.EPSILON;

/** Three values a place, finest mesh first. */
export interface PlacedValues {
  readonly values: readonly [ArrayLike<number>, ArrayLike<number>, ArrayLike<number>];
  readonly spacing: readonly [number, number, number];
  readonly formalOrder: number;
  /** length or area that each place stands for; each the same where there are none */
  readonly weight?: ArrayLike<number>;
}

/**
 * Local order, class and uncertainty at many places on three meshes. Local orders scatter widely and no single one is to be believed: the band is
 * made with their mean, held between 0.5 and the formal order, and with a factor of 1.25 where that mean is within a tenth of the formal order,
 * else 3. Where the changes swing or grow, three times the largest of them stands for it. Places where a value is NaN are left out.
 * @source Celik et al., J. Fluids Eng. 130, 078001 (2008), which averages local orders.
 */
export function refinePoints({ values: [fine, medium, coarse], spacing, formalOrder, weight }: PlacedValues): PointsRefinement {
  const n = fine.length;
  const order = new Float64Array(n).fill(Number.NaN);
  const noise = ROUNDING * rangeOf([fine, medium, coarse]);
  const [r21, r32] = [spacing[1] / spacing[0], spacing[2] / spacing[1]];
  const orderOf = orderByTable(r21, r32);
  const kinds: (ThreeMesh["kind"] | undefined)[] = new Array(n).fill(undefined);
  const held = { monotone: 0, oscillating: 0, diverging: 0, degenerate: 0 };
  const orders = new Array<number>(BINS).fill(0);
  let sum = 0;
  for (let i = 0; i < n; i++) {
    const e21 = medium[i] - fine[i];
    const e32 = coarse[i] - medium[i];
    if (!Number.isFinite(e21 + e32)) continue;
    const rounding = Math.max(noise, ROUND_OFF * Math.max(Math.abs(fine[i]), Math.abs(medium[i]), Math.abs(coarse[i])));
    const w = weight?.[i] ?? 1;
    const kind = classOf(e21, e32, [rounding, rounding], r21, r32);
    kinds[i] = kind;
    held[kind] += w;
    if (kind !== "monotone") continue;
    order[i] = orderOf(e21 / e32);
    sum += w * order[i];
    orders[Math.min(BINS - 1, Math.floor(order[i] / BIN))] += w;
  }
  const whole = held.monotone + held.oscillating + held.diverging + held.degenerate;
  const averageOrder = held.monotone > 0 ? sum / held.monotone : undefined;
  const error = new Float64Array(n).fill(Number.NaN);
  const band = new Float64Array(n).fill(Number.NaN);
  const near = averageOrder !== undefined && Math.abs(averageOrder - formalOrder) <= NEAR * formalOrder;
  const used = near ? formalOrder : Math.min(Math.max(averageOrder ?? LEAST, LEAST), formalOrder);
  const factor = 1 / ((spacing[1] / spacing[0]) ** used - 1);
  for (let i = 0; i < n; i++) {
    const kind = kinds[i];
    if (!kind) continue;
    const step = Math.abs(medium[i] - fine[i]);
    const largest = Math.max(step, Math.abs(coarse[i] - medium[i]));
    error[i] = kind === "monotone" ? step * factor : largest;
    band[i] = kind === "degenerate" ? largest : kind === "monotone" ? (near ? 1.25 : 3) * error[i] : 3 * largest;
  }
  const share = (amount: number) => (whole > 0 ? amount / whole : 0);
  return {
    order,
    error,
    band,
    ...(averageOrder === undefined ? {} : { averageOrder }),
    orders,
    shares: {
      monotone: share(held.monotone),
      oscillating: share(held.oscillating),
      diverging: share(held.diverging),
      settled: share(held.degenerate),
    },
  };
}

const NODES = 64;
const STEPS = 4;

/** Observed order of a ratio of changes, for many ratios on the same three meshes: Newton's method from the nearest of some orders known beforehand. */
function orderByTable(r21: number, r32: number): (ratio: number) => number {
  const [a, b] = [Math.log(r21), Math.log(r32)];
  const logRatio = (p: number) => Math.log(Math.expm1(p * a) / Math.expm1(p * b)) - p * a;
  const node = Array.from({ length: NODES + 1 }, (_, k) => logRatio(Math.max(1e-6, (MOST_LOCAL * k) / NODES)));
  return (ratio) => {
    const wanted = Math.log(ratio);
    if (wanted <= node[NODES]) return MOST_LOCAL;
    // The ratio falls as the order rises.
    let [low, high] = [0, NODES];
    while (high - low > 1) {
      const mid = (low + high) >> 1;
      if (node[mid] > wanted) low = mid;
      else high = mid;
    }
    let p = (MOST_LOCAL * (low + (node[low] - wanted) / (node[low] - node[high]))) / NODES;
    for (let k = 0; k < STEPS; k++) {
      const slope = a / -Math.expm1(-p * a) - b / -Math.expm1(-p * b) - a;
      p = Math.max(1e-9, p - (logRatio(p) - wanted) / slope);
    }
    return Math.min(p, MOST_LOCAL);
  };
}

function rangeOf(sets: readonly ArrayLike<number>[]): number {
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const set of sets)
    for (let i = 0; i < set.length; i++) {
      if (set[i] < low) low = set[i];
      if (set[i] > high) high = set[i];
    }
  return high > low ? high - low : 0;
}

/**
 * What three curves on three meshes say, at the places of the finest.
 * @param curves finest first; coarser ones are taken at the fine one's places by monotone cubics, never beyond their ends
 * @returns undefined where fewer than five places are shared
 */
export function refineCurve(
  curves: readonly [Curve, Curve, Curve],
  spacing: readonly [number, number, number],
  formalOrder: number,
): CurveRefinement | undefined {
  const low = Math.max(...curves.map((c) => c.at[0]));
  const high = Math.min(...curves.map((c) => c.at[c.at.length - 1]));
  const [fine, medium, coarse] = curves;
  const places = fine.at.flatMap((x, i) => (x >= low && x <= high ? [{ x, value: fine.value[i] }] : []));
  if (places.length < FEWEST) return undefined;
  const at = places.map((p) => p.x);
  const along = ({ at: xs, value }: Curve) => at.map((x) => pchip(xs, value, x));
  const values = [places.map((p) => p.value), along(medium), along(coarse)] as const;
  const { band, averageOrder, orders, shares } = refinePoints({ values, spacing, formalOrder });
  return { at, fine: values[0], band: [...band], ...(averageOrder === undefined ? {} : { averageOrder }), orders, shares };
}

/** The rules of this file in words. */
export const POINT_BY_POINT_RULES = rulesOf("core/method/refinement/pointByPoint.ts", [
  {
    rule: "point-by-point",
    text: "A curve on three meshes: local order at each place of the fine curve, coarser ones by monotone cubics. Single local orders are not believed: the band is made with their mean, held between 0.5 and the formal order, safety 1.25 within a tenth of it, else 3; where changes swing or grow, three times the larger of them.",
    source: "Celik et al. 2008",
  },
]);
