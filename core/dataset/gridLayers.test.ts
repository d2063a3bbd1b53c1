import { describe, expect, test } from "vitest";
import type { Grid } from "./grid.ts";
import { gridFaces } from "./gridFaces.ts";
import { gridLayers } from "./gridLayers.ts";
import { hexahedra } from "./made.ts";
import { cellMiddles } from "./pointValues.ts";
import { asTetrahedra } from "./tetrahedraForTests.ts";

/** 6 x 4 columns of cells; heights from `first(i)` upwards grow by 1.2, seven of them. */
const columns = (first: (i: number) => number) =>
  hexahedra([6, 4, 7], (i, j, k) => [i, j, first(i) * Array.from({ length: k }, (_, m) => 1.2 ** m).reduce((s, h) => s + h, 0)]);
const layersOf = (grid: Grid) => gridLayers(grid, gridFaces(grid), cellMiddles(grid));
const onPlane = (grid: Grid, axis: number, at: number) =>
  Int32Array.from({ length: grid.points.length / 3 }, (_, q) => q).filter((q) => Math.abs(grid.points[3 * q + axis] - at) < 1e-12);

describe("layers along the parts of an outside", () => {
  test("are told by the file's names, with heights, numbers and growth, and nothing of what has no name", () => {
    const plain = columns(() => 0.1);
    const grid: Grid = {
      ...plain,
      boundaries: [
        { name: "floor", points: onPlane(plain, 2, 0) },
        { name: "end", points: onPlane(plain, 0, 6) },
      ],
    };
    const [floor, end, ...none] = layersOf(grid);
    expect(none).toEqual([]);
    expect(floor).toMatchObject({ name: "floor", faces: 24, cells: 24, layered: 24, layers: { least: 7, median: 7, greatest: 7 } });
    expect(floor.height).toEqual({ least: expect.closeTo(0.1, 12), median: expect.closeTo(0.1, 12), greatest: expect.closeTo(0.1, 12) });
    expect(floor.growth?.greatest).toBeCloseTo(1.2, 9);
    expect(end).toMatchObject({ name: "end", faces: 28, cells: 28, layered: 28, layers: { least: 6, greatest: 6 } });
    expect(end.growth?.greatest).toBeCloseTo(1, 12);
  });
  test("the thinnest and the steepest are placed", () => {
    // Between points the heights are linear along x: the first column is the thinnest.
    const plain = columns((i) => 0.1 + 0.01 * i);
    const [floor] = layersOf({ ...plain, boundaries: [{ name: "floor", points: onPlane(plain, 2, 0) }] });
    expect(floor.height?.least).toBeCloseTo(0.105, 3);
    expect(floor.height?.greatest).toBeCloseTo(0.155, 3);
    expect(floor.thinnest?.cell).toBeLessThan(24);
    expect(floor.thinnest?.at[0]).toBeCloseTo(0.5, 1);
  });
  test("without names all of the outside counts, each cell by the way it is thinnest", () => {
    const [all, ...none] = layersOf(columns(() => 0.1));
    expect(none).toEqual([]);
    expect(all).toMatchObject({ name: "", faces: 2 * (24 + 42 + 28), cells: 6 * 4 * 7 - 4 * 2 * 5 });
    expect(all.height?.least).toBeCloseTo(0.1, 9);
  });
  test("tetrahedra have none, and that is said", () => {
    const [all] = layersOf(asTetrahedra(columns(() => 0.1)));
    expect(all.layered).toBe(0);
    expect(Object.keys(all)).toEqual(["name", "faces", "cells", "layered"]);
  });
});
