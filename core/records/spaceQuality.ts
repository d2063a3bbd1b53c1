import type { GridQuality, MetricFound } from "../dataset/gridQuality.ts";

/** One metric, as it is kept: what has no bound is null. */
export interface KeptMetric extends Omit<MetricFound, "worst" | "median" | "least" | "cells"> {
  readonly worst: number | null;
  readonly median: number | null;
  readonly least: number | null;
  readonly cells: readonly { readonly cell: number; readonly value: number | null; readonly at: readonly [number, number, number] }[];
}

/** Quality of the mesh of a run in space: the file, and what was found in it. Places in the file's unit of length. */
export interface SpaceQuality extends Omit<GridQuality, "metrics" | "layers"> {
  readonly file: { readonly name: string; readonly hash: string };
  /** the file's unit of length */
  readonly length: string;
  readonly metrics: readonly KeptMetric[];
  /** of meshes that were judged before layers were looked at there are none */
  readonly layers?: GridQuality["layers"];
}

const bounded = (v: number): number | null => (Number.isFinite(v) ? v : null);
/** cells that are named of each fault */
const MOST_NAMED = 20;

/** A quality as it is kept. */
export const keptQuality = (q: GridQuality, file: SpaceQuality["file"], length: string): SpaceQuality => ({
  ...q,
  file,
  length,
  inverted: q.inverted.slice(0, MOST_NAMED),
  open: q.open.slice(0, MOST_NAMED),
  metrics: q.metrics.map((m) => ({
    ...m,
    worst: bounded(m.worst),
    median: bounded(m.median),
    least: bounded(m.least),
    cells: m.cells.map((c) => ({ ...c, value: bounded(c.value) })),
  })),
});
