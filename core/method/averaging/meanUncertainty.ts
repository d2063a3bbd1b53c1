import { rulesOf } from "../../remarks/rule.ts";
import { autoregression, meanOfModel } from "./autoregression.ts";
import { studentT95 } from "./studentT.ts";

/** Mean of a correlated record and what is known of it. */
export interface MeanUncertainty {
  readonly mean: number;
  /** standard deviation of the samples */
  readonly deviation: number;
  /** integrated autocorrelation time in samples: half of the variance of the mean, times their number, over their variance */
  readonly correlationSamples: number;
  /** N / (2 tau), never above N; up to 2 N where neighbours are significantly of opposite sign */
  readonly effectiveSamples: number;
  /** standard uncertainty of the mean */
  readonly standard: number;
  /** 95 % uncertainty, by Student's t of the effective samples */
  readonly expanded: number;
}

/** records beyond this length are reduced to means of equal blocks, which have the same mean with the same variance */
const LONG = 2_000;
const BLOCKS = 1_000;
/** the estimate is not to fall below the scatter of batch means by more than this factor */
const BATCHES_APART = 1.25;
/** short batches are believed by at least this share */
const LEAST_SHARE = 0.3;
const FEWEST = 8;
const BATCHES = 20;

/**
 * Mean of an evenly sampled record with its uncertainty, from the spectral density at zero frequency of an autoregressive model:
 * unlike a windowed sum of correlations it holds for negative correlation and for records that are nearly periodic.
 * The model's pole nearest to one is pulled down by taking the record's own mean away; this is put back (Marriott & Pope 1954).
 * Degrees of freedom follow from how well the density itself is known.
 * @source Heidelberger & Welch, Commun. ACM 24 (1981) 233; Thompson, US Naval Research Laboratory report (2010);
 *   Marriott & Pope, Biometrika 41 (1954) 390.
 */
export function meanUncertainty(values: Float64Array): MeanUncertainty {
  const n = values.length;
  const mean = meanOf(values);
  const d = values.map((v) => v - mean);
  const power = squareMean(d);
  // A record that stands still to the last bit has no correlation to speak of.
  if (n < FEWEST || !(power > 1e-30 * mean * mean))
    return { mean, deviation: 0, correlationSamples: 0.5, effectiveSamples: n, standard: 0, expanded: 0 };
  const block = n > LONG ? Math.ceil(n / BLOCKS) : 1;
  const found = densityAtZero(block === 1 ? d : blockMeans(d, block));
  const modelled = found.perSample * block;
  const scatter = (batchStandard(values) / BATCHES_APART) ** 2 * found.shortBatches(n / BATCHES / block);
  const variance = Math.max(modelled / n, scatter);
  const tau = Math.max((n * variance) / (2 * power), Number.EPSILON);
  // The samples' variance lacks that of their mean.
  const deviation = Math.sqrt(power * (1 + Math.min(1, (2 * tau) / n)));
  const negative = block === 1 && found.neighbours < -2 / Math.sqrt(n);
  const effective = Math.max(1, Math.min(power / variance, negative ? 2 * n : n));
  const standard = Math.sqrt(variance);
  return { mean, deviation, correlationSamples: tau, effectiveSamples: effective, standard, expanded: studentT95(found.freedom) * standard };
}

interface Density {
  /** variance of the mean times the number of samples */
  readonly perSample: number;
  /** degrees of freedom it is known with */
  readonly freedom: number;
  readonly neighbours: number;
  /** what batch means of a length are to be multiplied with, since the ends of short ones do not cancel: at most 1 */
  readonly shortBatches: (length: number) => number;
}

/** Spectral density at zero frequency of a record freed of its mean. */
function densityAtZero(d: Float64Array): Density {
  const n = d.length;
  const model = autoregression(d, Math.min(Math.floor(n / 10), Math.floor(10 * Math.log10(n))));
  const order = model.coefficients.length;
  const sum = model.coefficients.reduce((s, a) => s + a, 0);
  const rest = 1 - sum;
  const restored = Math.max(rest - (order ? (1 + 3 * Math.max(-1, sum)) / n : 0), rest / 3);
  const { atZero, finite, neighbours } = meanOfModel(model, n);
  const density = ((model.innovation * n) / Math.max(1, n - order - 1) / (restored * restored)) * Math.max(1, finite / atZero);
  // Relative variance of the density: 2 / n from the innovation, 8 tau / n from the poles.
  const freedom = order ? n / (1 + 2 * atZero) : n - 1;
  return {
    perSample: density,
    freedom: Math.max(0.5, Math.min(freedom, n - 1)),
    neighbours,
    shortBatches: (length) => Math.max(LEAST_SHARE, Math.min(1, atZero / meanOfModel(model, Math.max(2, Math.floor(length))).finite)),
  };
}

function squareMean(d: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < d.length; i++) sum += d[i] * d[i];
  return sum / d.length;
}

function blockMeans(d: Float64Array, size: number): Float64Array {
  return Float64Array.from({ length: Math.floor(d.length / size) }, (_, b) => meanOf(d.subarray(b * size, (b + 1) * size)));
}

/** Standard uncertainty of the mean from the scatter of the means of equal parts: a check that knows nothing of correlations. */
export function batchStandard(values: Float64Array, batches = BATCHES): number {
  const means = batchMeans(values, batches);
  const mean = means.reduce((s, x) => s + x, 0) / means.length;
  return Math.sqrt(means.reduce((s, x) => s + (x - mean) ** 2, 0) / (means.length - 1) / means.length);
}

/**
 * Mean of the entries.
 * @example
 * meanOf(Float64Array.of(1, 2, 6)) // 3
 */
export function meanOf(values: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < values.length; i++) sum += values[i];
  return sum / values.length;
}

/** Means of equal parts, leaving out the first samples that do not fill one. */
export function batchMeans(values: Float64Array, batches = BATCHES): Float64Array {
  const count = Math.min(batches, values.length);
  const size = Math.floor(values.length / count);
  const from = values.length - size * count;
  return Float64Array.from({ length: count }, (_, b) => meanOf(values.subarray(from + b * size, from + (b + 1) * size)));
}

/** The rules of this file in words. */
export const MEAN_UNCERTAINTY_RULES = rulesOf("core/method/averaging/meanUncertainty.ts", [
  {
    rule: "average-few-samples",
    text: "The variance of the mean is the spectral density at zero frequency of an autoregressive model (Burg, order by the corrected information criterion), never far below what twenty batch means give. Independent samples: N over twice the correlation time that follows, at most N, 2 N where neighbours are significantly of opposite sign. Fewer than ten are a doubt. The 95 % uncertainty is Student's t times the standard uncertainty, its degrees of freedom from how well the density is known.",
    source: "Heidelberger & Welch 1981; Burg 1978; Marriott & Pope 1954",
  },
  {
    rule: "average-batches-disagree",
    text: "The scatter of twenty batch means gives the uncertainty a second time; a factor above 1.5 between the two is a doubt.",
    source: "method of this product",
  },
]);
