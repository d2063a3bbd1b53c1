import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { clipPolygons } from "./clipPolygons.ts";
import { boxFaces, polygons } from "./made.ts";
import { areaVector } from "./surface.ts";
import { at, dot, plus, size, type Vector } from "./vector.ts";

const base = polygons(boxFaces([0, 0, 0], [2, 1, 1], 3), [{ name: "k", components: 2, values: Float64Array.from({ length: 108 }, (_, k) => k) }]);
const box = {
  ...base,
  onPoints: [
    {
      name: "f",
      components: 1,
      values: Float64Array.from({ length: base.points.length / 3 }, (_, q) => base.points[3 * q] - 3 * base.points[3 * q + 1]),
    },
  ],
};

const areas = (grid: typeof box) =>
  Array.from(grid.kinds.keys(), (c) =>
    areaVector(Array.from(grid.corners.subarray(grid.cellStart[c], grid.cellStart[c + 1]), (q) => at(grid.points, q))),
  );

describe("polygons cut off at a plane", () => {
  const number = fc.double({ min: -1, max: 1, noNaN: true });
  test("lie below it, lose no area that does, and carry linear values over exactly", () => {
    fc.assert(
      fc.property(number, number, number, fc.double({ min: -1, max: 2, noNaN: true }), (a, b, c, offset) => {
        const normal: Vector = [a, b, c];
        fc.pre(size(normal) > 0.2);
        const side = (sign: number) => clipPolygons(box, (q) => sign * (dot(normal, at(box.points, q)) - offset)).grid as typeof box;
        const [below, above] = [side(1), side(-1)];
        for (const q of below.corners) expect(dot(normal, at(below.points, q))).toBeLessThanOrEqual(offset + 1e-12);
        const total = [...areas(below), ...areas(above)].reduce((s, v) => s + size(v), 0);
        expect(total).toBeCloseTo(
          areas(box).reduce((s, v) => s + size(v), 0),
          9,
        );
        expect(size([...areas(below), ...areas(above)].reduce(plus))).toBeLessThan(1e-9);
        for (const q of below.corners) expect(below.onPoints[0].values[q]).toBeCloseTo(below.points[3 * q] - 3 * below.points[3 * q + 1], 12);
      }),
    );
  });
  test("say where they come from, with the values of those; a plane past all of them leaves all or none", () => {
    const { grid, from } = clipPolygons(box, (q) => box.points[3 * q] - 0.1);
    expect(from.length).toBeLessThan(54);
    from.forEach((c, k) => {
      expect([...grid.onCells[0].values.subarray(2 * k, 2 * k + 2)]).toEqual([2 * c, 2 * c + 1]);
    });
    expect(clipPolygons(box, () => 1).from).toHaveLength(0);
    expect(clipPolygons(box, () => -1).grid.corners).toEqual(box.corners);
    // In the plane is below it.
    expect(clipPolygons(box, () => 0).from).toHaveLength(54);
  });
});
