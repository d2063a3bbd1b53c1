import { describe, expect, test } from "vitest";
import { decades, logTicks, ordinate, thinnedEntries } from "./ticks.ts";

describe("ticks of a logarithmic axis", () => {
  test("whole decades around the range, every second one of a long range", () => {
    expect(decades(3e-3, 0.2)).toEqual([1e-3, 1e-2, 1e-1, 1]);
    expect(decades(1, 1)).toEqual([1, 10]);
    const long = decades(1e-12, 1);
    expect(long.map((t) => Math.round(Math.log10(t)))).toEqual([-12, -10, -8, -6, -4, -2, 0]);
    expect(decades(0, 1)).toEqual([1e-3, 1]);
  });
  test("one and three of every decade, none outside", () => {
    expect(logTicks([0.2, 5, 40], [1, 3])).toEqual([0.3, 1, 3, 10, 30]);
    expect(logTicks([], [1, 3])).toEqual([]);
  });
});

describe("the ordinate of records", () => {
  test("leaves a little room on a linear axis and holds the level too", () => {
    expect(ordinate([[0, 100]], undefined, false)).toEqual({ ticks: [0, 20, 40, 60, 80, 100], domain: [-8, 108] });
    expect(ordinate([[0, 100]], 200, false).domain).toEqual([-16, 216]);
  });
  test("gaps and what is not positive decide nothing of a logarithmic one", () => {
    expect(ordinate([[Number.NaN, -5, 0, 0.5], Float64Array.of(0.02)], undefined, true).domain).toEqual([0.01, 1]);
  });
  test("a constant record has room about it, an empty one an axis all the same", () => {
    expect(ordinate([[5, 5]], undefined, false).domain).toEqual([4.995, 5.005]);
    expect(ordinate([[]], undefined, false)).toEqual({ ticks: [], domain: [0, 1] });
  });
});

test("at most so many entries are drawn, the last always among them", () => {
  expect(thinnedEntries(5, 600)).toEqual([0, 1, 2, 3, 4]);
  expect(thinnedEntries(10, 4)).toEqual([0, 3, 6, 9]);
  expect(thinnedEntries(11, 4)).toEqual([0, 3, 6, 9, 10]);
  expect(thinnedEntries(100_000, 600).length).toBeLessThanOrEqual(601);
});
