/**
 * Least and greatest coordinates of points, m.
 * @param pointsM [x0, y0, x1, y1, ...]
 */
export function bounds(pointsM: Float64Array): { low: [number, number]; high: [number, number] } {
  const low: [number, number] = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY];
  const high: [number, number] = [Number.NEGATIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (let i = 0; i < pointsM.length; i++) {
    low[i & 1] = Math.min(low[i & 1], pointsM[i]);
    high[i & 1] = Math.max(high[i & 1], pointsM[i]);
  }
  return { low, high };
}
