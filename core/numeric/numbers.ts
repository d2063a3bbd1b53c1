/**
 * Values of a record in the order they came: a typed array where they are kept and sent, a plain list where they were worked out.
 * Only what both can do alike is named here.
 */
export interface Numbers extends Iterable<number> {
  readonly length: number;
  readonly [index: number]: number;
  at(index: number): number | undefined;
  slice(from?: number, to?: number): Numbers;
  filter(keep: (value: number, index: number) => boolean): Numbers;
  map(change: (value: number, index: number) => number): Numbers;
  every(holds: (value: number, index: number) => boolean): boolean;
  some(holds: (value: number, index: number) => boolean): boolean;
  findIndex(holds: (value: number, index: number) => boolean): number;
  reduce<T>(step: (before: T, value: number, index: number) => T, start: T): T;
}

/**
 * How many of many numbers are finite, counted without a copy of them.
 * @example countFinite([1, Number.NaN, 3]) // 2
 */
export function countFinite(values: Numbers): number {
  let count = 0;
  for (let i = 0; i < values.length; i++) if (Number.isFinite(values[i])) count++;
  return count;
}

/**
 * The last finite ones of many numbers, in their order.
 * @example lastFinite([1, 2, Number.NaN, 3], 2) // [2, 3]
 */
export function lastFinite(values: Numbers, most: number): number[] {
  const found: number[] = [];
  for (let i = values.length - 1; i >= 0 && found.length < most; i--) if (Number.isFinite(values[i])) found.push(values[i]);
  return found.reverse();
}
