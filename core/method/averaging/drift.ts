import { rulesOf } from "../../remarks/rule.ts";
import { batchMeans, meanOf, meanUncertainty } from "./meanUncertainty.ts";

export interface Drift {
  /** standard normal score of the Mann-Kendall statistic of the batch means; beyond 1.96 the record drifts */
  readonly trend: number;
  /** mean of the last third less that of the first */
  readonly change: number;
  readonly drifts: boolean;
}

const CERTAIN = 1.96;

/**
 * Does the mean move along a record? By ranks of batch means, and by the change between the first and last third against the uncertainty
 * the mean would have without the trend.
 * @source Mann, Econometrica 13 (1945) 245; Kendall, Rank Correlation Methods (1975).
 */
export function driftOf(values: Float64Array): Drift {
  const means = batchMeans(values);
  const n = means.length;
  let s = 0;
  for (let i = 0; i < n; i++) for (let j = i + 1; j < n; j++) s += Math.sign(means[j] - means[i]);
  const spread = Math.sqrt((n * (n - 1) * (2 * n + 5)) / 18);
  const trend = n < 4 || s === 0 ? 0 : (s - Math.sign(s)) / spread;
  const third = Math.floor(values.length / 3);
  const change = third > 0 ? meanOf(values.subarray(values.length - third)) - meanOf(values.subarray(0, third)) : 0;
  if (Math.abs(trend) <= CERTAIN) return { trend, change, drifts: false };
  // Thirds scatter more than the whole: by the root of three each, the difference by the root of six.
  return { trend, change, drifts: Math.abs(change) > Math.sqrt(6) * meanUncertainty(withoutTrend(values)).expanded };
}

/** What is left after the straight line of least squares. */
function withoutTrend(values: Float64Array): Float64Array {
  const n = values.length;
  const middle = (n - 1) / 2;
  let [sum, moment] = [0, 0];
  for (let i = 0; i < n; i++) {
    sum += values[i];
    moment += (i - middle) * values[i];
  }
  const slope = moment / ((n * (n * n - 1)) / 12);
  return values.map((v, i) => v - sum / n - slope * (i - middle));
}

/** The rules of this file in words. */
export const DRIFT_RULES = rulesOf("core/method/averaging/drift.ts", [
  {
    rule: "average-drift",
    text: "Ranks of batch means show a trend, and the change from the first to the last third exceeds what the mean's uncertainty without the trend allows.",
    source: "Mann 1945; Kendall 1975",
  },
]);
