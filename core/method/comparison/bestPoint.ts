import { extent } from "../../numeric/extent.ts";

/** The highest point of a curve, by a fit; uncertainties are standard ones. */
export interface BestPoint {
  readonly at: number;
  readonly value: number;
  readonly uAt: number;
  readonly uValue: number;
  /** points the fit went through */
  readonly points: number;
}

/** A curve of few points, places rising. */
export interface FewPoints {
  readonly xs: readonly number[];
  readonly ys: readonly number[];
  /** standard uncertainty of each value, where it is known */
  readonly us?: readonly number[];
}

/** points about the highest that are fitted */
const ABOUT = 5;
/** a hump must stand out by this share of the range on both sides */
const STANDS_OUT = 0.02;

/**
 * Best point of an operating curve: the top of the parabola through the points about the highest, weighed by their uncertainties.
 * Its uncertainty is that of the fit, not less than the scatter about it, and what three points in place of five would make of it.
 * @returns undefined where the highest point is an end, or hardly stands out
 * @example
 * bestPoint({ xs: [0, 1, 2], ys: [0, 1, 0] })?.at // 1
 */
export function bestPoint(curve: FewPoints): BestPoint | undefined {
  const { ys } = curve;
  let top = 0;
  for (let i = 1; i < ys.length; i++) if (ys[i] > ys[top]) top = i;
  if (top === 0 || top === ys.length - 1) return undefined;
  const [low] = extent(ys);
  const room = STANDS_OUT * (ys[top] - low);
  if (!(ys[top] - ys[0] > room && ys[top] - ys[ys.length - 1] > room)) return undefined;
  const from = Math.max(0, Math.min(top - 2, ys.length - ABOUT));
  const wide = parabola(curve, from, Math.min(ys.length, from + ABOUT));
  const narrow = parabola(curve, top - 1, top + 2);
  if (!wide || !narrow) return narrow;
  return {
    ...wide,
    uAt: Math.hypot(wide.uAt, (wide.at - narrow.at) / Math.sqrt(3)),
    uValue: Math.hypot(wide.uValue, (wide.value - narrow.value) / Math.sqrt(3)),
  };
}

/** Top of the weighted parabola through the points of a stretch; undefined where it has none between its ends. */
function parabola({ xs, ys, us }: FewPoints, from: number, to: number): BestPoint | undefined {
  const n = to - from;
  const centre = (xs[from] + xs[to - 1]) / 2;
  const scale = (xs[to - 1] - xs[from]) / 2;
  const weight = (i: number) => (us && us[i] > 0 ? 1 / us[i] ** 2 : 1);
  // Normal equations of a + b s + c s^2 with s from -1 to 1.
  const sums = [0, 0, 0, 0, 0];
  const right = [0, 0, 0];
  for (let i = from; i < to; i++) {
    const s = (xs[i] - centre) / scale;
    const w = weight(i);
    for (let k = 0; k < 5; k++) sums[k] += w * s ** k;
    for (let k = 0; k < 3; k++) right[k] += w * s ** k * ys[i];
  }
  const inverse = inverseOf([
    [sums[0], sums[1], sums[2]],
    [sums[1], sums[2], sums[3]],
    [sums[2], sums[3], sums[4]],
  ]);
  if (!inverse) return undefined;
  const [a, b, c] = inverse.map((row) => row[0] * right[0] + row[1] * right[1] + row[2] * right[2]);
  const s = -b / (2 * c);
  if (!(c < 0) || !(Math.abs(s) < 1)) return undefined;
  let chi = 0;
  for (let i = from; i < to; i++) {
    const t = (xs[i] - centre) / scale;
    chi += weight(i) * (ys[i] - a - b * t - c * t * t) ** 2;
  }
  // Stated uncertainties are not believed to be smaller than the scatter; without any the scatter is all there is.
  const scatter = n > 3 ? chi / (n - 3) : 0;
  const factor = us?.every((u) => u > 0) ? Math.max(1, scatter) : scatter;
  const variance = (g: readonly number[]) => factor * g.reduce((sum, gi, i) => sum + gi * inverse[i].reduce((x, v, k) => x + v * g[k], 0), 0);
  const uS = Math.sqrt(Math.max(0, variance([0, -1 / (2 * c), b / (2 * c * c)])));
  return {
    at: centre + scale * s,
    value: a + b * s + c * s * s,
    uAt: Math.abs(scale) * uS,
    uValue: Math.sqrt(Math.max(0, variance([1, s, s * s]))),
    points: n,
  };
}

function inverseOf(m: readonly (readonly number[])[]): number[][] | undefined {
  const cofactor = (i: number, k: number) => {
    const [r, s] = [0, 1, 2].filter((x) => x !== i);
    const [t, u] = [0, 1, 2].filter((x) => x !== k);
    return ((i + k) % 2 ? -1 : 1) * (m[r][t] * m[s][u] - m[r][u] * m[s][t]);
  };
  const det = [0, 1, 2].reduce((sum, k) => sum + m[0][k] * cofactor(0, k), 0);
  if (!(Math.abs(det) > 1e-14 * Math.abs(m[0][0] * m[1][1] * m[2][2]))) return undefined;
  return [0, 1, 2].map((i) => [0, 1, 2].map((k) => cofactor(k, i) / det));
}
