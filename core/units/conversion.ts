import { convert } from "./units.ts";

/** How values go from one unit into another. */
export interface Conversion {
  readonly turn: (v: number) => number;
  /** of differences: temperatures have a zero of their own */
  readonly factor: number;
}

const isPure = (unit: string) => unit === "" || unit === "1" || unit === "-";

/**
 * The way from one unit to another, straight, with a zero of its own for temperatures; a pure number goes by "", "1" or "-", and percent turns into it.
 * @returns undefined when the units are of different kinds
 * @example
 * conversion("mm", "m")?.factor // 0.001
 */
export function conversion(from: string, to: string): Conversion | undefined {
  if (from === to || (isPure(from) && isPure(to))) return { turn: (v) => v, factor: 1 };
  if (isPure(to) && from === "%") return { turn: (v) => v / 100, factor: 0.01 };
  if (isPure(from) || isPure(to)) return undefined;
  const [zero, one] = [convert(0, from, to), convert(1, from, to)];
  if (zero === undefined || one === undefined) return undefined;
  const factor = one - zero;
  return { turn: (v) => zero + v * factor, factor };
}
