import fc from "fast-check";
import { expect, test } from "vitest";
import { boxFaces, polygons } from "./made.ts";
import { Feet, fromTriangle } from "./nearestFace.ts";
import { stitch } from "./stitch.ts";
import { at, minus, plus, size, times, type Vector } from "./vector.ts";

const number = fc.double({ min: -2, max: 2, noNaN: true });
const vector = fc.tuple(number, number, number) as fc.Arbitrary<Vector>;

test("no point of the triangle is nearer, and one is as near", () => {
  fc.assert(
    fc.property(vector, vector, vector, vector, (x, a, b, c) => {
      const found = fromTriangle(x, [a, b, c]);
      const n = 24;
      let least = Number.POSITIVE_INFINITY;
      for (let i = 0; i <= n; i++)
        for (let j = 0; i + j <= n; j++) {
          const p = plus(plus(times(a, i / n), times(b, j / n)), times(c, 1 - (i + j) / n));
          least = Math.min(least, size(minus(x, p)));
        }
      const spacing = Math.max(size(minus(a, b)), size(minus(b, c)), size(minus(c, a))) / n;
      expect(found).toBeLessThanOrEqual(least + 1e-9);
      expect(found).toBeGreaterThanOrEqual(least - spacing);
    }),
  );
});

test("corners, edges and the inside by hand", () => {
  const t = [
    [0, 0, 0],
    [2, 0, 0],
    [0, 2, 0],
  ] as const;
  expect([fromTriangle([-3, -4, 0], t), fromTriangle([1, -2, 0], t), fromTriangle([2, 2, 0], t), fromTriangle([0.5, 0.5, 7], t)]).toEqual([
    5,
    2,
    expect.closeTo(Math.SQRT2, 14),
    7,
  ]);
});

test("a side of one face is found anywhere on it, however near the middles of others are", () => {
  const { surface } = stitch(polygons(boxFaces([0, 0, 0], [10, 1, 1], 1)));
  const feet = new Feet(surface);
  expect(feet.of([9.9, 0.5, 1]).face).toBe(5);
  expect(feet.of([10, 0.5, 0.5]).face).toBe(1);
});

test("the foot is where its corners' shares say, as far as it says, and no face is nearer", () => {
  const { surface } = stitch(polygons(boxFaces([0, 0, 0], [2, 1, 0.5], 3)));
  const feet = new Feet(surface);
  fc.assert(
    fc.property(vector, (x) => {
      const { corners, weights, apart } = feet.of(x);
      expect(weights.reduce((s, w) => s + w, 0)).toBeCloseTo(1, 12);
      const foot = corners.reduce<Vector>((s, k, i) => plus(s, times(at(surface.points, surface.corners[k]), weights[i])), [0, 0, 0]);
      expect(size(minus(foot, x))).toBeCloseTo(apart, 10);
      // Of a box the distance from outside is known; inside it is that of the nearest side.
      const out = [2, 1, 0.5].map((side, d) => Math.max(-x[d], 0, x[d] - side));
      const within = [2, 1, 0.5].flatMap((side, d) => [x[d], side - x[d]]);
      const inside = within.every((v) => v >= 0);
      expect(apart).toBeCloseTo(inside ? Math.min(...within) : Math.hypot(...out), 10);
    }),
  );
});
