// Names and limits alone: pages that print them load nothing that works them out.

export const METRIC_KEYS = ["nonOrthogonality", "skewness", "equiangle", "aspect", "volumeRatio", "areaRatio", "warpage"] as const;
export type Metric = (typeof METRIC_KEYS)[number];

/** What each metric is, and from where on a cell is looked at. @source method, section 10 */
export const METRICS: Readonly<Record<Metric, { readonly name: string; readonly unit: string; readonly limit: number }>> = {
  nonOrthogonality: { name: "non-orthogonality", unit: "deg", limit: 70 },
  skewness: { name: "face skewness", unit: "1", limit: 0.5 },
  equiangle: { name: "equiangle skewness", unit: "1", limit: 0.85 },
  aspect: { name: "aspect ratio", unit: "1", limit: 100 },
  volumeRatio: { name: "volume ratio of neighbours", unit: "1", limit: 5 },
  areaRatio: { name: "ratio of a cell's face areas", unit: "1", limit: 100 },
  warpage: { name: "warp of a face", unit: "deg", limit: 20 },
};

/** Limits of metrics, where they are other than the usual ones. */
export type MetricLimits = Readonly<Partial<Record<Metric, number>>>;

/** Cells behind one another are followed inwards no further: no layer at a wall has more, and a block of even cells is none. */
export const MOST_LAYERS = 40;
