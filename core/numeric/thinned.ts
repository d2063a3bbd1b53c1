/**
 * Every so many entries, the last among them: as many as are enough to draw.
 * @example
 * thinned([1, 2, 3, 4, 5, 6], 3) // [1, 3, 5, 6]
 */
export function thinned<T>(list: readonly T[], most: number): readonly T[] {
  const step = Math.ceil(list.length / most);
  return step > 1 ? list.filter((_, i) => i % step === 0 || i === list.length - 1) : list;
}
