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
