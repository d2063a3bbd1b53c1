import fc from "fast-check";
import { expect, test } from "vitest";
import { boxFaces, polygons } from "./made.ts";
import { stitch } from "./stitch.ts";
import { faceCount, type Surface } from "./surface.ts";
import { surfaceFlows } from "./surfaceFlows.ts";
import { at, dot, type Vector } from "./vector.ts";

const box = stitch(polygons(boxFaces([0, 0, 0], [2, 1, 3], 3)));
const scalar = (s: Surface, of: (x: Vector) => number) => ({
  on: "corners" as const,
  components: 1 as const,
  values: Float64Array.from(s.corners, (q) => of(at(s.points, q))),
});
const vector = (s: Surface, of: (x: Vector) => Vector) => ({
  on: "corners" as const,
  components: 3 as const,
  values: Float64Array.from([...s.corners].flatMap((q) => of(at(s.points, q)))),
});
const one = new Int32Array(faceCount(box.surface));
const number = fc.double({ min: -3, max: 3, noNaN: true });
const row = fc.tuple(number, number, number) as fc.Arbitrary<Vector>;

test("through a closed surface goes what the field gives out: the divergence of a linear velocity times the volume", () => {
  fc.assert(
    fc.property(row, row, row, row, (a, b, c, d) => {
      const velocity = vector(box.surface, (x) => [dot(a, x) + d[0], dot(b, x) + d[1], dot(c, x) + d[2]]);
      const [flow] = surfaceFlows(box.surface, { velocity, density: 1.5, sign: box.sign }, one, 1);
      expect(flow.volume).toBeCloseTo(6 * (a[0] + b[1] + c[2]), 9);
      expect(flow.mass).toBeCloseTo(1.5 * flow.volume, 9);
    }),
  );
});

test("momentum and means are exact where three linear fields are multiplied", () => {
  // The side at x = 2: u = (y, 0, 0), density 1 + z, temperature y, over y to 1 and z to 3.
  const velocity = vector(box.surface, ([, y]) => [y, 0, 0]);
  const density = scalar(box.surface, ([, , z]) => 1 + z);
  const side = Int32Array.from({ length: faceCount(box.surface) }, (_, f) => (box.geometry.middle[3 * f] > 1.999 ? 0 : -1));
  const [flow, rest] = surfaceFlows(box.surface, { velocity, density, scalar: scalar(box.surface, ([, y]) => y), sign: box.sign }, side, 1);
  expect(flow.mass).toBeCloseTo(0.5 * 7.5, 12);
  expect(flow.momentum).toEqual([expect.closeTo(7.5 / 3, 12), 0, 0]);
  expect(flow.meanByArea).toBeCloseTo(0.5, 12);
  expect(flow.meanByMass).toBeCloseTo(2 / 3, 12);
  expect(flow.massBack).toBe(0);
  expect(rest.mass).toBeCloseTo(-3.75, 12);
});

test("what comes back is counted apart; values on faces are taken as they are", () => {
  const side = Int32Array.from({ length: faceCount(box.surface) }, (_, f) => (box.geometry.middle[3 * f] > 1.999 ? 0 : -1));
  const values = Float64Array.from(
    Array.from({ length: faceCount(box.surface) }, (_, f) => [box.geometry.middle[3 * f + 2] < 1 ? -1 : 2, 0, 0]).flat(),
  );
  const [flow] = surfaceFlows(box.surface, { velocity: { on: "faces", components: 3, values }, density: 1, sign: box.sign }, side, 1);
  expect([flow.mass, flow.massBack, flow.massWithoutSign].map((v) => Math.round(v * 1e9) / 1e9)).toEqual([3, 1, 5]);
  expect(flow).not.toHaveProperty("meanByArea");
});
