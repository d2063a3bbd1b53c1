import { METRICS, type Metric } from "@/core/dataset/metrics";
import { significant } from "@/core/formatting/number";

/** what rounding leaves of nothing */
const ROUNDING = 1e-12;

/** A figure of a mesh's quality; what has no bound is null once it was kept. */
export const metricFigure = (v: number | null): string =>
  v === null || !Number.isFinite(v) ? "without bound" : Math.abs(v) < ROUNDING ? "0" : significant(v, 3);

interface Judged {
  readonly metric: Metric;
  readonly limit: number;
  readonly worst: number | null;
  readonly median: number | null;
  readonly beyond: number;
  readonly cells: readonly { readonly cell: number; readonly at: readonly number[] }[];
}

export const metricName = (metric: Metric): string => `${METRICS[metric].name}${METRICS[metric].unit === "deg" ? ", degrees" : ""}`;

/** The quality of a mesh as a table for elsewhere, with the worst cell of each metric. */
export const qualityCsv = (metrics: readonly Judged[]) => ({
  header: ["metric", "unit", "median", "worst", "limit", "cells beyond", "worst cell", "x", "y", "z"],
  rows: metrics.map((m) => [
    METRICS[m.metric].name,
    METRICS[m.metric].unit,
    m.median ?? "",
    m.worst ?? "",
    m.limit,
    m.beyond,
    m.cells[0]?.cell ?? "",
    ...(m.cells[0]?.at ?? ["", "", ""]),
  ]),
});
