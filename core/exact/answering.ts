import type { Reference } from "../records/reference.ts";

/** An input that is varied to either side of where it stands. */
export interface Varied<At> {
  readonly key: string;
  /** share of its value it is varied by */
  readonly step: number;
  readonly down: At;
  readonly up: At;
}

/** relative changes below this are rounding */
const ROUNDING = 1e-9;

/**
 * Yardsticks with what the conditions they are worked out from make of their values: percent a percent, by central differences. A value that does not
 * exist to both sides is said to answer to nothing.
 * @param at yardsticks where the inputs are varied to; what throws there counts as absent
 */
export function answering<At>(
  base: readonly Reference[],
  varied: readonly Varied<At>[],
  at: (there: At) => readonly Reference[],
): readonly Reference[] {
  const sides = varied.flatMap((v) => {
    try {
      return [{ ...v, values: [at(v.down), at(v.up)].map(valuesOf) }];
    } catch (error) {
      if (error instanceof RangeError) return [];
      throw error;
    }
  });
  if (!sides.length) return base;
  return base.map((y) => ({
    ...y,
    values: y.values.map((v) => {
      const answers = Object.fromEntries(
        sides.flatMap(({ key, step, values: [down, up] }) => {
          const name = nameOf(y.key, v.quantityKey);
          const answer = ((up.get(name) ?? Number.NaN) - (down.get(name) ?? Number.NaN)) / (2 * step * v.value);
          return Number.isFinite(answer) && Math.abs(answer) > ROUNDING ? [[key, answer] as const] : [];
        }),
      );
      return Object.keys(answers).length ? { ...v, answers } : v;
    }),
  }));
}

const nameOf = (yardstick: string, quantity: string) => `${yardstick} ${quantity}`;

const valuesOf = (list: readonly Reference[]): ReadonlyMap<string, number> =>
  new Map(list.flatMap((y) => y.values.map((v) => [nameOf(y.key, v.quantityKey), v.value] as const)));
