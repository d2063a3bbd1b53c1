import type { Numbers } from "../numeric/numbers.ts";
import { powerOfTen } from "./number.ts";

/** How the numbers of one axis, legend or column are written: alike in digits, so that they align and tell neighbours apart. */
export interface ScaleText {
  /** power of ten taken out of every number, a multiple of three; 0 for none */
  readonly exponent: number;
  readonly decimals: number;
  /** the number without the power of ten */
  readonly text: (v: number) => string;
  /** "×10⁻³", to stand once beside the axis; "" for none */
  readonly factor: string;
  /** the number with the power of ten */
  readonly whole: (v: number) => string;
}

const MOST_DECIMALS = 12;
/** digits beyond these are rounding of double precision */
const MOST_DIGITS = 15;
/** parts a range is told apart in where no step is given */
const PARTS = 200;
const PLAIN_FROM = 1e-3;
const PLAIN_BELOW = 1e6;
/** digits of numbers that are all the same */
const ALONE = 5;

/**
 * Digits for a set of numbers: as many as resolve their range, powers of ten in threes where plain digits would be many.
 * @param values of an axis its ticks, of a legend its ends, of a column all of it; what is not finite is left out
 * @param step smallest difference that must show; by preset a two-hundredth of the range
 */
export function scaleText(values: Numbers, step?: number): ScaleText {
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const v of values) {
    if (!Number.isFinite(v)) continue;
    low = Math.min(low, v);
    high = Math.max(high, v);
  }
  const size = high >= low ? Math.max(Math.abs(low), Math.abs(high)) : 0;
  const exponent = size === 0 || (size >= PLAIN_FROM && size < PLAIN_BELOW) ? 0 : 3 * Math.floor(Math.log10(size) / 3 + 1e-12);
  const range = high - low;
  // Numbers that differ in nothing but rounding are written as one.
  const alike = !(range > 4 * Number.EPSILON * size);
  const least = step ?? (alike ? size / 10 ** (ALONE - 1) : range / PARTS);
  const unit = 10 ** exponent;
  const decimals = Math.min(decimalsOf(least / unit, step !== undefined), MOST_DECIMALS, MOST_DIGITS - 1 - digitsBefore(size / unit));
  const text = (v: number) => {
    if (!Number.isFinite(v)) return "–";
    const written = (v / unit).toFixed(Math.max(0, decimals));
    return Number(written) === 0 ? written.replace("-", "") : written.replace("-", "−");
  };
  const factor = exponent === 0 ? "" : `×${powerOfTen(exponent)}`;
  return { exponent, decimals: Math.max(0, decimals), text, factor, whole: (v) => (Number.isFinite(v) ? `${text(v)}${factor}` : text(v)) };
}

/** Digits after the point that show a step; exactly, where it is the step of ticks such as 0.25. */
function decimalsOf(step: number, exactly: boolean): number {
  if (!(step > 0)) return 0;
  let decimals = Math.max(0, Math.ceil(-Math.log10(step) - 1e-9));
  if (!exactly) return decimals;
  for (let k = 0; k < 2; k++) {
    const shown = step * 10 ** decimals;
    if (Math.abs(shown - Math.round(shown)) < 1e-6 * shown) return decimals;
    decimals++;
  }
  return decimals;
}

const digitsBefore = (size: number) => (size >= 10 ? Math.floor(Math.log10(size) + 1e-12) : 0);

/** Text of the evenly spaced ticks of an axis. */
export function tickText(ticks: Numbers): ScaleText {
  return scaleText(ticks, ticks.length > 1 ? Math.abs(ticks[1] - ticks[0]) : undefined);
}

/** share of their size by which values must differ to be told apart on an axis */
const ALIKE = 1e-9;

/** Whether the ends of a range differ by more than round-off: else their last digits mean nothing, and they are drawn as equal. */
export const toldApart = (low: number, high: number): boolean => high - low > ALIKE * Math.max(Math.abs(low), Math.abs(high));

/** signs of a tick that an axis has room for */
const MOST_SIGNS = 9;

/**
 * Text of ticks where there is little room: of numbers that differ far behind the point, by how much each differs from the first; what that is stands in
 * the factor.
 * @example
 * shortTicks([500.000001, 500.000002]).factor // "×10⁻⁶ from 500.000001"
 */
export function shortTicks(ticks: Numbers): Pick<ScaleText, "text" | "factor"> & { readonly shifted: boolean } {
  const scale = tickText(ticks);
  if (ticks.length < 2 || Math.max(...Array.from(ticks, (t) => scale.text(t).length)) <= MOST_SIGNS) return { ...scale, shifted: false };
  // Differences of numbers that are nearly equal carry their rounding.
  const step = Number((ticks[1] - ticks[0]).toPrecision(2));
  const { text, factor } = scaleText(
    Array.from(ticks, (_, k) => k * step),
    Math.abs(step),
  );
  const from = scaleText(ticks, Math.abs(step)).whole(ticks[0]);
  return { text: (v) => text(v - ticks[0]), factor: `${factor} from ${from}`.trim(), shifted: true };
}

/** Writes every number of a column alike, power of ten included, with so many digits of its range. */
export const resolve = (values: Numbers, digits = 4): ((v: number) => string) => columnScale(values, digits).whole;

/** Text of a column of numbers, with so many digits of its range. */
export function columnScale(values: Numbers, digits = 4): ScaleText {
  const good = values.filter((v) => Number.isFinite(v) && v !== 0);
  const range = good.reduce((a, b) => Math.max(a, b), Number.NEGATIVE_INFINITY) - good.reduce((a, b) => Math.min(a, b), Number.POSITIVE_INFINITY);
  const size = good.reduce((a, b) => Math.max(a, Math.abs(b)), 0);
  return scaleText(good, range > 4 * Number.EPSILON * size ? 10 ** (Math.floor(Math.log10(range)) - digits) : undefined);
}
