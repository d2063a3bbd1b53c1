/** room for the marks at the ends */
const EDGE = 4;

/** Places of values along a small line: evenly from left to right, the lowest below; all in the middle where they are equal. */
export function trendPoints(values: readonly number[], width: number, height: number): [x: number, y: number][] {
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const range = high - low;
  return values.map((v, k) => [
    Math.round(10 * (values.length > 1 ? EDGE + ((width - 2 * EDGE) * k) / (values.length - 1) : width / 2)) / 10,
    Math.round(10 * (range > 0 ? height - EDGE - ((height - 2 * EDGE) * (v - low)) / range : height / 2)) / 10,
  ]);
}
