import type { HistoryEvidence } from "../../records/run.ts";

/** Starting level of a residual record: the largest of its first five entries. */
export function startingLevel(values: readonly number[]): number {
  return Math.max(...values.slice(0, 5).filter((v) => Number.isFinite(v) && v > 0), 1e-300);
}

/** Every residual divided by its starting level, so that equations of different size share one scale. */
export function overStart(h: Pick<HistoryEvidence, "residuals" | "starts">): Record<string, number[]> {
  return Object.fromEntries(
    Object.entries(h.residuals).map(([name, values]) => {
      const start = h.starts?.[name] ?? startingLevel(values);
      return [name, values.map((v) => v / start)];
    }),
  );
}
