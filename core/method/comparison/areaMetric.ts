/** How far two distributions lie apart. */
export interface AreaMetric {
  /** area between the two cumulative distributions, in the quantity's unit */
  readonly area: number;
  /** the part by which values of the first are larger, and that by which they are smaller: the area is their sum */
  readonly above: number;
  readonly below: number;
}

/**
 * Area between two empirical cumulative distributions: the mean distance values have to be moved by to turn one into the other.
 * @throws {RangeError} No values, or one that is not finite.
 * @source Ferson, Oberkampf & Ginzburg, Comput. Methods Appl. Mech. Eng. 197, 2408 (2008)
 * @example
 * areaMetric([1, 2], [2, 3]).area // 1
 */
export function areaMetric(first: ArrayLike<number>, second: ArrayLike<number>): AreaMetric {
  if (!first.length || !second.length) throw new RangeError("A distribution needs at least one value.");
  const [a, b] = [Float64Array.from(first).sort(), Float64Array.from(second).sort()];
  for (const values of [a, b]) if (!values.every(Number.isFinite)) throw new RangeError("Every value must be finite.");
  let [i, j, above, below] = [0, 0, 0, 0];
  let x = Math.min(a[0], b[0]);
  while (i < a.length || j < b.length) {
    const next = Math.min(i < a.length ? a[i] : Number.POSITIVE_INFINITY, j < b.length ? b[j] : Number.POSITIVE_INFINITY);
    // Where fewer values of the first lie below x, the first is the larger one there.
    const part = (j / b.length - i / a.length) * (next - x);
    if (part > 0) above += part;
    else below -= part;
    x = next;
    while (i < a.length && a[i] === next) i++;
    while (j < b.length && b[j] === next) j++;
  }
  return { area: above + below, above, below };
}
