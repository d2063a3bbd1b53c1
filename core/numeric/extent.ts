/**
 * Least and largest of many numbers; what is no number counts for neither, and a long list is not spread into arguments.
 * @returns infinities the wrong way round where there are none
 * @example
 * extent([3, 1, 2]) // [1, 3]
 */
export function extent(values: Iterable<number>): [least: number, largest: number] {
  let [a, b] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  // Lists by their places: an iterator takes several times as long.
  const list = Array.isArray(values) || values instanceof Float64Array ? (values as ArrayLike<number>) : Float64Array.from(values);
  for (let i = 0; i < list.length; i++) {
    const v = list[i];
    if (v < a) a = v;
    if (v > b) b = v;
  }
  return [a, b];
}
