import { describe, expect, test } from "vitest";
import { leastSquaresLine } from "./fits.ts";

describe("a constant and columns through values", () => {
  test("three values that miss a line by 1, -2, 1 sixths: one degree of freedom is left", () => {
    // Through (0, 0), (1, 0), (2, 1): slope 1/2, constant -1/6; what is left over is 1/6, -1/3, 1/6.
    const fit = leastSquaresLine([[0, 1, 2]], [0, 0, 1]);
    expect(fit?.coefficients[0]).toBeCloseTo(-1 / 6, 12);
    expect(fit?.coefficients[1]).toBeCloseTo(1 / 2, 12);
    expect(fit?.deviation).toBeCloseTo(Math.sqrt(1 / 6), 12);
  });
  test("four values about the same line: two are left", () => {
    const fit = leastSquaresLine([[-1, -1, 1, 1]], [1, 3, 5, 7]);
    expect(fit?.coefficients.map((a) => Math.round(1e9 * a) / 1e9)).toEqual([4, 2]);
    // Four residuals of one, over two degrees of freedom.
    expect(fit?.deviation).toBeCloseTo(Math.sqrt(2), 12);
  });
  test("as many values as unknowns: the line goes through them, and nothing is said to be left over", () => {
    const fit = leastSquaresLine([[1, 2]], [5, 7]);
    expect(fit?.coefficients.map((a) => Math.round(1e9 * a) / 1e9)).toEqual([3, 2]);
    expect(fit?.deviation).toBe(0);
  });
  test("fewer values than unknowns, and columns that are the same, have none", () => {
    expect(leastSquaresLine([[1]], [5])).toBeUndefined();
    expect(
      leastSquaresLine(
        [
          [1, 2, 3],
          [2, 4, 6],
        ],
        [1, 2, 4],
      ),
    ).toBeUndefined();
  });
});
