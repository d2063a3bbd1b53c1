import { laggedProducts } from "./fourier.ts";
import { studentT95 } from "./studentT.ts";

/** Mean of a correlated record and what is known of it. */
export interface MeanUncertainty {
  readonly mean: number;
  /** standard deviation of the samples */
  readonly deviation: number;
  /** integrated autocorrelation time in samples, 1/2 + sum of rho */
  readonly correlationSamples: number;
  /** N / (2 tau) */
  readonly effectiveSamples: number;
  /** standard uncertainty of the mean */
  readonly standard: number;
  /** 95 % uncertainty, by Student's t of the effective samples */
  readonly expanded: number;
}

/** windows of this many correlation times */
const WINDOW = 5;
const DIRECT_LAGS = 64;
const DIRECT_LAGS_LONG = 24;
/** records beyond this length are blocked when their correlation reaches beyond the direct lags */
const LONG = 20_000;
const BLOCK = 4;

/**
 * Integrated autocorrelation time in samples by the automatic window: summed up to the first lag that is five times the sum so far.
 * Subtracting the record's own mean pulls every correlation down by the variance of that mean; this is put back.
 * @source Sokal, in Functional Integration (1997) 131; Wolff, Comput. Phys. Commun. 156 (2004) 143, eq. 49.
 */
export function correlationTime(values: Float64Array): { tau: number; window: number; mean: number; variance: number } {
  const n = values.length;
  let mean = 0;
  for (let i = 0; i < n; i++) mean += values[i] / n;
  const d = new Float64Array(n);
  let power = 0;
  for (let i = 0; i < n; i++) {
    d[i] = values[i] - mean;
    power += d[i] * d[i];
  }
  const variance = n > 1 ? power / n : 0;
  // A record that stands still to the last bit has no correlation to speak of.
  if (!(variance > 1e-30 * mean * mean)) return { tau: 0.5, window: 0, mean, variance: 0 };
  let tau = 0.5;
  let window = 0;
  const most = Math.floor(n / 2);
  const add = (lag: number, product: number): boolean => {
    tau += (product / power) * (n / (n - lag));
    window = lag;
    return lag >= WINDOW * tau;
  };
  let done = false;
  for (let lag = 1; lag <= Math.min(n > LONG ? DIRECT_LAGS_LONG : DIRECT_LAGS, most) && !done; lag++) {
    let product = 0;
    for (let i = 0; i + lag < n; i++) product += d[i] * d[i + lag];
    done = add(lag, product);
  }
  if (!done && n > LONG) return blocked(values, mean, variance);
  if (!done && most > DIRECT_LAGS) {
    const products = laggedProducts(d, most);
    for (let lag = DIRECT_LAGS + 1; lag <= most && !done; lag++) done = add(lag, products[lag]);
  }
  tau = Math.max(tau, 1e-3);
  // Each lag lacks the variance of the mean, 2 tau / n of the whole: over the window that is (2 W + 1) tau / n.
  const corrected = tau * (1 + (2 * window + 1) / n);
  return { tau: corrected, window, mean, variance: variance * (1 + (2 * corrected) / n) };
}

/**
 * The same for a long and strongly correlated record, on means of four samples: they have the same mean with the same variance,
 * and a quarter of the correlation time.
 */
function blocked(values: Float64Array, mean: number, variance: number): ReturnType<typeof correlationTime> {
  const count = Math.floor(values.length / BLOCK);
  const means = new Float64Array(count);
  for (let b = 0; b < count; b++) {
    let sum = 0;
    for (let i = BLOCK * b; i < BLOCK * (b + 1); i++) sum += values[i];
    means[b] = sum / BLOCK;
  }
  const found = correlationTime(means);
  const tau = (BLOCK * found.tau * found.variance) / variance;
  return { tau, window: BLOCK * found.window, mean, variance };
}

/**
 * Mean of an evenly sampled record with its uncertainty.
 * The correlation time is itself an estimate, known no better than as many windows as fit into the record: they cap the degrees of freedom,
 * without which 95 % intervals of strongly correlated records cover 93.7 %.
 */
export function meanUncertainty(values: Float64Array): MeanUncertainty {
  const { tau, window, mean, variance } = correlationTime(values);
  const effective = values.length / (2 * tau);
  const deviation = Math.sqrt(variance);
  const standard = deviation / Math.sqrt(effective);
  return {
    mean,
    deviation,
    correlationSamples: tau,
    effectiveSamples: effective,
    standard,
    expanded: standard === 0 ? 0 : studentT95(Math.min(effective - 1, values.length / Math.max(1, window))) * standard,
  };
}

/** Standard uncertainty of the mean from the scatter of the means of equal parts: a check that knows nothing of correlations. */
export function batchStandard(values: Float64Array, batches = 20): number {
  const means = batchMeans(values, batches);
  const mean = means.reduce((s, x) => s + x, 0) / means.length;
  return Math.sqrt(means.reduce((s, x) => s + (x - mean) ** 2, 0) / (means.length - 1) / means.length);
}

export function meanOf(values: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < values.length; i++) sum += values[i];
  return sum / values.length;
}

/** Means of equal parts, leaving out the first samples that do not fill one. */
export function batchMeans(values: Float64Array, batches = 20): Float64Array {
  const count = Math.min(batches, values.length);
  const size = Math.floor(values.length / count);
  const from = values.length - size * count;
  return Float64Array.from({ length: count }, (_, b) => meanOf(values.subarray(from + b * size, from + (b + 1) * size)));
}
