const stops = (...hex: readonly string[]) => hex.map((h) => [1, 3, 5].map((i) => Number.parseInt(h.slice(i, i + 2), 16)));

/** Which colours a field is painted in: even steps from dark to light, or two colours that meet in a light middle, for what has a sign. */
export type FieldColors = "even" | "signed";

const STOPS: Readonly<Record<FieldColors, readonly (readonly number[])[]>> = {
  even: stops("#101C2C", "#1D3B5A", "#2C5D7C", "#42808F", "#66A196", "#97BF97", "#CAD9A0", "#F4EFC4"),
  signed: stops("#1B4A4A", "#3F7F78", "#8FB5A8", "#F3F0E4", "#D9B27C", "#B07A3A", "#7A4714"),
};

/** Colour of t in [0, 1]. */
export function fieldColor(t: number, colors: FieldColors = "even"): readonly [number, number, number] {
  const list = STOPS[colors];
  const s = Math.min(0.999999, Math.max(0, t)) * (list.length - 1);
  const i = Math.floor(s);
  const f = s - i;
  return [0, 1, 2].map((k) => Math.round(list[i][k] + (list[i + 1][k] - list[i][k]) * f)) as unknown as readonly [number, number, number];
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
