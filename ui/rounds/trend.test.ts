import { expect, test } from "vitest";
import { trendPoints } from "./trend";

test("the lowest lies below, the highest above, the ends at the edges; equal values lie level in the middle", () => {
  expect(trendPoints([1, 3, 2], 96, 22)).toEqual([
    [4, 18],
    [48, 4],
    [92, 11],
  ]);
  expect(trendPoints([5, 5], 96, 22).map((p) => p[1])).toEqual([11, 11]);
  expect(trendPoints([5], 96, 22)).toEqual([[48, 11]]);
  expect(trendPoints([], 96, 22)).toEqual([]);
});
