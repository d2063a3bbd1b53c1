import type { Numbers } from "../../numeric/numbers.ts";
import { rulesOf } from "../../remarks/rule.ts";
import { alternatingFit, complexFit, constantFit, type DecayFit, lineFit, realFit, type Stretch, stretchOf, twoRealFit } from "./decayFit.ts";
import { lastDigit, printedStep, repeatedDigit } from "./printedStep.ts";
import { theilSen } from "./residuals.ts";

/** How successive changes of a quantity shrink, and what that leaves undone. */
export interface IterationError {
  readonly value: number;
  /** signed estimate of last value minus limit; for pairs, cycles, noise and drifts an amplitude, unsigned */
  readonly error: number;
  readonly kind: "real" | "alternating" | "complex" | "cycling" | "noise" | "still" | "moving" | "growing" | "too-short";
  /** factor an iteration */
  readonly factor: number;
  /** smallest and largest size the error may have, where the record tells */
  readonly low?: number;
  readonly high?: number;
}

const ROUND_OFF = 64 * 2.220446049250313e-16;
const SHORTEST = 6;
/** points a model is fitted to at most; longer stretches are taken in blocks */
const POINTS = 120;
/** share of the record at its beginning that takes no part in the longest fit */
const START = 0.1;
/** each stretch is this share of the one before */
const SHRINK = 0.6;
/** standard error over estimate up to which an error counts as known */
const KNOWN = 0.35;
const DIED_OUT = 0.05;
const UNEXPLAINED = 0.15;

/**
 * Remaining iteration error of a quantity from its record. Models of how an iteration ends (constant, straight line, one or two decays, an
 * alternating decay, a complex pair) are fitted to ever shorter stretches that end with the record; the longest stretch that one of them
 * explains to within the printed digits, or but for noise without a pattern, decides. A record that is still moving is never called noise.
 * @param values one entry an iteration; gaps as NaN are left out
 * @source d lambda / (1 - lambda) and its kin: Ferziger & Peric, Int. J. Numer. Methods Fluids 23 (1996) 1263; Roy & Blottner, J. Spacecraft
 *   Rockets 38 (2001) 699; variable projection: Golub & Pereyra, SIAM J. Numer. Anal. 10 (1973) 413.
 */
export function iterationError(values: ArrayLike<number>): IterationError {
  const kept = withoutRepeatedEnd(Array.from(values).filter(Number.isFinite));
  return plain(kept) ?? byModels(kept) ?? byChanges(kept, printedStep(later(kept)));
}

/** The same by the pace of the last changes alone: coarser, but cheap enough to be asked at every iteration of a run under way. */
export function recentError(values: ArrayLike<number>): IterationError {
  const kept = withoutRepeatedEnd(Array.from(values).filter(Number.isFinite));
  return plain(kept) ?? byChanges(kept, 0);
}

const later = (values: Numbers) => values.slice(Math.floor(values.length / 2));
const largest = (values: Numbers) => values.reduce((m, v) => Math.max(m, Math.abs(v)), 0);

/** Records too short to judge, or that do not change at all. */
function plain(values: Numbers): IterationError | undefined {
  const value = values[values.length - 1] ?? Number.NaN;
  if (values.length < SHORTEST) return { value, error: Number.NaN, kind: "too-short", factor: Number.NaN };
  const recent = later(values);
  const scale = largest(recent);
  return recent.every((v) => Math.abs(v - value) <= ROUND_OFF * scale)
    ? still(value, values.every((v) => v === value) ? repeatedDigit(value) : lastDigit(values), scale)
    : undefined;
}

/** Half the last printed digit is always part of what is not known. */
const still = (value: number, step: number, scale: number): IterationError => {
  const error = Math.max(step / 2, ROUND_OFF * scale);
  return { value, error, kind: "still", factor: 0, low: 0, high: error };
};

/** A last row written twice is one row: an exact repeat at the end of a record that otherwise changes with every row. */
function withoutRepeatedEnd(values: number[]): number[] {
  const n = values.length;
  if (n < 4 || values[n - 1] !== values[n - 2]) return values;
  const from = Math.max(1, n - 12);
  for (let i = from; i < n - 1; i++) if (values[i] === values[i - 1]) return values;
  return values.slice(0, -1);
}

function rangeOf(values: Numbers): number {
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const v of values) {
    if (v < low) low = v;
    if (v > high) high = v;
  }
  return high - low;
}

/** Lengths of the stretches tried, longest first. */
function spans(n: number): number[] {
  const out: number[] = [];
  for (let span = Math.round(n * (1 - START)); span >= 8; span = Math.floor(span * SHRINK)) out.push(span);
  return out;
}

function byModels(values: Numbers): IterationError | undefined {
  const step = printedStep(later(values));
  const scale = largest(later(values));
  const fast = changesFast(values, step);
  for (const span of spans(values.length)) {
    if (fast && span > POINTS) continue;
    const block = Math.ceil(span / POINTS);
    const s = stretchOf(values, block, Math.floor(span / block), step);
    const best = bestModel(s);
    const found = best && read(best, s, values, step, scale);
    if (found) return found;
  }
  return undefined;
}

/** Does the end of a record jump from entry to entry by more than its printed digits, so that blocks would hide it? */
function changesFast(values: Numbers, step: number): boolean {
  const tail = values.slice(-200);
  let [first, second] = [0, 0];
  for (let i = 2; i < tail.length; i++) {
    first += (tail[i] - tail[i - 1]) ** 2;
    second += (tail[i] - 2 * tail[i - 1] + tail[i - 2]) ** 2;
  }
  return second > 0.25 * first && Math.sqrt(second / tail.length) > 2 * step;
}

/** Adequate model of least information criterion. */
function bestModel(s: Stretch): DecayFit | undefined {
  const m = s.z.length;
  const cost = (f: DecayFit) => m * Math.log(Math.max(f.variance, s.floor * s.floor)) + f.parameters * Math.log(m);
  let best: DecayFit | undefined;
  const simple = [constantFit(s), lineFit(s), realFit(s)];
  const consider = (fits: readonly (DecayFit | undefined)[]) => {
    for (const f of fits) if (f?.adequate && (!best || cost(f) < cost(best))) best = f;
  };
  consider(simple);
  // The costlier models are only asked where the simple ones leave more than the printed digits.
  if (!best || best.variance > 1.5 * s.floor * s.floor) consider([alternatingFit(s), complexFit(s), twoRealFit(s)]);
  return best;
}

/** What a model of a stretch says of the record's end; undefined where a shorter stretch has to decide. */
function read(f: DecayFit, s: Stretch, values: Numbers, step: number, scale: number): IterationError | undefined {
  const n = values.length;
  const value = values[n - 1];
  const span = s.z.length * s.block;
  const stretch = values.slice(n - span);
  const range = rangeOf(stretch);
  // A shape that leaves most of the scatter is none: correlated noise has passed for growth.
  if (f.model !== "constant" && f.variance > UNEXPLAINED * varianceOf(s.z)) return undefined;
  const drifted = Math.abs(s.z[s.z.length - 1] - s.z[0]);
  if (f.model === "constant") {
    if (trend(stretch) || (span < n / 4 && span < 40)) return undefined;
    if (f.variance <= 4 * s.floor * s.floor && range <= 2.5 * step) return still(value, Math.max(step, range), scale);
    return { value, error: Math.max(range / 2, step / 2), kind: "noise", factor: 1, low: 0, high: range };
  }
  if (f.model === "line") return { value, error: Math.max(drifted, step), kind: "moving", factor: 1, low: drifted, high: Number.POSITIVE_INFINITY };
  const size = Math.abs(f.left);
  const scatter = Math.sqrt(f.variance);
  const with95 = { low: Math.max(0, size - 2 * f.standard), high: size + 2 * f.standard };
  // What is left has sunk into the noise or the printed digits: the stretch in which it does is what counts.
  if (size + 2 * f.standard < Math.max(step, 2 * scatter)) {
    const end = values.slice(-Math.max(8, Math.min(60, span >> 1)));
    const half = rangeOf(end) / 2;
    if (f.standard <= KNOWN * size) return sized(f, value, step, with95);
    return half <= 1.25 * step
      ? still(value, Math.max(step, 2 * half), scale)
      : { value, error: half, kind: "noise", factor: 1, low: 0, high: 2 * half };
  }
  if (f.factor > 1 + 0.05 / span && f.model !== "complex")
    return { value, error: Math.max(range, step), kind: "growing", factor: f.factor, low: drifted, high: Number.POSITIVE_INFINITY };
  if (f.model === "complex" && f.factor >= 1 - 1 / n) {
    const grows = f.factor > 1 + 2 / n;
    return { value, error: Math.max(size, step / 2), kind: grows ? "growing" : "cycling", factor: f.factor, ...with95 };
  }
  if (f.standard <= KNOWN * size) return sized(f, value, step, with95);
  // A decay that has long died out over the stretch says little of its end: a shorter one knows more.
  if (f.factor ** span < DIED_OUT) return undefined;
  if (f.model === "real" || f.model === "two-real") {
    // What it moved so far says nothing of the least a decay may leave, only of what cannot be called small yet.
    const error = Math.max(size, drifted, step);
    return { value, error, kind: "moving", factor: f.factor, low: with95.low, high: Math.max(with95.high, error) };
  }
  return undefined;
}

function varianceOf(z: Float64Array): number {
  const mean = z.reduce((a, b) => a + b, 0) / z.length;
  return z.reduce((sum, v) => sum + (v - mean) ** 2, 0) / (z.length - 1);
}

function sized(f: DecayFit, value: number, step: number, range: { low: number; high: number }): IterationError {
  const kind = f.model === "two-real" ? "real" : (f.model as "real" | "alternating" | "complex");
  const size = Math.hypot(f.left, step / 2, ROUND_OFF * Math.abs(value));
  return {
    value,
    error: kind === "complex" ? size : Math.sign(f.left) * size,
    kind,
    factor: f.factor,
    low: range.low,
    high: Math.max(range.high, size),
  };
}

const TREND_BLOCKS = 12;

/** Mann-Kendall test on block means: does a stretch go one way? */
function trend(values: Numbers): boolean {
  const count = Math.min(TREND_BLOCKS, values.length);
  const size = Math.floor(values.length / count);
  const from = values.length - size * count;
  const means = Array.from({ length: count }, (_, b) => {
    let sum = 0;
    for (let k = 0; k < size; k++) sum += values[from + b * size + k];
    return sum / size;
  });
  let score = 0;
  for (let i = 0; i < count; i++) for (let j = i + 1; j < count; j++) score += Math.sign(means[j] - means[i]);
  return Math.abs(score) > 2.2 * Math.sqrt((count * (count - 1) * (2 * count + 5)) / 18);
}

/**
 * Records that no model explains, as accelerated iterations write them: the pace of the last changes, or of block means where the changes
 * have no pace.
 */
function byChanges(kept: Numbers, step: number): IterationError {
  const n = kept.length;
  const value = kept[n - 1];
  const window = kept.slice(-Math.max(6, Math.min(60, Math.ceil(n / 2))));
  const changes = window.slice(1).map((v, i) => v - window[i]);
  const tail = changes.slice(-Math.max(5, Math.ceil(changes.length / 2)));
  const fit = theilSen(tail.map((d) => Math.log(Math.max(Math.abs(d), step / 2, 1e-300))));
  const factor = Math.exp(fit.slope);
  const turns = tail.slice(1).filter((d, i) => d * tail[i] < 0).length / (tail.length - 1);
  const last = tail[tail.length - 1];
  // An accelerated iteration jumps now and then: the largest recent change stands for the last one.
  const size = Math.max(Math.abs(last), Math.abs(tail[tail.length - 2]) * factor, step / 2);
  const range = rangeOf(window);
  if (fit.low <= 0 && fit.high >= 0 && factor > 0.9) return wandering(kept, Math.max(range, step));
  if (factor >= 1) return { value, error: Math.max(Math.abs(value - window[0]), step / 2), kind: "growing", factor };
  if (turns > 0.8) return { value, error: Math.sign(last) * Math.hypot((last * factor) / (1 + factor), step / 2), kind: "alternating", factor };
  const left = Math.hypot((size * factor) / (1 - factor), step / 2);
  if (turns > 0.15) return { value, error: left, kind: "complex", factor };
  return { value, error: -Math.sign(last) * left, kind: "real", factor };
}

/** No pace in the changes: noise, unless the later half goes one way; then what thirds of it leave. */
function wandering(kept: Numbers, range: number): IterationError {
  const value = kept[kept.length - 1];
  const half = kept.slice(Math.floor(kept.length / 2));
  if (!trend(half)) return { value, error: range / 2, kind: "noise", factor: 1, low: 0, high: range };
  const third = Math.floor(half.length / 3);
  const mean = (k: number) => half.slice(k * third, (k + 1) * third).reduce((a, b) => a + b, 0) / third;
  const [first, second] = [mean(1) - mean(0), mean(2) - mean(1)];
  const ratio = second / first;
  const drift = Math.abs(mean(2) - mean(0));
  const left = ratio > 0 && ratio < 1 ? (Math.abs(second) * ratio) / (1 - ratio) : drift;
  return { value, error: Math.max(left, drift, range / 2), kind: "moving", factor: 1, low: drift, high: Number.POSITIVE_INFINITY };
}

/** One row of the study of the stopping tolerance made from a single record. */
export interface ToleranceRow {
  readonly tolerance: number;
  /** first iteration at which every residual had met it, counted from 1; undefined when never */
  readonly iteration?: number;
  readonly values: Readonly<Record<string, number>>;
}

/**
 * Value of each watched quantity when each tolerance (1e-2, 1e-3, ... of the starting level) was first met by all residuals.
 * @param residuals name to record, all of one length
 */
export function toleranceStudy(
  residuals: Readonly<Record<string, ArrayLike<number>>>,
  starts: Readonly<Record<string, number>>,
  quantities: Readonly<Record<string, ArrayLike<number>>>,
): ToleranceRow[] {
  const names = Object.keys(residuals);
  const length = Math.min(...names.map((n) => residuals[n].length));
  const rows: ToleranceRow[] = [];
  for (let exponent = 2; exponent <= 12; exponent++) {
    const tolerance = 10 ** -exponent;
    let at = -1;
    for (let i = 0; i < length && at < 0; i++) if (names.every((n) => residuals[n][i] <= tolerance * starts[n])) at = i;
    if (at < 0) break;
    const values: Record<string, number> = {};
    for (const [key, record] of Object.entries(quantities)) values[key] = record[at];
    rows.push({ tolerance, iteration: at + 1, values });
  }
  return rows;
}

/** The rules of this file in words. */
export const ITERATION_ERROR_RULES = rulesOf("core/method/iteration/iterationError.ts", [
  {
    rule: "iteration-error",
    text: "Models of how an iteration ends (constant, line, one or two decays, alternating, complex pair) are fitted to ever shorter stretches that end with the record; the longest one a model explains to within the printed digits, or but for patternless noise, decides. Decays: what is left at the last entry; pairs and cycles: their envelope; noise: half the range, and only without a trend; lines: moving, at least what they moved. Half the printed digit is always part of it. To stay below a tenth of the mesh uncertainty, or of the limit while there is none or it is above the limit.",
    source: "Ferziger & Peric 1996; Roy & Blottner 2001",
  },
  {
    rule: "tolerance-study",
    text: "The value of each quantity at the iteration where all residuals first met each tolerance, against its last value: no new run is needed.",
    source: "own",
  },
]);
