import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { eigenvaluesSymmetric3, solveSymmetric3 } from "./symmetric3.ts";

const number = fc.double({ min: -10, max: 10, noNaN: true });

describe("three equations with a symmetric matrix", () => {
  test("are solved: the answer gives the right side back", () => {
    fc.assert(
      fc.property(fc.array(number, { minLength: 9, maxLength: 9 }), fc.array(number, { minLength: 3, maxLength: 3 }), (a, b) => {
        // a times its transpose has no negative eigenvalue; the addition keeps it away from nothing.
        const m = [0, 1, 2].map((i) => [0, 1, 2].map((j) => [0, 1, 2].reduce((s, k) => s + a[3 * i + k] * a[3 * j + k], i === j ? 1 : 0)));
        const out = new Float64Array(5);
        solveSymmetric3(Float64Array.of(m[0][0], m[0][1], m[0][2], m[1][1], m[1][2], m[2][2]), Float64Array.from([9, ...b]), 1, out, 2);
        m.forEach((row, i) => {
          expect(row.reduce((s, v, j) => s + v * out[2 + j], 0)).toBeCloseTo(b[i], 6);
        });
      }),
    );
  });
  test("without one answer they have none", () => {
    const out = new Float64Array(3);
    solveSymmetric3(Float64Array.of(1, 1, 0, 1, 0, 1), Float64Array.of(1, 2, 3), 0, out, 0);
    expect([...out]).toEqual([Number.NaN, Number.NaN, Number.NaN]);
  });
});

describe("eigenvalues of a symmetric matrix", () => {
  test.each([
    [
      [3, 0, 0, 1, 0, 2],
      [3, 2, 1],
    ],
    [
      [2, 1, 0, 2, 0, 5],
      [5, 3, 1],
    ],
    [
      [4, 0, 0, 4, 0, 4],
      [4, 4, 4],
    ],
    [
      [0, 1, 1, 0, 1, 0],
      [2, -1, -1],
    ],
  ])("of %j are %j", (m, expected) => {
    const found = eigenvaluesSymmetric3(...(m as [number, number, number, number, number, number]));
    found.forEach((v, k) => {
      expect(v).toBeCloseTo(expected[k], 7);
    });
  });
  test("add up to the trace, multiply to the determinant, and come greatest first", () => {
    fc.assert(
      fc.property(number, number, number, number, number, number, (xx, xy, xz, yy, yz, zz) => {
        const [a, b, c] = eigenvaluesSymmetric3(xx, xy, xz, yy, yz, zz);
        expect(a + b + c).toBeCloseTo(xx + yy + zz, 9);
        expect(a * b * c).toBeCloseTo(xx * (yy * zz - yz * yz) - xy * (xy * zz - yz * xz) + xz * (xy * yz - yy * xz), 5);
        expect(a).toBeGreaterThanOrEqual(b - 1e-9);
        expect(b).toBeGreaterThanOrEqual(c - 1e-9);
      }),
    );
  });
});
