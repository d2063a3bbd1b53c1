import { describe, expect, test } from "vitest";
import { cutGrid } from "./cutGrid.ts";
import type { Grid } from "./grid.ts";
import { hexahedra } from "./made.ts";
import { cellMiddles } from "./pointValues.ts";
import { integralOver } from "./polygonIntegrals.ts";
import type { Vector } from "./vector.ts";

/** 4 x 4 x 4 bent hexahedra in a cube of side 2, a linear pressure on points, and on cells a velocity of (1, 2, 3) everywhere. */
const base = hexahedra([4, 4, 4], (i, j, k) => {
  const inner = [i, j, k].every((m) => m > 0 && m < 4);
  return [i, j, k].map((m, d) => m / 2 + (inner ? 0.06 * Math.sin(3 * i + 5 * j + 7 * k + d) : 0)) as unknown as Vector;
});
const grid: Grid = {
  ...base,
  onPoints: [
    {
      name: "p",
      components: 1,
      values: Float64Array.from({ length: base.points.length / 3 }, (_, q) => 1 + base.points[3 * q] + 4 * base.points[3 * q + 1]),
    },
  ],
  onCells: [
    { name: "U", components: 3, values: Float64Array.from({ length: 3 * 64 }, (_, k) => 1 + (k % 3)) },
    { name: "x", components: 1, values: cellMiddles(base).filter((_, k) => k % 3 === 0) },
  ],
};

describe("a field over the polygons of a cut", () => {
  test("a linear one has its value in the middle for mean, whatever the cells; what goes through is the area times the part across it", () => {
    const normal: Vector = [0, 0, 2];
    const cut = cutGrid(grid, { normal, through: [1, 1, 0.7] });
    const p = integralOver(cut, cut.onPoints[0], "points", normal);
    expect([p.area, p.mean[0], p.gaps]).toEqual([expect.closeTo(4, 9), expect.closeTo(6, 9), 0]);
    expect(p.through).toBeUndefined();
    expect(integralOver(cut, cut.onCells[0], "cells", normal)).toMatchObject({
      through: expect.closeTo(12, 9),
      mean: [1, 2, 3].map((v) => expect.closeTo(v, 12)),
    });
    expect(integralOver(cut, cut.onCells[0], "cells", [0, 0, -1]).through).toBeCloseTo(-12, 9);
  });
  test("askew what goes through both halves of a closed section adds up", () => {
    const normal: Vector = [1, 1, 0];
    const cut = cutGrid(grid, { normal, through: [1, 1, 1] });
    const u = integralOver(cut, cut.onCells[0], "cells", normal);
    expect(u.area).toBeCloseTo(2 * 2 * Math.SQRT2, 9);
    expect(u.through).toBeCloseTo((2 * 2 * Math.SQRT2 * 3) / Math.SQRT2, 9);
  });
  test("polygons without a value are counted apart", () => {
    const cut = cutGrid(grid, { normal: [1, 0, 0], through: [1.1, 1, 1] });
    const values = cut.onCells[1].values.slice();
    values[0] = Number.NaN;
    const found = integralOver(cut, { name: "x", components: 1, values }, "cells", [1, 0, 0]);
    expect(found.gaps).toBeGreaterThan(0);
    expect(found.mean[0]).toBeGreaterThan(1);
    expect(integralOver(cut, { name: "x", components: 1, values: values.fill(Number.NaN) }, "cells", [1, 0, 0]).mean[0]).toBeNaN();
  });
});
