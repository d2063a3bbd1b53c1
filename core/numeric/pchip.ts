/**
 * Monotone piecewise cubic through data, evaluated at x inside [xs[0], xs[n - 1]].
 * @throws {RangeError} x outside the data: nothing is extrapolated.
 * @source Fritsch & Butland, SIAM J. Sci. Stat. Comput. 5 (1984) 300.
 * @example
 * pchip([0, 1, 2], [0, 1, 2], 1.5) // 1.5
 */
export function pchip(xs: ArrayLike<number>, ys: ArrayLike<number>, x: number): number {
  const n = xs.length;
  if (!(x >= xs[0] && x <= xs[n - 1])) throw new RangeError(`${x} lies outside the data, ${xs[0]} to ${xs[n - 1]}.`);
  const low = intervalOf(xs, x);
  const high = low + 1;
  const h = xs[high] - xs[low];
  const t = (x - xs[low]) / h;
  const m0 = slope(xs, ys, low);
  const m1 = slope(xs, ys, high);
  return (1 + 2 * t) * (1 - t) ** 2 * ys[low] + t * (1 - t) ** 2 * h * m0 + t * t * (3 - 2 * t) * ys[high] + t * t * (t - 1) * h * m1;
}

const secant = (xs: ArrayLike<number>, ys: ArrayLike<number>, k: number): number => (ys[k + 1] - ys[k]) / (xs[k + 1] - xs[k]);

function slope(xs: ArrayLike<number>, ys: ArrayLike<number>, i: number): number {
  const n = xs.length;
  if (n === 2) return secant(xs, ys, 0);
  if (i === 0) return endSlope(xs[1] - xs[0], xs[2] - xs[1], secant(xs, ys, 0), secant(xs, ys, 1));
  if (i === n - 1) return endSlope(xs[n - 1] - xs[n - 2], xs[n - 2] - xs[n - 3], secant(xs, ys, n - 2), secant(xs, ys, n - 3));
  const left = secant(xs, ys, i - 1);
  const right = secant(xs, ys, i);
  if (left * right <= 0) return 0;
  const h0 = xs[i] - xs[i - 1];
  const h1 = xs[i + 1] - xs[i];
  const w0 = 2 * h1 + h0;
  const w1 = h1 + 2 * h0;
  return (w0 + w1) / (w0 / left + w1 / right);
}

/** Three-point end slope, held back so that the curve stays monotone. */
function endSlope(h0: number, h1: number, d0: number, d1: number): number {
  const m = ((2 * h0 + h1) * d0 - h0 * d1) / (h0 + h1);
  if (m * d0 <= 0) return 0;
  if (d0 * d1 <= 0 && Math.abs(m) > 3 * Math.abs(d0)) return 3 * d0;
  return m;
}

/**
 * The same curve to be asked at many places: slopes are worked out once, and a place near the one before is found at once.
 * @returns a function of x inside the data; it throws a RangeError outside
 */
export function pchipOf(xs: ArrayLike<number>, ys: ArrayLike<number>): (x: number) => number {
  const n = xs.length;
  const slopes = new Float64Array(n);
  for (let i = 0; i < n; i++) slopes[i] = slope(xs, ys, i);
  let at = 0;
  return (x) => {
    if (!(x >= xs[0] && x <= xs[n - 1])) throw new RangeError(`${x} lies outside the data, ${xs[0]} to ${xs[n - 1]}.`);
    if (!(x >= xs[at] && x <= xs[at + 1])) {
      if (x >= xs[at] && at + 2 < n && x <= xs[at + 2]) at++;
      else at = intervalOf(xs, x);
    }
    const h = xs[at + 1] - xs[at];
    const t = (x - xs[at]) / h;
    const r = (1 - t) * (1 - t);
    return (1 + 2 * t) * r * ys[at] + t * r * h * slopes[at] + t * t * (3 - 2 * t) * ys[at + 1] + t * t * (t - 1) * h * slopes[at + 1];
  };
}

/** Index of the interval a place lies in, the last one at the end of the data. */
function intervalOf(xs: ArrayLike<number>, x: number): number {
  let [low, high] = [0, xs.length - 1];
  while (high - low > 1) {
    const mid = (low + high) >> 1;
    if (xs[mid] <= x) low = mid;
    else high = mid;
  }
  return low;
}
