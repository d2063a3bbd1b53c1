import type { SurfacePoint } from "@/core/intake/surfacePoints";

export interface Differences {
  readonly count: number;
  readonly mean: number;
  readonly rms: number;
  /** root mean square over the range of what was measured */
  readonly ofRange: number;
  readonly worst: { readonly difference: number; readonly line: number };
}

/** Computed less measured over points; nothing where nothing was measured. */
export function differencesOf(points: readonly SurfacePoint[]): Differences | undefined {
  const known = points.flatMap((p) =>
    p.measured === undefined ? [] : [{ difference: p.computed - p.measured, measured: p.measured, line: p.line }],
  );
  if (!known.length) return undefined;
  let [sum, squares, low, high] = [0, 0, Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const { difference, measured } of known) {
    sum += difference;
    squares += difference ** 2;
    low = Math.min(low, measured);
    high = Math.max(high, measured);
  }
  const rms = Math.sqrt(squares / known.length);
  const worst = known.reduce((a, b) => (Math.abs(b.difference) > Math.abs(a.difference) ? b : a));
  return { count: known.length, mean: sum / known.length, rms, ofRange: high > low ? rms / (high - low) : 0, worst };
}
