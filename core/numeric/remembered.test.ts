import { expect, test } from "vitest";
import { remembered } from "./remembered.ts";

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
