import { describe, expect, test } from "vitest";
import { cholesky } from "./cholesky.ts";
import { erfc } from "./errorFunction.ts";
import { normalQuantile } from "./normal.ts";
import { solveDense } from "./solveDense.ts";

describe("quantiles of the normal distribution", () => {
  // Wichura's own check values, and the tabulated 95 % bound.
  test.each([
    [0.25, -0.674489750196082],
    [0.001, -3.090232306167814],
    [1e-20, -9.26234008979841],
    [0.975, 1.959963984540054],
  ])("%d", (p, z) => expect(normalQuantile(p)).toBeCloseTo(z, 13));

  test("the distribution function takes them back, on both sides and in the tails", () => {
    for (const p of [1e-9, 1e-4, 0.03, 0.4, 0.5, 0.6, 0.97, 0.9999]) {
      const z = normalQuantile(p);
      expect((0.5 * erfc(-z / Math.SQRT2)) / p).toBeCloseTo(1, 6);
      expect(normalQuantile(1 - p)).toBeCloseTo(-z, 6);
    }
  });

  test.each([0, 1, -0.1, Number.NaN])("%d is no probability", (p) => expect(() => normalQuantile(p)).toThrow(RangeError));
});

describe("small systems", () => {
  test("are solved whatever the order of their rows; rows that say the same leave them unsolved", () => {
    const a = [
      [0, 2, 1],
      [1, -1, 0],
      [3, 0, -2],
    ];
    const x = [2, -1, 4];
    const b = a.map((row) => row.reduce((s, v, k) => s + v * x[k], 0));
    solveDense(a, b)?.forEach((v, k) => {
      expect(v).toBeCloseTo(x[k], 12);
    });
    expect(a[0]).toEqual([0, 2, 1]);
    expect(
      solveDense(
        [
          [1, 2],
          [2, 4],
        ],
        [1, 2],
      ),
    ).toBeUndefined();
  });

  test("a symmetric matrix is the square of its factor; one that would make a spread negative has none", () => {
    const a = [
      [1, 0.6, -0.3],
      [0.6, 1, 0.2],
      [-0.3, 0.2, 1],
    ];
    const l = cholesky(a) as number[][];
    const squared = l.map((row) => l.map((other) => row.reduce((s, q, k) => s + q * other[k], 0)));
    for (const [i, row] of a.entries()) for (const [j, v] of row.entries()) expect(squared[i][j]).toBeCloseTo(v, 14);
    expect(
      cholesky([
        [1, 1],
        [1, 1],
      ]),
    ).toEqual([
      [1, 0],
      [1, 0],
    ]);
    // Two that go with a third in opposite ways cannot go together.
    expect(
      cholesky([
        [1, 0.9, -0.9],
        [0.9, 1, 0.9],
        [-0.9, 0.9, 1],
      ]),
    ).toBeUndefined();
    expect(
      cholesky([
        [1, 1, 0.5],
        [1, 1, -0.5],
        [0.5, -0.5, 1],
      ]),
    ).toBeUndefined();
  });
});
