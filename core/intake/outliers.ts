import { significant } from "../formatting/number.ts";
import { extent } from "../numeric/extent.ts";
import { interpolateAt } from "../numeric/lagrange.ts";

/** A point that does not go with its neighbours. */
export interface Outlier {
  readonly index: number;
  readonly reason: string;
}

/** a point is off when it lies this many times the scatter from its neighbours */
const FAR = 6;
const FEWEST = 7;
/** of the range: closer than this nothing is off, however smooth the rest */
const CLOSE = 0.01;
/** times the scatter beyond which there is none to speak of */
const MOST_TIMES = 1e4;

const median = (list: readonly number[]) => {
  const s = [...list].sort((a, b) => a - b);
  return s.length % 2 ? s[(s.length - 1) / 2] : (s[s.length / 2 - 1] + s[s.length / 2]) / 2;
};

/**
 * Points of a curve that lie far from the line through their neighbours, against the scatter of all such distances and the stated uncertainty.
 * They are proposals: a person decides.
 * @param xs rising
 * @param standard standard uncertainty of each point, where it is known
 * @source the scatter is the median absolute deviation: Hampel, J. Am. Stat. Assoc. 69, 383 (1974)
 */
export function outliersOf(xs: readonly number[], ys: readonly number[], standard?: readonly number[]): Outlier[] {
  const n = xs.length;
  if (n < FEWEST) return [];
  const line = (i: number, a: number, b: number) => ys[a] + ((ys[b] - ys[a]) * (xs[i] - xs[a])) / (xs[b] - xs[a]);
  const off = xs.map((_, i) => {
    // Of three lines past the point the middle one is not led astray by a single bad neighbour.
    const pairs = [
      [i - 1, i + 1],
      [i - 2, i + 1],
      [i - 1, i + 2],
    ].filter(([a, b]) => a >= 0 && b < n);
    // The ends have neighbours on one side only: nothing is said of them.
    if (!pairs.length) return 0;
    const byLines = ys[i] - median(pairs.map(([a, b]) => line(i, a, b)));
    // A bend of the curve is no slip: what a cubic through four neighbours foretells is believed as well.
    const first = Math.min(Math.max(0, i - 2), n - 5);
    const around = [0, 1, 2, 3, 4].map((k) => first + k).filter((k) => k !== i);
    const byCubic =
      ys[i] -
      interpolateAt(
        around.map((k) => xs[k]),
        around.map((k) => ys[k]),
        xs[i],
      );
    return Math.abs(byCubic) < Math.abs(byLines) ? byCubic : byLines;
  });
  const scatter = 1.4826 * median(off.slice(1, -1).map(Math.abs));
  const [low, high] = extent(ys);
  return off.flatMap((d, i) => {
    const size = Math.abs(d);
    const allowed = Math.max(FAR * scatter, FAR * (standard?.[i] ?? 0), CLOSE * (high - low));
    // A bad point bends the lines past its neighbours as well: of a group the worst is meant.
    const worst = [i - 2, i - 1, i + 1, i + 2].every((k) => !(k in off) || Math.abs(off[k]) < size);
    if (!(size > allowed && worst)) return [];
    // Points off a formula hardly scatter: how many times that is would be a figure of round-off.
    const times = size / scatter;
    const against = times < MOST_TIMES ? `${significant(times, 2)} times their scatter` : "which hardly scatter";
    return [{ index: i, reason: `lies ${significant(size, 2)} from the line of its neighbours, ${against}` }];
  });
}
