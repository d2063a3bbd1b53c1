import { percent, significant } from "./number.ts";

/** A table's cell as a person reads it; the CSV beside it carries all digits. */
export function cellText(value: string | number | null, unit: string, column: string): string {
  if (value === null) return "–";
  if (typeof value === "string") return value;
  if (unit === "1" && /fraction|net over|limit|below/.test(column)) return percent(value);
  return Number.isInteger(value) && Math.abs(value) < 1e9 ? String(value) : significant(value, 5);
}
