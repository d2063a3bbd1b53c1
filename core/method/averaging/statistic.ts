import type { Take } from "../../records/take.ts";
import { rulesOf } from "../../remarks/rule.ts";
import { meanOf, meanUncertainty } from "./meanUncertainty.ts";
import { dominantPeak } from "./spectrum.ts";
import { studentT95 } from "./studentT.ts";

export interface Statistic {
  readonly value: number;
  /** 95 % */
  readonly expanded: number;
}

/** f L / U: what turns a frequency into a Strouhal number */
export interface StrouhalScale {
  readonly lengthM: number;
  readonly velocityMS: number;
}

const PARTS = 4;
/** a peak refined by a parabola lies within this share of the resolution */
const REFINED = 0.1;

/**
 * A statistic of an evenly sampled record without its start-up, with its 95 % uncertainty. Frequencies and amplitudes: from their scatter over
 * four equal parts (standard error of their mean, Student's t), a frequency no better than a tenth of the record's resolution.
 * @param step sampling interval
 * @returns undefined where the record has no such thing: no line stands out of its spectrum
 */
export function statistic(values: Float64Array, step: number, take: Exclude<Take, "last">, scale: StrouhalScale): Statistic | undefined {
  switch (take) {
    case "mean": {
      const m = meanUncertainty(values);
      return { value: m.mean, expanded: m.expanded };
    }
    case "rms": {
      const mean = meanOf(values);
      const square = meanUncertainty(values.map((v) => (v - mean) ** 2));
      const value = Math.sqrt(square.mean);
      return value > 0 ? { value, expanded: square.expanded / (2 * value) } : { value: 0, expanded: 0 };
    }
    case "amplitude":
      return ofPeak(values, step, (p) => p.amplitude, 0);
    case "frequency":
      return ofPeak(values, step, (p) => p.frequency, REFINED / (values.length * step));
    case "strouhal": {
      const f = statistic(values, step, "frequency", scale);
      const factor = scale.lengthM / scale.velocityMS;
      return f && { value: f.value * factor, expanded: f.expanded * factor };
    }
    default:
      return take satisfies never;
  }
}

function ofPeak(
  values: Float64Array,
  step: number,
  read: (p: { frequency: number; amplitude: number }) => number,
  least: number,
): Statistic | undefined {
  const whole = dominantPeak(values, step);
  if (!whole) return undefined;
  const size = Math.floor(values.length / PARTS);
  const parts = Array.from({ length: PARTS }, (_, k) => dominantPeak(values.subarray(k * size, (k + 1) * size), step)).flatMap((p) =>
    p ? [read(p)] : [],
  );
  // A part that shows no line, or another one, says that the record is too short to divide: its resolution is what is known.
  if (parts.length < PARTS) return { value: read(whole), expanded: Math.max(least / REFINED, spreadOf(parts, read(whole))) };
  const mean = parts.reduce((a, b) => a + b, 0) / PARTS;
  const deviation = Math.sqrt(parts.reduce((s, p) => s + (p - mean) ** 2, 0) / (PARTS - 1));
  return { value: read(whole), expanded: Math.max(least, (studentT95(PARTS - 1) * deviation) / Math.sqrt(PARTS)) };
}

const spreadOf = (parts: readonly number[], value: number) => parts.reduce((m, p) => Math.max(m, Math.abs(p - value)), 0);

/** The rules of this file in words. */
export const STATISTIC_RULES = rulesOf("core/method/averaging/statistic.ts", [
  {
    rule: "statistic-absent",
    text: "A frequency, amplitude or Strouhal number is only taken of a record whose spectrum has a line that stands out. Its uncertainty: the scatter over four equal parts of the record, a frequency no better than a tenth of the resolution.",
    source: "method of this product",
  },
]);
