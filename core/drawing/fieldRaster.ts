const STOPS = ["#101C2C", "#1D3B5A", "#2C5D7C", "#42808F", "#66A196", "#97BF97", "#CAD9A0", "#F4EFC4"].map((h) =>
  [1, 3, 5].map((i) => Number.parseInt(h.slice(i, i + 2), 16)),
);

/** Colour of t in [0, 1]: dark to light in even steps of lightness. */
export function fieldColor(t: number): readonly [number, number, number] {
  const s = Math.min(0.999999, Math.max(0, t)) * (STOPS.length - 1);
  const i = Math.floor(s);
  const f = s - i;
  return [0, 1, 2].map((k) => Math.round(STOPS[i][k] + (STOPS[i + 1][k] - STOPS[i][k]) * f)) as unknown as readonly [number, number, number];
}

/** Smallest and largest value. */
export function fieldRange(values: ArrayLike<number>): [number, number] {
  let low = Number.POSITIVE_INFINITY;
  let high = Number.NEGATIVE_INFINITY;
  for (let i = 0; i < values.length; i++) {
    if (values[i] < low) low = values[i];
    if (values[i] > high) high = values[i];
  }
  return [low, high];
}
