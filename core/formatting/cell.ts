import { percent, significant } from "./number.ts";
import { resolve } from "./scale.ts";

type Value = string | number | null;

/** digits of the range of a column */
const DIGITS = 4;
/** values further apart than this share no digits: each is written for itself */
const DECADES = 4;

/** A table's cell as a person reads it; the CSV beside it carries all digits. */
export function cellText(value: Value, unit: string, column: string): string {
  if (value === null) return "–";
  if (typeof value === "string") return value;
  if (unit === "1" && /fraction|net over|limit|below/.test(column)) return percent(value);
  return Number.isInteger(value) && Math.abs(value) < 1e9 ? String(value) : significant(value, 5);
}

/** The cells of a column of one unit, written alike so that they align and tell themselves apart. */
export function columnText(values: readonly Value[], unit: string, column: string): string[] {
  const numbers = values.filter((v): v is number => typeof v === "number" && Number.isFinite(v));
  const sizes = numbers.filter((v) => v !== 0).map((v) => Math.log10(Math.abs(v)));
  const alike =
    unit !== "" && unit !== "1" && numbers.length > 1 && !numbers.every(Number.isInteger) && Math.max(...sizes) - Math.min(...sizes) < DECADES;
  if (!alike) return values.map((v) => cellText(v, unit, column));
  const show = resolve(numbers, DIGITS);
  return values.map((v) => (typeof v === "number" ? show(v) : cellText(v, unit, column)));
}
