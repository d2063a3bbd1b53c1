import { expect, test } from "vitest";
import { differencesOf } from "./differences";

const point = (line: number, computed: number, measured?: number) => ({
  at: [0, 0, 0] as const,
  facing: [0, 0, 1] as const,
  apartM: 0,
  line,
  computed,
  ...(measured === undefined ? {} : { measured }),
});

test("mean, root mean square, its share of the range, and the largest with its line", () => {
  expect(differencesOf([point(2, 3, 2), point(3, 5, 8), point(4, 9), point(5, 12, 12)])).toMatchObject({
    count: 3,
    mean: expect.closeTo(-2 / 3, 14),
    rms: expect.closeTo(Math.sqrt(10 / 3), 14),
    ofRange: expect.closeTo(Math.sqrt(10 / 3) / 10, 14),
    worst: { difference: -3, line: 3 },
  });
});

test("where nothing was measured there is none; of one reading there is no range", () => {
  expect(differencesOf([point(2, 3)])).toBeUndefined();
  expect(differencesOf([point(2, 3, 1)])?.ofRange).toBe(0);
});
