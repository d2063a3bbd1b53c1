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

/**
 * Drop, slope and state of one residual record.
 * @param values one entry an iteration, linear (not log10); gaps as NaN
 * @source method 1; Theil-Sen slope: Sen, J. Am. Stat. Assoc. 63 (1968) 1379.
 */
export function assessResidual(name: string, values: ArrayLike<number>, options: ResidualOptions): ResidualAssessment {
  const kept: number[] = [];
  let gaps = 0;
  for (let i = 0; i < values.length; i++) {
    if (values[i] >= 0 && Number.isFinite(values[i])) kept.push(Math.max(values[i], 1e-300));
    else gaps++;
  }
  const start = options.start ?? Math.max(...kept.slice(0, 5), 0);
  const tail = kept.slice(kept.length - Math.max(2, Math.ceil(kept.length / 10)));
  const end = median(tail);
  const drop = end > 0 && start > 0 ? Math.log10(start / end) : 0;
  const logs = kept.map(Math.log10);
  const asked = options.stretchFrom === undefined ? Math.min(200, Math.ceil(logs.length / 4)) : logs.length - options.stretchFrom + 1;
  const stretch = thinned(logs.slice(-Math.max(SHORTEST, Math.min(logs.length, asked))));
  const slope = perEntry(theilSen(stretch.values), stretch.every);
  const factor = 10 ** slope.slope;
  const state = decide(kept, logs, stretch.values, slope, drop, options.dropTarget, start);
  const left = state === "still-falling" && slope.slope < 0 ? Math.ceil((options.dropTarget - drop) / -slope.slope) : undefined;
  return { name, start, end, drop, factor, state, iterationsLeft: left, gaps };
}

const MOST_POINTS = 400;

/** At most 400 entries of a stretch, evenly taken, and how far they are apart. */
function thinned(values: readonly number[]): { values: readonly number[]; every: number } {
  const every = Math.max(1, Math.ceil(values.length / MOST_POINTS));
  return { values: every === 1 ? values : values.filter((_, i) => i % every === 0), every };
}

const perEntry = (s: SlopeFit, every: number): SlopeFit => ({ slope: s.slope / every, low: s.low / every, high: s.high / every });

function decide(
  kept: number[],
  logs: number[],
  stretch: readonly number[],
  slope: SlopeFit,
  drop: number,
  target: number,
  start: number,
): ResidualState {
  if (kept.length < SHORTEST) return "too-short";
  const end = median(kept.slice(-Math.max(2, Math.ceil(kept.length / 10))));
  if (drop >= target || end < 1e-14) return "settled";
  if (end > 10 * start || (slope.low > 0 && end > start)) return "diverging";
  // Slope from a stretch that oscillates says little: look for the period first, but a flat cycle is still no progress.
  const flat = slope.low <= 0 && slope.high >= 0;
  // A fall that would need five times the record so far to get there is none.
  const negligible = Math.abs(slope.slope) * logs.length < Math.max(0.1, (target - drop) / 5);
  if ((flat || negligible) && dominantPeriod(stretch)) return "cycling";
  if (flat || negligible) return "stalled";
  return slope.slope < 0 ? "still-falling" : "diverging";
}

export interface SlopeFit {
  readonly slope: number;
  /** 95 % limits of the slope */
  readonly low: number;
  readonly high: number;
}

/** Median of pairwise slopes of equally spaced data, with Sen's 95 % limits. At most 200 points are used. */
export function theilSen(y: ArrayLike<number>): SlopeFit {
  const n = y.length;
  if (n < 2) return { slope: 0, low: Number.NEGATIVE_INFINITY, high: Number.POSITIVE_INFINITY };
  const slopes: number[] = [];
  for (let i = 0; i < n; i++) for (let j = i + 1; j < n; j++) slopes.push((y[j] - y[i]) / (j - i));
  slopes.sort((a, b) => a - b);
  const spread = 1.96 * Math.sqrt((n * (n - 1) * (2 * n + 5)) / 18);
  const m = slopes.length;
  const low = slopes[Math.max(0, Math.floor((m - spread) / 2))];
  const high = slopes[Math.min(m - 1, Math.ceil((m + spread) / 2))];
  return { slope: median(slopes), low, high };
}

export function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const mid = sorted.length >> 1;
  return sorted.length % 2 ? sorted[mid] : (sorted[mid - 1] + sorted[mid]) / 2;
}

/** Lag of a clear peak of the autocorrelation of detrended data, or undefined. */
function dominantPeriod(y: readonly number[]): number | undefined {
  const n = y.length;
  if (n < 24) return undefined;
  const mean = y.reduce((s, v) => s + v, 0) / n;
  const d = y.map((v) => v - mean);
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
