import { rulesOf } from "../../remarks/rule.ts";
import { meanOf, meanUncertainty } from "./meanUncertainty.ts";

export interface SlowStartUp {
  /** further samples to leave out */
  readonly samples: number;
  /** shift of the mean of the rest that must still be reckoned with, 95 %; 0 where no start-up is seen or what is left is negligible */
  readonly left: number;
}

const BLOCKS = 200;
const TIMES = 14;
/** times the standard error at which a decay is reckoned with */
const SEEN = 1;
/** a start-up that shifts the mean by less than this share of its standard uncertainty is over */
const OVER = 0.2;

/**
 * A start-up too weak and slow for the marginal standard error to cut: mean + a exp(-t / T) by least squares on block means over a range of
 * T, its significance from the uncertainty that correlated residuals give to smooth fits. The cut is moved to where what is left of it no
 * longer matters; where the record ends before, what is left becomes part of the uncertainty.
 * @param most samples that may be left out; 0 where a person set the cut
 */
export function slowStartUp(values: Float64Array, most: number): SlowStartUp {
  const n = values.length;
  const size = Math.max(1, Math.floor(n / BLOCKS));
  const count = Math.floor(n / size);
  if (count < 20) return { samples: 0, left: 0 };
  const means = Float64Array.from({ length: count }, (_, b) => meanOf(values.subarray(b * size, (b + 1) * size)));
  const fit = decayFit(means);
  if (!fit || Math.abs(fit.amplitude) < SEEN * fit.error) return { samples: 0, left: 0 };
  const time = fit.time * size;
  // The amplitude that cannot be excluded, so that a lucky low estimate does not stop the cut early.
  const amplitude = Math.abs(fit.amplitude) + 2 * fit.error;
  const shift = (from: number) => ((amplitude * Math.exp(-from / time) * time) / (n - from)) * (1 - Math.exp(-(n - from) / time));
  const certain = (from: number) => fit.standard * Math.sqrt(n / (n - from));
  const step = Math.max(1, Math.floor(most / 50));
  let samples = 0;
  while (samples < most && shift(samples) > OVER * certain(samples)) samples = Math.min(most, samples + step);
  return { samples, left: shift(samples) > OVER * certain(samples) ? 2 * shift(samples) : 0 };
}

interface DecayFit {
  readonly amplitude: number;
  /** standard error of the amplitude */
  readonly error: number;
  /** blocks */
  readonly time: number;
  /** standard uncertainty of the mean of the residuals */
  readonly standard: number;
}

/** Best of the fits over decay times from a fiftieth of the record to the whole of it. */
function decayFit(y: Float64Array): DecayFit | undefined {
  const n = y.length;
  const centre = meanOf(y);
  let best: { amplitude: number; time: number; spread: number; gain: number } | undefined;
  for (let k = 0; k < TIMES; k++) {
    const time = (n / 50) * 50 ** (k / (TIMES - 1));
    const decay = Float64Array.from(y, (_, i) => Math.exp(-(i + 0.5) / time));
    const middle = meanOf(decay);
    let [across, spread] = [0, 0];
    for (let i = 0; i < n; i++) {
      across += (decay[i] - middle) * (y[i] - centre);
      spread += (decay[i] - middle) ** 2;
    }
    const gain = (across * across) / spread;
    if (!best || gain > best.gain) best = { amplitude: across / spread, time, spread, gain };
  }
  if (!best) return undefined;
  const { amplitude, time, spread } = best;
  const rest = y.map((v, i) => v - centre - amplitude * Math.exp(-(i + 0.5) / time));
  const standard = meanUncertainty(rest).standard;
  return standard > 0 ? { amplitude, time, standard, error: (standard * Math.sqrt(n)) / Math.sqrt(spread) } : undefined;
}

/** The rules of this file in words. */
export const SLOW_START_UP_RULES = rulesOf("core/method/averaging/slowStartUp.ts", [
  {
    rule: "average-slow-start-up",
    text: "Mean plus one decay is fitted by least squares; the cut is moved on until what is left of the decay shifts the mean by less than a fifth of its standard uncertainty. Where the record ends before, twice what is left is added to the uncertainty by squares.",
    source: "method of this product",
  },
]);
