import { pchip } from "../../numeric/pchip.ts";
import { rulesOf } from "../../remarks/rule.ts";
import { type ThreeMesh, threeMesh } from "./threeMesh.ts";

/** A curve on one mesh: abscissae rising, one value each. */
export interface Curve {
  readonly at: readonly number[];
  readonly value: readonly number[];
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
  readonly shares: Readonly<Record<"monotone" | "oscillating" | "diverging" | "settled", number>>;
}

const BIN = 0.5;
const BINS = 9;
const FEWEST = 5;
/** share of the curve's range below which a change is rounding, not behaviour */
const ROUNDING = 1e-9;
const MOST_LOCAL = 8;
/** how far from the formal order the average may be to be counted as it */
const NEAR = 0.1;

/**
 * Local order, class and uncertainty along a curve on three meshes. Local orders scatter widely and no single one is to be believed: the band is
 * made with their mean, held between 0.5 and the formal order, and with a factor of 1.25 where that mean is within a tenth of the formal order,
 * else 3. Where the changes swing or grow, three times the largest of them stands for it.
 * @param curves finest first; coarser ones are taken at the fine one's places by monotone cubics, never beyond their ends
 * @returns undefined where fewer than five places are shared
 * @source Celik et al., J. Fluids Eng. 130, 078001 (2008), which averages local orders.
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
  const values = places.map(({ x, value }) => [value, pchip(medium.at, medium.value, x), pchip(coarse.at, coarse.value, x)] as const);
  const range = Math.max(...values.flat()) - Math.min(...values.flat());
  const judged = values.map((phi) => judge(phi, spacing, formalOrder, ROUNDING * range));
  const local = judged.flatMap((r) => (r.kind === "monotone" ? [Math.min(r.order, MOST_LOCAL)] : []));
  const averageOrder = local.length ? local.reduce((s, p) => s + p, 0) / local.length : undefined;
  const orders = new Array<number>(BINS).fill(0);
  for (const p of local) orders[Math.min(BINS - 1, Math.floor(p / BIN))]++;
  const share = (kind: ThreeMesh["kind"]) => judged.filter((r) => r.kind === kind).length / judged.length;
  return {
    at: places.map((p) => p.x),
    fine: places.map((p) => p.value),
    band: judged.map((r, i) => bandAt(r, values[i], spacing, averageOrder ?? LEAST, formalOrder)),
    ...(averageOrder === undefined ? {} : { averageOrder }),
    orders,
    shares: { monotone: share("monotone"), oscillating: share("oscillating"), diverging: share("diverging"), settled: share("degenerate") },
  };
}

const LEAST = 0.5;

const judge = (phi: readonly [number, number, number], spacing: readonly [number, number, number], formalOrder: number, noise: number): ThreeMesh =>
  threeMesh({ phi, spacing, formalOrder, errors: [noise, noise, noise] });

function bandAt(
  r: ThreeMesh,
  [phi1, phi2, phi3]: readonly [number, number, number],
  [h1, h2]: readonly [number, number, number],
  average: number,
  formalOrder: number,
): number {
  if (r.kind === "degenerate") return Math.max(Math.abs(phi2 - phi1), Math.abs(phi3 - phi2));
  if (r.kind !== "monotone") return 3 * Math.max(Math.abs(phi2 - phi1), Math.abs(phi3 - phi2));
  const near = Math.abs(average - formalOrder) <= NEAR * formalOrder;
  const order = near ? formalOrder : Math.min(Math.max(average, LEAST), formalOrder);
  return ((near ? 1.25 : 3) * Math.abs(phi2 - phi1)) / ((h2 / h1) ** order - 1);
}

/** The rules of this file in words. */
export const POINT_BY_POINT_RULES = rulesOf("core/method/refinement/pointByPoint.ts", [
  {
    rule: "point-by-point",
    text: "A curve on three meshes: local order at each place of the fine curve, coarser ones by monotone cubics. Single local orders are not believed: the band is made with their mean, held between 0.5 and the formal order, safety 1.25 within a tenth of it, else 3; where changes swing or grow, three times the larger of them.",
    source: "Celik et al. 2008",
  },
]);
