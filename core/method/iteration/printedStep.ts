import type { Numbers } from "../../numeric/numbers.ts";

/** digits a number can have before its last ones are those of a double, not of a print-out */
const MOST_DIGITS = 11;

/**
 * Smallest step between neighbouring values that a record could show: the unit of its last printed digit, or the jump between rows where most
 * rows only repeat the one before. 0 where values have all the digits of a double.
 */
export function printedStep(values: Numbers): number {
  return Math.max(lastDigit(values), jump(values));
}

/** fewest digits a number that never changes must have for them to be all that was printed: fewer may have lost their zeros */
const FEWEST_DIGITS = 4;

/** Unit of the last printed digit of a record in which all rows say the same; 0 where that cannot be told. */
export function repeatedDigit(value: number): number {
  const digits = value.toExponential().replace(/e.*/, "").replace(/\D/g, "").length;
  return digits < FEWEST_DIGITS ? 0 : lastDigit([value]);
}

/** Unit of the last printed digit: the smallest power of ten that every value is a whole multiple of. */
export function lastDigit(values: Numbers): number {
  let unit = 0;
  for (const v of values) {
    if (v === 0) continue;
    const [mantissa, exponent] = v.toExponential().split("e");
    const digits = mantissa.replace(/^-?\d\.?/, "").length;
    if (digits + 1 > MOST_DIGITS) return 0;
    const own = 10 ** (Number(exponent) - digits);
    unit = unit === 0 ? own : Math.min(unit, own);
  }
  return unit;
}

/** Median size of the changes, where fewer than half of the rows change at all. */
function jump(values: Numbers): number {
  const changes: number[] = [];
  for (let i = 1; i < values.length; i++) if (values[i] !== values[i - 1]) changes.push(Math.abs(values[i] - values[i - 1]));
  if (!changes.length || changes.length > (values.length - 1) / 2) return 0;
  return changes.sort((a, b) => a - b)[changes.length >> 1];
}
