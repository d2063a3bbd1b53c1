import { expect, test } from "vitest";
import { crosses } from "./crosses";

test("three strokes through each place, as long as a twentieth of the longest side", () => {
  const marks = crosses(
    [
      [1, 2, 3],
      [0, 0, 0],
    ],
    { low: [0, 0, 0], high: [4, 2, 1] },
  );
  expect(marks).toHaveLength(6);
  expect(marks[0]).toEqual([
    [0.9, 2, 3],
    [1.1, 2, 3],
  ]);
  expect(marks[5]).toEqual([
    [0, 0, -0.1],
    [0, 0, 0.1],
  ]);
});
