import { describe, expect, test } from "vitest";
import type { Grid } from "../dataset/grid.ts";
import { hexahedra } from "../dataset/made.ts";
import { Volume } from "./volume.ts";
import { NoDifference, volumeDifference } from "./volumeDifference.ts";

/** n hexahedra a side of the unit cube, from `low`, with a field on points and one on cells. */
function made(n: number, factor: number, low = 0): Volume {
  const base = hexahedra([n, n, n], (i, j, k) => [low + i / n, j / n, k / n]);
  const p = Float64Array.from({ length: base.points.length / 3 }, (_, q) => factor * (base.points[3 * q] + 2 * base.points[3 * q + 2]));
  const grid: Grid = {
    ...base,
    onPoints: [{ name: "p, Pa", components: 1, values: p }],
    onCells: [{ name: "c", components: 1, values: new Float64Array(n ** 3).fill(factor) }],
  };
  return new Volume(grid);
}
const p = { name: "p, Pa", on: "points" } as const;

describe("the difference of two results", () => {
  test("on one mesh is taken entry by entry", () => {
    const { array, on, made: words } = volumeDifference(made(3, 5), made(3, 2), p, "Pa", "coarse");
    expect([array.name, on]).toEqual(["p less coarse, Pa", "points"]);
    expect(words).toContain("point by point: the meshes are one");
    array.values.forEach((v, q) => {
      expect(v).toBeCloseTo(3 * (made(3, 5).grid.points[3 * q] + 2 * made(3, 5).grid.points[3 * q + 2]), 12);
    });
    expect(volumeDifference(made(3, 5), made(3, 2), { name: "c", on: "cells" }, "", "b").array.values.every((v) => v === 3)).toBe(true);
  });
  test("on two meshes what is linear is met exactly; what lies beside the other is left open and counted", () => {
    const { array, made: words } = volumeDifference(made(4, 3, 0.25), made(3, 3), p, "Pa", "other");
    const open = array.values.filter((v) => Number.isNaN(v)).length;
    expect(open).toBe(25);
    expect(words).toContain("25 of 125 points lie in none of its cells");
    for (const v of array.values) if (!Number.isNaN(v)) expect(v).toBeCloseTo(0, 9);
    expect(volumeDifference(made(2, 1), made(3, 4), { name: "c", on: "cells" }, "", "b")).toMatchObject({
      on: "points",
      made: expect.stringContaining("brought to points first"),
    });
  });
  test("what has no other side is refused in a sentence", () => {
    expect(() => volumeDifference(made(2, 1), made(2, 1, 9), p, "Pa", "far")).toThrow("No point of the one mesh lies in a cell of far");
    const without = new Volume({ ...made(2, 1).grid, onPoints: [] });
    expect(() => volumeDifference(made(2, 1), without, p, "Pa", "b")).toThrow(NoDifference);
    const vector = new Volume({ ...made(2, 1).grid, onPoints: [{ name: "p, Pa", components: 3, values: new Float64Array(81) }] });
    expect(() => volumeDifference(made(2, 1), vector, p, "Pa", "b")).toThrow("has 1 components here and 3 there");
  });
});
