import type { Parameter } from "@/core/exact/solution";
import { typedNumber } from "@/core/formatting/number";

/** A figure as an entry shows it: as few digits as say it to one part in a million. */
export function entryText(value: number, unit: string): string {
  const plain = typedNumber(Number(value.toPrecision(7)));
  return unit ? `${plain} ${unit}` : plain;
}

/** Entries of a solution to begin with: what the case says, else the presets. */
export const entriesOf = (parameters: readonly Parameter[], followed: Readonly<Record<string, number>> = {}): Record<string, string> =>
  Object.fromEntries(parameters.map((p) => [p.key, entryText(followed[p.key] ?? p.preset, p.unit)]));

const STEPS = 1000;

/** Where a value stands on its slider, 0 to 1000. */
export function placeOf(p: Parameter, value: number): number {
  const share = p.log && p.low > 0 ? Math.log(value / p.low) / Math.log(p.high / p.low) : (value - p.low) / (p.high - p.low);
  return Math.round(STEPS * Math.min(1, Math.max(0, share)));
}

/** The value at a place of the slider, to three digits. */
export function valueAt(p: Parameter, place: number): number {
  const share = place / STEPS;
  if (place <= 0) return p.low;
  if (place >= STEPS) return p.high;
  const raw = p.log && p.low > 0 ? p.low * (p.high / p.low) ** share : p.low + (p.high - p.low) * share;
  return p.whole ? Math.round(raw) : Number(raw.toPrecision(3));
}
