import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { randomFrom } from "./random.ts";
import { select } from "./select.ts";

const sorted = (values: ArrayLike<number>) => Float64Array.from(values).sort();

describe("the k-th smallest", () => {
  test("of whatever numbers, equal ones among them, is the one that sorting puts there", () => {
    const number = fc.oneof(fc.integer({ min: -3, max: 3 }), fc.double({ noNaN: true }));
    fc.assert(
      fc.property(fc.array(number, { minLength: 1, maxLength: 60 }), fc.nat(), (list, at) => {
        const k = at % list.length;
        const values = Float64Array.from(list);
        expect(select(values, k)).toBe(sorted(list)[k] + 0);
        expect(sorted(values)).toEqual(sorted(list));
        for (let i = 0; i < list.length; i++) expect(i < k ? values[i] <= values[k] : values[i] >= values[k]).toBe(true);
      }),
    );
  });
  test("of many, in whatever order they come", () => {
    const random = randomFrom(7);
    const lists = [
      Float64Array.from({ length: 20_000 }, () => random()),
      Float64Array.from({ length: 20_000 }, (_, i) => i),
      Float64Array.from({ length: 20_000 }, (_, i) => -i),
      Float64Array.from({ length: 20_000 }, (_, i) => i % 7),
    ];
    for (const list of lists) {
      const right = sorted(list);
      for (const k of [0, 1, 4999, 10_000, 19_998, 19_999]) expect(select(list.slice(), k)).toBe(right[k]);
    }
  });
  test("one after another, each to the right of the one before", () => {
    const random = randomFrom(8);
    const list = Float64Array.from({ length: 3000 }, () => random());
    const right = sorted(list);
    let left = 0;
    for (const k of [700, 1499, 1500, 2300]) {
      expect(select(list, k, left)).toBe(right[k]);
      left = k;
    }
  });
});
