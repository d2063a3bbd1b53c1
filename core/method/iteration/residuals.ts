import type { Numbers } from "../../numeric/numbers.ts";
import { select } from "../../numeric/select.ts";
import { rulesOf } from "../../remarks/rule.ts";
/** What became of a residual, decided in the order of method 1. */
export type ResidualState = "diverging" | "too-short" | "stalled" | "cycling" | "still-falling" | "settled";

export interface ResidualAssessment {
  readonly name: string;
  readonly start: number;
  /** median of the last tenth */
  readonly end: number;
  /** orders of magnitude from start to end */
  readonly drop: number;
  /** factor an iteration over the last stretch */
  readonly factor: number;
  readonly state: ResidualState;
  /** iterations until the target at the present factor, where it is still falling */
  readonly iterationsLeft?: number;
  /** entries left out for being missing or not positive */
  readonly gaps: number;
  /** the record ends in something that is no number */
  readonly broken?: true;
}

export interface ResidualOptions {
  readonly dropTarget: number;
  /** level to count from; else the largest of the first five entries */
  readonly start?: number;
  /** entry (from 1) the last stretch begins at; else a quarter of the record, 200 entries at most */
  readonly stretchFrom?: number;
}

const SHORTEST = 4;
const CYCLE_SHARE = 0.3;

export const RESIDUAL_STATE_WORDS: Readonly<Record<ResidualState, string>> = {
  diverging: "diverging",
  "too-short": "too short to judge",
  stalled: "stalled",
  cycling: "cycling",
  "still-falling": "still falling",
  settled: "settled",
};

/** what a residual is taken to be that is written as zero after others were not, over its start: the last digit of a double */
const LEAST_SHARE = 1e-17;

/**
 * Drop, slope and state of one residual record.
 * @param values one entry an iteration, linear (not log10); gaps as NaN. Zeros before the first positive entry are gaps too. A record whose
 *   last entry is not a number, or infinite, has diverged.
 * @source method 1; Theil-Sen slope: Sen, J. Am. Stat. Assoc. 63 (1968) 1379.
 */
export function assessResidual(name: string, values: ArrayLike<number>, options: ResidualOptions): ResidualAssessment {
  const sound: number[] = [];
  for (let i = 0; i < values.length; i++) if (values[i] >= 0 && Number.isFinite(values[i]) && (sound.length || values[i] > 0)) sound.push(values[i]);
  const start = options.start ?? Math.max(...sound.slice(0, 5), 0);
  const kept = sound.map((v) => Math.max(v, start * LEAST_SHARE));
  const end = median(kept.slice(kept.length - Math.max(2, Math.ceil(kept.length / 10))));
  const drop = end > 0 && start > 0 ? Math.log10(start / end) : 0;
  const logs = kept.map(Math.log10);
  const asked = options.stretchFrom === undefined ? Math.min(200, Math.ceil(logs.length / 4)) : logs.length - options.stretchFrom + 1;
  const stretch = thinned(logs.slice(-Math.max(SHORTEST, Math.min(logs.length, asked))));
  const trend = theilSen(stretch.values);
  const slope = trend.slope / stretch.every;
  const factor = 10 ** slope;
  const broken = values.length > 0 && !Number.isFinite(values[values.length - 1]);
  const state = broken ? "diverging" : decide({ kept, logs, stretch: stretch.values, trend, slope, drop, target: options.dropTarget, start });
  const left = state === "still-falling" && slope < 0 ? iterationsTo(options.dropTarget, start, stretch, slope) : undefined;
  return {
    name,
    start,
    end,
    drop,
    factor,
    state,
    iterationsLeft: left,
    gaps: values.length - kept.length,
    ...(broken ? { broken: true as const } : {}),
  };
}

/** Iterations from the last entry, as the line through the stretch has it, to the target. */
function iterationsTo(target: number, start: number, stretch: { values: Numbers; every: number }, slope: number): number {
  const last = stretch.values.length - 1;
  const now = median(stretch.values.map((v, i) => v + slope * stretch.every * (last - i)));
  return Math.max(1, Math.ceil((target - (Math.log10(start) - now)) / -slope));
}

const MOST_POINTS = 400;

/** At most 400 entries of a stretch, evenly taken, and how far they are apart. */
function thinned(values: Numbers): { values: Numbers; every: number } {
  const every = Math.max(1, Math.ceil(values.length / MOST_POINTS));
  return { values: every === 1 ? values : values.filter((_, i) => i % every === 0), every };
}

interface Told {
  readonly kept: Numbers;
  readonly logs: Numbers;
  readonly stretch: Numbers;
  /** slope an entry of the stretch, which may be thinned, with its limits */
  readonly trend: SlopeFit;
  /** slope an entry of the record */
  readonly slope: number;
  readonly drop: number;
  readonly target: number;
  readonly start: number;
}

function decide({ kept, logs, stretch, trend, slope, drop, target, start }: Told): ResidualState {
  if (kept.length < SHORTEST) return "too-short";
  const end = median(kept.slice(-Math.max(2, Math.ceil(kept.length / 10))));
  // Slope from a stretch that oscillates says little: look for the period first, but a flat cycle is still no progress.
  const flat = trend.low <= 0 && trend.high >= 0;
  const cycles = dominantPeriod(stretch, trend.slope) !== undefined;
  // A rise after the fall beats the fall, unless all of it happens among the last digits of a double.
  const risen = end > RISEN * lowestMedian(kept) && end > start * ROUND_OFF;
  if (end > 10 * start || (trend.low > 0 && !cycles && (end > start || risen))) return "diverging";
  if (drop >= target || end < 1e-14) return "settled";
  // A fall that would need five times the record so far to get there is none.
  const negligible = Math.abs(slope) * logs.length < Math.max(0.1, (target - drop) / 5);
  if ((flat || negligible) && cycles) return "cycling";
  if (flat || negligible) return "stalled";
  return slope < 0 ? "still-falling" : "diverging";
}

/** times its lowest level a residual must have risen to that the rise counts */
const RISEN = 10;
const ROUND_OFF = 1e-12;

/** Lowest median of neighbouring stretches of a twentieth of the record: one low entry is no level. */
function lowestMedian(values: Numbers): number {
  const size = Math.max(3, Math.ceil(values.length / 20));
  let lowest = Number.POSITIVE_INFINITY;
  for (let from = 0; from + size <= values.length; from += size) lowest = Math.min(lowest, median(values.slice(from, from + size)));
  return lowest;
}

export interface SlopeFit {
  readonly slope: number;
  /** 95 % limits of the slope */
  readonly low: number;
  readonly high: number;
}

/**
 * Median of pairwise slopes of equally spaced data, with Sen's 95 % limits.
 * @example
 * theilSen([1, 3, 5, 100, 9]).slope // 2
 */
export function theilSen(y: ArrayLike<number>): SlopeFit {
  const n = y.length;
  if (n < 2) return { slope: 0, low: Number.NEGATIVE_INFINITY, high: Number.POSITIVE_INFINITY };
  const slopes = new Float64Array((n * (n - 1)) / 2);
  let sum = 0;
  for (let i = 0, k = 0; i < n; i++)
    for (let j = i + 1; j < n; j++, k++) {
      slopes[k] = (y[j] - y[i]) / (j - i);
      sum += slopes[k];
    }
  const spread = 1.96 * Math.sqrt((n * (n - 1) * (2 * n + 5)) / 18);
  const m = slopes.length;
  // Four places are asked for, of tens of thousands: finding them takes a tenth of sorting all. Only what is no number needs a whole order.
  const ordered = Number.isNaN(sum) ? slopes.sort() : undefined;
  let left = 0;
  const at = (k: number) => {
    const value = ordered ? ordered[k] : select(slopes, k, left);
    left = k;
    return value;
  };
  const low = at(Math.max(0, Math.floor((m - spread) / 2)));
  const below = m % 2 ? undefined : at((m >> 1) - 1);
  const middle = at(m >> 1);
  const high = at(Math.min(m - 1, Math.ceil((m + spread) / 2)));
  return { slope: below === undefined ? middle : (below + middle) / 2, low, high };
}

/**
 * The middle one of numbers in any order, or the mean of the two middle ones.
 * @example
 * median([3, 1, 2, 10]) // 2.5
 */
export function median(values: Numbers): number {
  const sorted = Float64Array.from(values).sort();
  const mid = sorted.length >> 1;
  return sorted.length % 2 ? sorted[mid] : (sorted[mid - 1] + sorted[mid]) / 2;
}

/** Lag of a clear peak of the autocorrelation of data without their trend, or undefined. */
function dominantPeriod(y: Numbers, slope: number): number | undefined {
  const n = y.length;
  if (n < 24) return undefined;
  const mean = y.reduce((s, v) => s + v, 0) / n;
  const d = y.map((v, i) => v - mean - slope * (i - (n - 1) / 2));
  const power = d.reduce((s, v) => s + v * v, 0);
  if (!(power > 0)) return undefined;
  const rho = (lag: number) => {
    let s = 0;
    for (let i = 0; i + lag < n; i++) s += d[i] * d[i + lag];
    return (s / power) * (n / (n - lag));
  };
  let dipped = false;
  for (let lag = 1; lag < n / 2; lag++) {
    const r = rho(lag);
    if (r < 0) dipped = true;
    if (dipped && r > CYCLE_SHARE && r >= rho(lag + 1)) return lag;
  }
  return undefined;
}

/** The rules of this file in words. */
export const RESIDUALS_RULES = rulesOf("core/method/iteration/residuals.ts", [
  {
    rule: "residual-drop",
    text: "Start: largest of the first five entries; for bench runs the largest over three iterations from rest. Drop: log10 of start over the median of the last tenth. The slope over the last stretch (median of pairwise slopes) tells falling, stalled, cycling and diverging apart; a fall that would need five times the record so far counts as stalled.",
    source: "Sen 1968",
  },
  {
    rule: "history-gaps",
    text: "Missing entries stay gaps, are counted and left out.",
    source: "own",
  },
]);
