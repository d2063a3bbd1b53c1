import { parseQuantity } from "./units.ts";

/** digits of a value that nobody typed */
const DIGITS = 6;

/**
 * A stored value as its field shows it: as it was typed, while that still means the value; else with six digits and its SI unit.
 * @param typed text it was typed as, with its unit
 */
export function entryText(typed: string | undefined, si: number | undefined, unit: string): string {
  if (si === undefined) return "";
  if (typed !== undefined) {
    const parsed = parseQuantity(typed, unit);
    if (parsed.ok && Math.abs(parsed.si - si) <= 1e-12 * Math.abs(si)) return typed;
  }
  return `${Number(si.toPrecision(DIGITS))} ${unit === "1" ? "" : unit}`.trim();
}

/** What was typed, with the unit it was taken in. */
export function typedText(text: string, unit: string): string {
  const clean = text.trim();
  const bare = /^[-+\d.,eE\s]+$/.test(clean);
  return bare && unit !== "" && unit !== "1" ? `${clean} ${unit}` : clean;
}
