import { expect, test } from "vitest";
import { remembered, rememberedOf } from "./remembered.ts";

test("works out an answer once, and another for other arguments", () => {
  const asked: number[] = [];
  const square = remembered((x: number, { scale }: { scale: number }) => {
    asked.push(x);
    return { value: scale * x * x };
  }, 4);
  expect(square(3, { scale: 1 })).toBe(square(3, { scale: 1 }));
  expect(square(3, { scale: 2 }).value).toBe(18);
  expect(asked).toEqual([3, 3]);
});

test("keeps so many, and lets go of the one asked for longest ago", () => {
  const asked: string[] = [];
  const ask = remembered((key: string) => {
    asked.push(key);
    return undefined;
  }, 2);
  for (const key of ["a", "b", "a", "c", "a", "b"]) ask(key);
  expect(asked).toEqual(["a", "b", "c", "b"]);
});

test("numbers that JSON has no word for are told apart", () => {
  const ask = remembered((x: number | null) => String(x), 8);
  expect([Number.NaN, Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY, null].map(ask)).toEqual(["NaN", "Infinity", "-Infinity", "null"]);
});

test("answers are kept for each object by itself, by what was asked of it", () => {
  const asked: string[] = [];
  const lengthTimes = rememberedOf((of: Float64Array, by: number) => {
    asked.push(`${of.length}x${by}`);
    return of.length * by;
  });
  const [two, alike] = [Float64Array.of(1, 2), Float64Array.of(1, 2)];
  expect([lengthTimes(two, 3), lengthTimes(two, 3), lengthTimes(two, 4), lengthTimes(alike, 3)]).toEqual([6, 6, 8, 6]);
  expect(asked).toEqual(["2x3", "2x4", "2x3"]);
});
