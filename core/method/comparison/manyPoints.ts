/** Difference of one point with its standard uncertainties, one unit. */
export interface ComparedPoint {
  readonly difference: number;
  /** standard uncertainty of its own: numerical, of the measurement, of its place */
  readonly own?: number | undefined;
  /** standard uncertainty it shares with all others, with its sign */
  readonly shared: number;
}

/** All points of a comparison together against their uncertainties. */
export interface ManyPoints {
  /** differences squared against their covariance */
  readonly chiSquare: number;
  readonly points: number;
  /** n + sqrt(2 n): above it the differences are larger than their uncertainties explain */
  readonly expected: number;
  /** points whose difference is within twice its uncertainty */
  readonly within: number;
  readonly verdict: "within-noise" | "beyond-noise";
}

interface Columns {
  readonly length: number;
  readonly difference: Float64Array;
  /** NaN where it is not known */
  readonly own: Float64Array;
  readonly shared: Float64Array;
}

/**
 * The metric over many points: chi-square = E' V^-1 E with V = diag(own^2) + shared shared', against n + sqrt(2 n).
 * What the points share counts once, not n times.
 * @returns undefined where a point has no uncertainty of its own: then nothing weighs it
 * @source ASME V&V 20.1; the inverse after Sherman & Morrison (1950)
 * @example
 * manyPoints([{ difference: 1, own: 1, shared: 0 }, { difference: -1, own: 1, shared: 0 }])?.chiSquare // 2
 */
export function manyPoints(list: readonly ComparedPoint[]): ManyPoints | undefined {
  const column = (of: (p: ComparedPoint) => number) => Float64Array.from(list, of);
  return manyPointsOf({
    length: list.length,
    difference: column((p) => p.difference),
    own: column((p) => p.own ?? Number.NaN),
    shared: column((p) => p.shared),
  });
}

/** The same of columns. */
export function manyPointsOf(columns: Columns): ManyPoints | undefined {
  const { length: n } = columns;
  if (!n) return undefined;
  let [plain, cross, size, within] = [0, 0, 0, 0];
  for (let k = 0; k < n; k++) {
    const [difference, own, shared] = [columns.difference[k], columns.own[k], columns.shared[k]];
    if (!(own > 0) || !Number.isFinite(difference) || !Number.isFinite(shared)) return undefined;
    plain += (difference / own) ** 2;
    cross += (difference * shared) / own ** 2;
    size += (shared / own) ** 2;
    if (difference * difference <= 4 * (own * own + shared * shared)) within++;
  }
  const chiSquare = plain - (cross * cross) / (1 + size);
  const expected = n + Math.sqrt(2 * n);
  return { chiSquare, points: n, expected, within, verdict: chiSquare <= expected ? "within-noise" : "beyond-noise" };
}
