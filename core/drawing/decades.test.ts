import { expect, test } from "vitest";
import { inDecades } from "./decades.ts";

test("four decades down from the largest; smaller ones and nothing at all stand at the lower end, gaps stay gaps", () => {
  const { painted, range } = inDecades(Float64Array.of(1e-2, 1e-4, 1e-9, 0, Number.NaN));
  expect(range).toEqual([-6, -2]);
  expect([...painted]).toEqual([-2, -4, -6, -6, Number.NaN]);
  expect(inDecades(new Float64Array(2)).range).toEqual([-4, 0]);
});
