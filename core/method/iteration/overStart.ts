import type { Numbers } from "../../numeric/numbers.ts";
import type { HistoryEvidence } from "../../records/run.ts";

/** Starting level of a residual record: the largest of its first five entries. */
export function startingLevel(values: Numbers): number {
  return Math.max(...values.slice(0, 5).filter((v) => Number.isFinite(v) && v > 0), 1e-300);
}

/** Every residual divided by its starting level, so that equations of different size share one scale. */
export function overStart(h: {
  readonly residuals: Readonly<Record<string, Numbers>>;
  readonly starts?: HistoryEvidence["starts"];
}): Record<string, Float64Array> {
  return Object.fromEntries(
    Object.entries(h.residuals).map(([name, values]) => {
      const start = h.starts?.[name] ?? startingLevel(values);
      return [name, Float64Array.from(values, (v) => v / start)];
    }),
  );
}
