import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { costExponent, halvings, meshPlans } from "./planning.ts";

const FROM = { relative: 0.04, order: 2, cells: 1000, dimension: 2, seconds: 10, costExponent: 1.5 } as const;

describe("meshes for targets", () => {
  test("a quarter of the uncertainty at order two is twice as fine: four times the cells, eight times the time in a plane", () => {
    expect(meshPlans(FROM, { limit: 0.01 })[0]).toEqual({ what: "limit", ratio: 2, relative: 0.01, cells: 4000, seconds: 80 });
    expect(meshPlans({ ...FROM, dimension: 3 }, { limit: 0.01 })[0]).toMatchObject({ cells: 8000, seconds: expect.closeTo(10 * 2 ** 4.5, 9) });
    expect(meshPlans({ ...FROM, seconds: undefined }, { limit: 0.01 })[0]).not.toHaveProperty("seconds");
  });
  test("what half and twice the cost buy: the time they take is that half and twice", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.5, max: 4, noNaN: true }),
        fc.double({ min: 1, max: 2.5, noNaN: true }),
        fc.constantFrom(2, 3),
        (order, exponent, dimension) => {
          const plans = meshPlans({ ...FROM, order, costExponent: exponent, dimension: dimension as 2 | 3 }, {});
          const [twice, half] = plans;
          expect(twice.seconds).toBeCloseTo(20, 9);
          expect(half.seconds).toBeCloseTo(5, 9);
          expect(twice.relative * half.relative).toBeCloseTo(FROM.relative ** 2, 12);
          expect(twice.relative).toBeLessThan(FROM.relative);
        },
      ),
    );
  });
  test("a target above what is there is a coarser mesh; targets that are none are refused", () => {
    expect(meshPlans(FROM, { loose: 0.16 })[0]).toMatchObject({ ratio: 0.5, cells: 250 });
    expect(() => meshPlans(FROM, { none: 0 })).toThrow("positive");
    expect(() => meshPlans({ ...FROM, order: 0 }, {})).toThrow("positive");
  });
});

test("the cost exponent is that of the two finest runs, one where they do not tell, never less", () => {
  expect(costExponent({ cells: 400, seconds: 8 }, { cells: 100, seconds: 1 })).toBeCloseTo(1.5, 12);
  expect(costExponent({ cells: 400, seconds: 2 }, { cells: 100, seconds: 1 })).toBe(1);
  expect(costExponent({ cells: 400, seconds: 1 }, { cells: 100, seconds: 1 })).toBe(1);
  expect(costExponent({ cells: 400 }, { cells: 100, seconds: 1 })).toBe(1);
  expect(costExponent({ cells: 100, seconds: 2 }, { cells: 100, seconds: 1 })).toBe(1);
});

test("halving the largest source gains the most, and the sums are those of squares", () => {
  expect(
    halvings([
      { name: "iteration", relative: 0.003 },
      { name: "mesh", relative: 0.004 },
      { name: "inputs", relative: 0 },
    ]),
  ).toEqual([
    { name: "mesh", relative: 0.004, sum: expect.closeTo(Math.hypot(0.002, 0.003), 12) },
    { name: "iteration", relative: 0.003, sum: expect.closeTo(Math.hypot(0.004, 0.0015), 12) },
  ]);
  expect(halvings([])).toEqual([]);
});
