import type { Numbers } from "../../numeric/numbers.ts";
import type { ReferenceProfile } from "../../records/reference.ts";
import type { RisingCurve } from "./front.ts";

/** One point of a yardstick and what the simulated curve has there; uncertainties are standard ones. */
export interface CurvePoint {
  readonly at: number;
  readonly simulated: number;
  readonly reference: number;
  readonly difference: number;
  readonly doubtful?: string | undefined;
  /** of the reference, all parts: its own, shared, and that of its place times the slope of the simulated curve */
  readonly uReference?: number;
  readonly uNum?: number;
  /** of both, where both are known; the part of it that is the point's own, and the part all points share */
  readonly uVal?: number;
  readonly own?: number;
  readonly shared: number;
}

/** Compared points as columns: tens of thousands of them as objects would take longer than what is worked out of them. What is not known is NaN. */
export interface PointColumns {
  readonly length: number;
  readonly at: Float64Array;
  readonly simulated: Float64Array;
  readonly reference: Float64Array;
  readonly difference: Float64Array;
  /** standard uncertainties: of the reference, of the run, each point's own part of both, and what all points share */
  readonly uReference: Float64Array;
  readonly uNum: Float64Array;
  readonly own: Float64Array;
  readonly shared: Float64Array;
  /** index of each point in the reference */
  readonly index: Int32Array;
}

/** Standard numerical uncertainty of the simulated curve at a place; NaN where its band does not reach. */
export type Numerical = (at: number) => number;

/** One for all points, or one for each. */
const uncertaintyAt = (u: number | readonly number[] | undefined, i: number): number | undefined => (typeof u === "object" ? u[i] : u);

/** The simulated curve as it is read. */
export interface ReadCurve {
  readonly xs: Numbers;
  readonly read: (x: number) => number;
}

/** Points of a reference inside the simulated curve and the reference's window, with how many lie outside of each. */
export function pointColumns(curve: ReadCurve, r: ReferenceProfile, numerical: Numerical): { points: PointColumns; outside: number; closed: number } {
  const n = r.abscissa.length;
  const [first, last] = [curve.xs[0], curve.xs[curve.xs.length - 1]];
  const [low, high] = r.window ?? [Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY];
  const column = () => new Float64Array(n);
  const [at, simulated, reference, difference, uReference, uNum, own, shared] = Array.from({ length: 8 }, column);
  const index = new Int32Array(n);
  let [length, outside, closed] = [0, 0, 0];
  for (let i = 0; i < n; i++) {
    const x = r.abscissa[i];
    if (x < low || x > high) closed++;
    else if (!(x >= first && x <= last)) outside++;
    else {
      const k = length++;
      index[k] = i;
      at[k] = x;
      simulated[k] = curve.read(x);
      reference[k] = r.value[i];
      difference[k] = simulated[k] - reference[k];
      uNum[k] = numerical(x);
      weigh(k, i, x);
    }
  }
  function weigh(k: number, i: number, x: number): void {
    const alone = uncertaintyAt(r.standardUncertainty, i);
    const common = uncertaintyAt(r.systematicUncertainty, i);
    const place = uncertaintyAt(r.abscissaUncertainty, i) ?? 0;
    const known = alone !== undefined || common !== undefined;
    const byPlace = known && place ? place * slopeAt(curve, x) : 0;
    const square = (alone ?? 0) ** 2 + byPlace ** 2;
    shared[k] = common ?? 0;
    uReference[k] = known ? Math.sqrt(square + shared[k] ** 2) : Number.NaN;
    own[k] = known ? Math.sqrt(square + uNum[k] * uNum[k]) : Number.NaN;
  }
  const cut = <Column extends Float64Array | Int32Array>(c: Column) => c.subarray(0, length) as Column;
  const points = {
    length,
    at: cut(at),
    simulated: cut(simulated),
    reference: cut(reference),
    difference: cut(difference),
    uReference: cut(uReference),
    uNum: cut(uNum),
    own: cut(own),
    shared: cut(shared),
    index: cut(index),
  };
  return { points, outside, closed };
}

/** Slope of the simulated curve about a place, over a hundredth of its extent. */
function slopeAt({ xs, read }: ReadCurve, at: number): number {
  const [first, last] = [xs[0], xs[xs.length - 1]];
  const half = (last - first) / 200;
  const [a, b] = [Math.max(first, at - half), Math.min(last, at + half)];
  return (read(b) - read(a)) / (b - a);
}

/** Some of the points, in the order they are named. */
export function pick(p: PointColumns, which: Int32Array): PointColumns {
  const of = <Column extends Float64Array | Int32Array>(c: Column): Column => {
    const out = c.slice(0, which.length) as Column;
    for (let k = 0; k < which.length; k++) out[k] = c[which[k]];
    return out;
  };
  const { at, simulated, reference, difference, uReference, uNum, own, shared, index } = p;
  return {
    length: which.length,
    at: of(at),
    simulated: of(simulated),
    reference: of(reference),
    difference: of(difference),
    uReference: of(uReference),
    uNum: of(uNum),
    own: of(own),
    shared: of(shared),
    index: of(index),
  };
}

/** The points in the order of their places, those of one place as they came. */
export function risingPoints(p: PointColumns): PointColumns {
  let k = 1;
  while (k < p.length && p.at[k] >= p.at[k - 1]) k++;
  if (k >= p.length) return p;
  return pick(
    p,
    Int32Array.from({ length: p.length }, (_, i) => i).sort((a, b) => p.at[a] - p.at[b] || a - b),
  );
}

/** The reference of rising points; those at one place count as their mean, where a slope is to be told. */
export function distinctReference(p: PointColumns): RisingCurve {
  const [xs, ys] = [new Float64Array(p.length), new Float64Array(p.length)];
  let n = 0;
  for (let from = 0; from < p.length; ) {
    let [to, sum] = [from, 0];
    while (to < p.length && p.at[to] === p.at[from]) sum += p.reference[to++];
    xs[n] = p.at[from];
    ys[n++] = sum / (to - from);
    from = to;
  }
  return { xs: xs.subarray(0, n), ys: ys.subarray(0, n) };
}

/** Norms of the differences, as means over the points. */
export function normsOf({ length, difference }: PointColumns): { l1: number; l2: number; linf: number } {
  let [l1, l2, linf] = [0, 0, 0];
  for (let k = 0; k < length; k++) {
    const size = Math.abs(difference[k]);
    l1 += size;
    l2 += size * size;
    if (size > linf) linf = size;
  }
  return { l1: l1 / length, l2: Math.sqrt(l2 / length), linf };
}

/** Norms per length of the difference, piecewise linear between rising points; undefined where they have no length. */
export function normsPerLength({ length: n, at, difference }: PointColumns): { l1: number; l2: number } | undefined {
  const length = at[n - 1] - at[0];
  if (!(length > 0)) return undefined;
  let [l1, l2] = [0, 0];
  for (let k = 1; k < n; k++) {
    const h = at[k] - at[k - 1];
    const [a, b] = [difference[k - 1], difference[k]];
    // Where the sign changes the two triangles are added, not taken off each other.
    l1 += a * b < 0 ? (h * (a * a + b * b)) / (2 * (Math.abs(a) + Math.abs(b))) : (h * (Math.abs(a) + Math.abs(b))) / 2;
    l2 += (h * (a * a + a * b + b * b)) / 3;
  }
  return { l1: l1 / length, l2: Math.sqrt(l2 / length) };
}

const known = (v: number) => (Number.isNaN(v) ? undefined : v);

/** One of the points by itself. */
export function pointOf(p: PointColumns, k: number, doubts: ReadonlyMap<number, string>): CurvePoint {
  const [uReference, uNum] = [known(p.uReference[k]), known(p.uNum[k])];
  const whole = uReference !== undefined && uNum !== undefined;
  return {
    at: p.at[k],
    simulated: p.simulated[k],
    reference: p.reference[k],
    difference: p.difference[k],
    doubtful: doubts.get(p.index[k]),
    uReference,
    uNum,
    uVal: whole ? Math.sqrt(uReference * uReference + uNum * uNum) : undefined,
    own: whole ? p.own[k] : undefined,
    shared: p.shared[k],
  };
}
