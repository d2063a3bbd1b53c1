import { expect, test } from "vitest";
import { joined } from "../formats/vtk/readGrid.ts";
import type { Grid } from "./grid.ts";
import { gridFaces } from "./gridFaces.ts";
import { hexahedra } from "./made.ts";
import { weld } from "./weld.ts";

/** Two by two by two hexahedra beside one another, from x = `low`. */
const half = (low: number): Grid => {
  const base = hexahedra([2, 2, 2], (i, j, k) => [low + i, j, k]);
  return { ...base, onPoints: [{ name: "x", components: 1, values: Float64Array.from({ length: 27 }, (_, q) => base.points[3 * q]) }] };
};

test("pieces that share points meet: no face between them is outside, and values stay with their points", () => {
  const apart = joined([half(0), half(2)]);
  const one = weld(apart);
  const outside = (g: Grid) => gridFaces(g).neighbour.filter((c) => c < 0).length;
  expect([outside(apart), outside(one)]).toEqual([48, 40]);
  expect(one.points.length / 3).toBe(45);
  one.onPoints[0].values.forEach((v, q) => {
    expect(v).toBe(one.points[3 * q]);
  });
  expect(one.notes.at(-1)).toBe("9 points lay where another one does and were made one with it.");
});

test("a grid without double points is left as it is; faces of polyhedra follow", () => {
  const grid = half(0);
  expect(weld(grid)).toBe(grid);
  const twice = {
    ...grid,
    points: Float64Array.from([...grid.points, ...grid.points.subarray(0, 3)]),
    polyhedra: new Map([[0, [[27, 1, 2]]]]),
    onPoints: [],
  };
  expect(weld(twice).polyhedra.get(0)).toEqual([[0, 1, 2]]);
});
