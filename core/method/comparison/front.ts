import { extent } from "../../numeric/extent.ts";
import type { Numbers } from "../../numeric/numbers.ts";
import { pchipOf } from "../../numeric/pchip.ts";

/** A curve with rising abscissae. */
export interface RisingCurve {
  readonly xs: Numbers;
  readonly ys: Numbers;
}

/** Where a curve is steepest. */
export interface Front {
  readonly at: number;
  /** steepest slope, by the interval it stands in */
  readonly slope: number;
  /** that slope over the mean one, range over length: 1 for a straight line */
  readonly steepness: number;
  /** half the interval it stands in: closer it is not known */
  readonly resolution: number;
  /** it stands in the first or last interval: a layer at the end of the curve, not a front within it */
  readonly atEnd: boolean;
}

/** a curve this many times steeper somewhere than on the whole has a front */
export const STEEP = 4;

/**
 * Steepest place of a curve: the middle of the interval with the largest slope, refined by a parabola through the slopes beside it.
 * @returns undefined where no slope can be told
 * @example
 * frontOf({ xs: [0, 1, 2, 3], ys: [0, 0, 1, 1] })?.at // 1.5
 */
export function frontOf({ xs, ys }: RisingCurve): Front | undefined {
  const n = xs.length - 1;
  if (n < 1) return undefined;
  const [low, high] = extent(ys);
  const mean = (high - low) / (xs[n] - xs[0]);
  if (!(mean > 0)) return undefined;
  const slope = (k: number) => (ys[k + 1] - ys[k]) / (xs[k + 1] - xs[k]);
  const middle = (k: number) => (xs[k] + xs[k + 1]) / 2;
  let best = 0;
  for (let k = 1; k < n; k++) if (Math.abs(slope(k)) > Math.abs(slope(best))) best = k;
  const steepest = Math.abs(slope(best));
  let at = middle(best);
  if (best > 0 && best < n - 1) {
    const [a, b, c] = [middle(best - 1), at, middle(best + 1)];
    const [fa, fb, fc] = [best - 1, best, best + 1].map((k) => Math.abs(slope(k)));
    const top = (b - a) ** 2 * (fb - fc) - (b - c) ** 2 * (fb - fa);
    const under = (b - a) * (fb - fc) - (b - c) * (fb - fa);
    // A parabola without a top, or with one beyond the interval, says nothing.
    const moved = under === 0 ? b : b - top / (2 * under);
    if (moved >= xs[best] && moved <= xs[best + 1]) at = moved;
  }
  const resolution = (xs[best + 1] - xs[best]) / 2;
  return { at, slope: slope(best), steepness: steepest / mean, resolution, atEnd: best === 0 || best === n - 1 };
}

/** How far a front of one curve lies from that of another, and what is left when it is moved there. */
export interface FrontShift {
  readonly simulated: number;
  readonly reference: number;
  /** simulated less reference */
  readonly shift: number;
  /** what the points of both curves leave open of it */
  readonly resolution: number;
  /** root mean square difference over the reference's points before and after the simulated curve is moved by it */
  readonly before: number;
  readonly after: number;
}

/**
 * Shift of a steep front between two curves; the difference of steep curves at one place is mostly that.
 * @param read the simulated curve, where it has been made ready to be read
 * @returns undefined unless both have a front of one sense within them; a layer at an end is none
 */
export function frontShift(simulated: RisingCurve, reference: RisingCurve, read = pchipOf(simulated.xs, simulated.ys)): FrontShift | undefined {
  const [s, r] = [frontOf(simulated), frontOf(reference)];
  if (!s || !r || s.steepness < STEEP || r.steepness < STEEP || s.atEnd || r.atEnd || s.slope * r.slope < 0) return undefined;
  const shift = s.at - r.at;
  const [first, last] = [simulated.xs[0], simulated.xs[simulated.xs.length - 1]];
  const rms = (by: number) => {
    let [sum, count] = [0, 0];
    for (let i = 0; i < reference.xs.length; i++) {
      const place = reference.xs[i] + by;
      if (!(place >= first && place <= last)) continue;
      sum += (read(place) - reference.ys[i]) ** 2;
      count++;
    }
    return count ? Math.sqrt(sum / count) : Number.NaN;
  };
  const [before, after] = [rms(0), rms(shift)];
  return Number.isFinite(before) && Number.isFinite(after)
    ? { simulated: s.at, reference: r.at, shift, resolution: Math.hypot(s.resolution, r.resolution), before, after }
    : undefined;
}
