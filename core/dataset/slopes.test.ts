import { describe, expect, test } from "vitest";
import type { Grid } from "./grid.ts";
import { hexahedra } from "./made.ts";
import { cellMiddles } from "./pointValues.ts";
import { SlopeWork, slopesOf } from "./slopes.ts";
import { asTetrahedra } from "./tetrahedraForTests.ts";
import type { Vector } from "./vector.ts";

/** n hexahedra a side from 0 to 1, every point moved; or each as six tetrahedra. */
function cube(n: number, moved: number, split = false): Grid {
  const grid = hexahedra([n, n, n], (i, j, k) => [i, j, k].map((m, d) => m / n + moved * Math.sin(3 * i + 5 * j + 7 * k + d)) as unknown as Vector);
  return split ? asTetrahedra(grid) : grid;
}

const linear = ([x, y, z]: Vector): Vector => [1 + 2 * x - y + 3 * z, -x + 0.5 * z, 4 * y];
const SLOPES = [2, -1, 3, -1, 0, 0.5, 0, 4, 0];
const at = (list: Float64Array, k: number): Vector => [list[3 * k], list[3 * k + 1], list[3 * k + 2]];

describe("slopes in cells in space", () => {
  test.each([
    ["points", false],
    ["points", true],
    ["cells", false],
    ["cells", true],
  ] as const)("of a field linear in space are exact, from %s, tetrahedra: %s", (on, split) => {
    const grid = cube(4, 0.03, split);
    const places = on === "points" ? grid.points : cellMiddles(grid);
    const values = Float64Array.from({ length: places.length / 3 }, (_, k) => k);
    const found = slopesOf(
      new SlopeWork(grid),
      { name: "U", components: 3, values: Float64Array.from([...values].flatMap((k) => [...linear(at(places, k))])) },
      on,
    );
    expect(found).toHaveLength(9 * grid.kinds.length);
    found.forEach((v, k) => {
      expect(v).toBeCloseTo(SLOPES[k % 9], 9);
    });
  });
  test.each(["points", "cells"] as const)("of a smooth field are met with the first order at least, from %s", (on) => {
    const worst = (n: number) => {
      const grid = cube(n, 0);
      const places = on === "points" ? grid.points : cellMiddles(grid);
      const values = Float64Array.from({ length: places.length / 3 }, (_, k) => Math.sin(2 * places[3 * k]) * Math.cos(places[3 * k + 1]));
      const found = slopesOf(new SlopeWork(grid), { name: "f", components: 1, values }, on);
      const middles = cellMiddles(grid);
      return Math.max(
        ...Array.from(grid.kinds.keys(), (c) => Math.abs(found[3 * c] - 2 * Math.cos(2 * middles[3 * c]) * Math.cos(middles[3 * c + 1]))),
      );
    };
    expect(Math.log2(worst(6) / worst(12))).toBeGreaterThan(on === "points" ? 1.8 : 0.9);
  });
  test("a cell without neighbours has none from cells, and cells that are not in space have none at all", () => {
    const lone = cube(1, 0);
    expect([...slopesOf(new SlopeWork(lone), { name: "f", components: 1, values: Float64Array.of(3) }, "cells")]).toEqual([
      Number.NaN,
      Number.NaN,
      Number.NaN,
    ]);
    const flat = { ...lone, kinds: Uint8Array.of(7) };
    expect(() => slopesOf(new SlopeWork(flat), { name: "f", components: 1, values: new Float64Array(8) }, "points")).toThrow("no cell in space");
  });
  test("the middle of a cell is that of its volume, not of its corners", () => {
    // A frustum: its square base has four times the area of its top.
    const grid = hexahedra([1, 1, 1], (i, j, k) => [(2 * i - 1) * (2 - k), (2 * j - 1) * (2 - k), k]);
    expect(cellMiddles(grid)[2]).toBeCloseTo((4 + 2 * 2 + 3 * 1) / (4 * (4 + 2 + 1)), 12);
  });
});
