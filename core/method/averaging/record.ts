import { percent, quantityText, significant } from "../../formatting/number.ts";
import { rulesOf } from "../../remarks/rule.ts";
import { type Drift, driftOf } from "./drift.ts";
import { batchStandard, type MeanUncertainty, meanOf, meanUncertainty } from "./meanUncertainty.ts";
import { slowStartUp } from "./slowStartUp.ts";
import { cyclesCounted, dominantPeak, type Peak } from "./spectrum.ts";
import { startUpCut } from "./startUp.ts";

/** What is doubtful about an averaged record, by the rule that says so. */
export interface RecordDoubt {
  readonly rule: "too-short" | "few-samples" | "batches-disagree" | "drift" | "slow-start-up" | "few-periods" | "coarse-sampling" | "gaps";
  readonly severity: "doubt" | "note";
  readonly sentence: string;
}

export interface AveragedRecord extends MeanUncertainty {
  /** samples left out at the beginning, and where that is on the abscissa */
  readonly cut: number;
  readonly cutAt: number;
  readonly cutBy: "test" | "hand";
  /** samples averaged */
  readonly samples: number;
  /** s, or iterations */
  readonly step: number;
  readonly evenlySampled: boolean;
  /** correlation time on the abscissa */
  readonly correlationTime: number;
  /** standard uncertainty by the scatter of twenty batch means */
  readonly batchStandard: number;
  readonly drift: Drift;
  /** what a slow start-up may still shift the mean by, part of its uncertainty; 0 where none is seen */
  readonly startUpLeft: number;
  /** means of the first and second half of what is averaged */
  readonly halves: readonly [number, number];
  readonly lowest: number;
  readonly highest: number;
  readonly peak?: Peak;
  /** one over the length of what is averaged */
  readonly resolution: number;
  readonly cycles: number;
  readonly gaps: number;
  readonly doubts: readonly RecordDoubt[];
}

export interface RecordOptions {
  /** samples to leave out, where a person has said so */
  readonly cut?: number;
  /** unit of the abscissa: "s", or "iterations" */
  readonly abscissa: string;
}

const EVEN = 1e-6;
const FEWEST_EFFECTIVE = 10;
const FEWEST_PERIODS = 6;
const BATCHES_APART = 1.5;

/**
 * Everything method 2 says of one record: start-up, mean and its uncertainty, drift, dominant frequency, doubts.
 * Unevenly sampled records are averaged by the length of their steps and tested on an even resampling of as many samples.
 * @param at abscissae, rising
 * @param values one a sample; NaN for gaps, which are left out and counted
 * @throws {RangeError} fewer than 20 values, or abscissae that do not rise
 */
export function averageRecord(at: ArrayLike<number>, values: ArrayLike<number>, options: RecordOptions): AveragedRecord {
  const { x, y, gaps } = sound(at, values);
  const n = y.length;
  if (n < 20) throw new RangeError(`${n} values are too few to average; at least 20 are needed.`);
  const step = (x[n - 1] - x[0]) / (n - 1);
  const even = isEven(x, step);
  const all = even ? y : resampled(x, y, step);
  const found = options.cut === undefined ? startUpCut(all) : { samples: options.cut, tooShort: options.cut > n / 2 };
  const first = Math.max(0, Math.min(n - 20, found.samples));
  const slow = slowStartUp(all.subarray(first), options.cut === undefined ? Math.max(0, Math.floor(n / 2) - first) : 0);
  const cut = first + slow.samples;
  const kept = all.subarray(cut);
  const base = meanUncertainty(kept);
  const mean = even ? base.mean : weightedMean(x, y, x[0] + cut * step);
  const batches = batchStandard(kept);
  const drift = driftOf(kept);
  const peak = dominantPeak(kept, step);
  const length = (kept.length - 1) * step;
  const half = kept.length >> 1;
  const result = {
    ...base,
    mean,
    // A mean that still moves is known no better than it moved.
    expanded: Math.hypot(base.expanded, drift.drifts ? drift.change : 0, slow.left),
    startUpLeft: slow.left,
    cut,
    cutAt: x[0] + cut * step,
    cutBy: options.cut === undefined ? ("test" as const) : ("hand" as const),
    samples: kept.length,
    step,
    evenlySampled: even,
    correlationTime: base.correlationSamples * step,
    batchStandard: batches,
    drift,
    halves: [meanOf(kept.subarray(0, half)), meanOf(kept.subarray(half))] as const,
    ...extremes(kept),
    peak,
    resolution: 1 / length,
    cycles: cyclesCounted(kept),
    gaps,
  };
  return { ...result, doubts: doubtsOf(result, found.tooShort, length, options.abscissa) };
}

type Found = Omit<AveragedRecord, "doubts">;

function doubtsOf(r: Found, tooShort: boolean, length: number, unit: string): RecordDoubt[] {
  const out: RecordDoubt[] = [];
  const add = (rule: RecordDoubt["rule"], sentence: string, severity: RecordDoubt["severity"] = "doubt") => out.push({ rule, severity, sentence });
  if (tooShort) add("too-short", `The start-up reaches to half of the record, ${quantityText(r.cutAt, unit, 3)}: the record is too short.`);
  if (r.deviation > 0 && r.effectiveSamples < FEWEST_EFFECTIVE)
    add(
      "few-samples",
      `Only ${significant(r.effectiveSamples, 2)} independent samples: the record spans ${quantityText(length, unit, 3)}, its correlation time is ${quantityText(r.correlationTime, unit, 2)}.`,
    );
  const apart = r.standard > 0 && r.batchStandard > 0 ? Math.max(r.standard / r.batchStandard, r.batchStandard / r.standard) : 1;
  if (apart > BATCHES_APART)
    add(
      "batches-disagree",
      `Two ways to the mean's uncertainty differ by a factor ${significant(apart, 2)}: ${significant(r.standard, 2)} by correlation, ${significant(r.batchStandard, 2)} by batch means.`,
    );
  if (r.startUpLeft > 0)
    add(
      "slow-start-up",
      `A slow start-up reaches through the record: what is left of it may shift the mean by ${significant(r.startUpLeft, 2)}, which is part of its uncertainty. A longer record would end it.`,
    );
  if (r.drift.drifts)
    add(
      "drift",
      `The mean still moves: it changed by ${significant(r.drift.change, 2)} from the first to the last third, against an uncertainty of ${significant(r.expanded, 2)}.`,
    );
  // The wander of an iteration is no frequency anybody will quote.
  if (r.peak && unit === "s") {
    const periods = r.peak.frequency * length;
    if (periods < FEWEST_PERIODS)
      add("few-periods", `The record holds ${significant(periods, 2)} periods of its dominant frequency; six are the least to state it.`);
    const perPeriod = 1 / (r.peak.frequency * r.step);
    if (perPeriod < 4)
      add(
        "coarse-sampling",
        `Only ${significant(perPeriod, 2)} samples a period: the frequency may be folded down from above half the sampling rate.`,
      );
  }
  if (r.gaps) add("gaps", `${r.gaps} entries are missing (${percent(r.gaps / (r.gaps + r.samples + r.cut))}) and were left out.`, "note");
  return out;
}

function sound(at: ArrayLike<number>, values: ArrayLike<number>) {
  const n = Math.min(at.length, values.length);
  const x = new Float64Array(n);
  const y = new Float64Array(n);
  let kept = 0;
  for (let i = 0; i < n; i++) {
    if (!Number.isFinite(values[i]) || !Number.isFinite(at[i])) continue;
    if (kept > 0 && !(at[i] > x[kept - 1])) throw new RangeError(`The abscissa does not rise at entry ${i + 1}.`);
    x[kept] = at[i];
    y[kept++] = values[i];
  }
  return { x: x.subarray(0, kept), y: y.subarray(0, kept), gaps: n - kept };
}

/** The values of a record without its gaps, evenly resampled where their steps are unequal. */
export function evenly(at: ArrayLike<number>, values: ArrayLike<number>, step: number): Float64Array {
  const { x, y } = sound(at, values);
  return isEven(x, step) ? y : resampled(x, y, step);
}

function isEven(x: Float64Array, step: number): boolean {
  for (let i = 1; i < x.length; i++) if (Math.abs(x[i] - x[i - 1] - step) > EVEN * step + 1e-12 * Math.abs(x[i])) return false;
  return true;
}

/** As many even samples by straight lines between the given ones. */
function resampled(x: Float64Array, y: Float64Array, step: number): Float64Array {
  let k = 0;
  return Float64Array.from(x, (_, i) => {
    const t = i === x.length - 1 ? x[x.length - 1] : x[0] + i * step;
    while (k < x.length - 2 && x[k + 1] < t) k++;
    const share = (t - x[k]) / (x[k + 1] - x[k]);
    return y[k] + share * (y[k + 1] - y[k]);
  });
}

/** Every value counts for the step that led to it. */
function weightedMean(x: Float64Array, y: Float64Array, from: number): number {
  let [sum, total] = [0, 0];
  for (let i = 1; i < x.length; i++) {
    if (x[i] <= from) continue;
    const weight = x[i] - Math.max(from, x[i - 1]);
    sum += weight * y[i];
    total += weight;
  }
  return sum / total;
}

function extremes(values: Float64Array) {
  let [lowest, highest] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (let i = 0; i < values.length; i++) {
    if (values[i] < lowest) lowest = values[i];
    if (values[i] > highest) highest = values[i];
  }
  return { lowest, highest };
}

/**
 * How many of the last iterations of a steady run that never quite settles to average over: what follows the start-up, shortened until its
 * mean no longer drifts. Undefined while even the last 40 do.
 */
export function lastToAverage(values: ArrayLike<number>): number | undefined {
  const y = Float64Array.from(values).filter(Number.isFinite);
  let count = y.length - startUpCut(y).samples;
  for (; count >= 40; count = Math.floor(count * 0.8)) {
    const tail = y.subarray(y.length - count);
    if (!driftOf(tail).drifts) return count;
  }
  return undefined;
}

/** Mean of everything up to each of some places, with its growing certainty, for drawing: at most `points`. */
export function runningMean(at: ArrayLike<number>, values: ArrayLike<number>, cut: number, points = 400) {
  const { x, y } = sound(at, values);
  const out: { at: number; mean: number }[] = [];
  const stride = Math.max(1, Math.floor((y.length - cut) / points));
  let sum = 0;
  for (let i = cut; i < y.length; i++) {
    sum += y[i];
    if ((i - cut) % stride === 0 || i === y.length - 1) out.push({ at: x[i], mean: sum / (i - cut + 1) });
  }
  return out;
}

/** Counts in equal bins between the extremes. */
export function histogram(values: ArrayLike<number>, bins = 30) {
  const y = Float64Array.from(values).filter(Number.isFinite);
  const { lowest, highest } = extremes(y);
  const width = (highest - lowest) / bins || 1;
  const counts = new Float64Array(bins);
  for (const v of y) counts[Math.min(bins - 1, Math.floor((v - lowest) / width))]++;
  return Array.from(counts, (count, b) => ({ from: lowest + b * width, to: lowest + (b + 1) * width, count }));
}

/** The rules of this file in words. */
export const RECORD_RULES = rulesOf("core/method/averaging/record.ts", [
  {
    rule: "average-last",
    text: "A steady run that wanders: the last N iterations after its start-up, shortened until their mean no longer drifts.",
    source: "White 1997; Mann 1945",
  },
  {
    rule: "average-coarse-sampling",
    text: "Fewer than four samples a period: the true frequency may lie above half the sampling rate and be folded down.",
    source: "own",
  },
  {
    rule: "average-gaps",
    text: "Missing entries of an averaged record are left out and counted.",
    source: "own",
  },
]);
