import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { planeGrid } from "../intake/planeGrid.ts";
import { cellTree } from "./cellTree.ts";
import { acrossAxis, cutGrid, NoCut } from "./cutGrid.ts";
import type { Grid } from "./grid.ts";
import { hexahedra } from "./made.ts";
import { areaVector } from "./surface.ts";
import { asTetrahedra } from "./tetrahedraForTests.ts";
import { cross, dot, minus, plus, size, times, type Vector } from "./vector.ts";

/** n by n by n hexahedra in a cube of side 2, each point moved by up to `jitter` of a side inside; or each as six tetrahedra. */
function cube(n: number, jitter = 0, split = false): Grid {
  const whole = hexahedra([n, n, n], (i, j, k) => {
    const inner = [i, j, k].every((x) => x > 0 && x < n);
    return [i, j, k].map((m, d) => (2 * (m + (inner ? jitter * Math.sin(7 * i + 13 * j + 29 * k + 5 * d) : 0))) / n) as unknown as Vector;
  });
  const { points } = whole;
  const grid = split ? asTetrahedra(whole) : whole;
  const linear = (q: number) => 1 + points[3 * q] + 10 * points[3 * q + 1] + 100 * points[3 * q + 2];
  return {
    ...grid,
    onPoints: [{ name: "p", components: 1, values: Float64Array.from({ length: points.length / 3 }, (_, q) => linear(q)) }],
    onCells: [{ name: "U", components: 3, values: Float64Array.from({ length: 3 * grid.kinds.length }, (_, k) => k) }],
  };
}

/** Area in which a plane meets a cube of side 2, from the places where it meets the cube's edges. */
function sectionOfCube(normal: Vector, through: Vector): number {
  const n = times(normal, 1 / size(normal));
  const met: Vector[] = [];
  for (const d of [0, 1, 2])
    for (const u of [0, 2])
      for (const v of [0, 2]) {
        const at = [0, 0, 0];
        [at[(d + 1) % 3], at[(d + 2) % 3]] = [u, v];
        at[d] = (dot(n, through) - n[(d + 1) % 3] * u - n[(d + 2) % 3] * v) / n[d];
        if (at[d] >= 0 && at[d] <= 2) met.push(at as unknown as Vector);
      }
  const middle = times(met.reduce(plus, [0, 0, 0]), 1 / met.length);
  const first = minus(met[0], middle);
  const turn = (p: Vector) => Math.atan2(dot(cross(first, minus(p, middle)), n), dot(first, minus(p, middle)));
  return size(areaVector([...met].sort((p, q) => turn(p) - turn(q))));
}

describe("a grid cut with a plane", () => {
  test("fills the cross-section without gaps, as a plane mesh, wherever it is cut and whatever the cells; a linear field is exact", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(0, 1, 2),
        fc.double({ min: 0.01, max: 2, noNaN: true }),
        fc.boolean(),
        fc.double({ min: 0, max: 0.2, noNaN: true }),
        (axis, at, split, jitter) => {
          const cut = cutGrid(cube(3, split ? jitter : 0, split), acrossAxis(axis as 0 | 1 | 2, at));
          const { mesh, cornersOf } = planeGrid(cut);
          expect(mesh.volumeM2.reduce((s, v) => s + v, 0)).toBeCloseTo(4, 9);
          expect(cornersOf.every((c) => c.length >= 3)).toBe(true);
          const [p] = cut.onPoints;
          for (let q = 0; q < cut.points.length / 3; q++) {
            expect(cut.points[3 * q + axis]).toBe(at);
            expect(p.values[q]).toBeCloseTo(1 + cut.points[3 * q] + 10 * cut.points[3 * q + 1] + 100 * cut.points[3 * q + 2], 9);
          }
        },
      ),
      { numRuns: 60 },
    );
  });
  test("askew it fills the section as well, and a tree finds the same polygons as asking every cell", () => {
    const number = fc.double({ min: -1, max: 1, noNaN: true });
    fc.assert(
      fc.property(number, number, number, fc.double({ min: 0.3, max: 1.7, noNaN: true }), fc.boolean(), (a, b, c, at, split) => {
        fc.pre(Math.hypot(a, b, c) > 0.1);
        const grid = cube(3, split ? 0.15 : 0, split);
        const plane = { normal: [a, b, c], through: [at, 1, 1] } as const;
        const cut = cutGrid(grid, plane);
        const found = cutGrid(grid, plane, cellTree(grid));
        const [areaOfAll, areaFound] = [cut, found].map((g) => planeGrid(g).mesh.volumeM2.reduce((s, v) => s + v, 0));
        expect(areaFound).toBeCloseTo(areaOfAll, 9);
        expect(areaOfAll).toBeCloseTo(sectionOfCube([a, b, c], [at, 1, 1]), 7);
      }),
      { numRuns: 60 },
    );
  });
  test("its words are those of the axis, or of the direction across it", () => {
    const grid = cube(2);
    expect(cutGrid(grid, { normal: [1, 1, 0], through: [1, 1, 1] }).notes.at(-1)).toBe(
      "Cut at the plane through (1, 1, 1) across (1, 1, 0) of the file's unit of length: 4 of 8 cells lie there.",
    );
    expect(() => cutGrid(grid, { normal: [1, 1, 0], through: [5, 5, 5] })).toThrow("The plane through (5, 5, 5) across (1, 1, 0) cuts no cell");
    expect(() => cutGrid({ ...grid, kinds: grid.kinds.map(() => 7) }, acrossAxis(0, 1))).toThrow("no cell in space that could be cut");
    expect(() => cutGrid(grid, { normal: [0, 0, 0], through: [1, 1, 1] })).toThrow(RangeError);
  });
  test("through a layer of faces it gives the faces below, once, with the values of the cells below", () => {
    const cut = cutGrid(cube(2), acrossAxis(2, 1));
    expect(cut.kinds).toHaveLength(4);
    expect([...cut.onCells[0].values]).toEqual(Array.from({ length: 12 }, (_, k) => k));
    expect(planeGrid(cut).mesh.cellCount).toBe(4);
    expect(cut.notes.at(-1)).toBe("Cut at z 1 of the file's unit of length: 4 of 8 cells lie there.");
  });
  test("hexahedra that are bent are cut without gaps too", () => {
    const { mesh } = planeGrid(cutGrid(cube(5, 0.15), acrossAxis(0, 0.83)));
    expect(mesh.volumeM2.reduce((s, v) => s + v, 0)).toBeCloseTo(4, 9);
  });
  test("a polyhedron is cut by its own faces", () => {
    const hexahedron = cube(1);
    const faces = [
      [0, 2, 3, 1],
      [4, 5, 7, 6],
      [0, 1, 5, 4],
      [1, 3, 7, 5],
      [3, 2, 6, 7],
      [2, 0, 4, 6],
    ];
    const cut = cutGrid({ ...hexahedron, kinds: Uint8Array.of(42), polyhedra: new Map([[0, faces]]) }, acrossAxis(1, 0.5));
    expect(planeGrid(cut).mesh.volumeM2[0]).toBeCloseTo(4, 12);
  });
  test.each([2.5, -1, 0])("at z %d there is no cell to cut", (at) => {
    expect(() => cutGrid(cube(2), acrossAxis(2, at))).toThrow(NoCut);
    expect(() => cutGrid(cube(2), acrossAxis(2, at))).toThrow("the cells reach from 0 to 2");
  });
});
