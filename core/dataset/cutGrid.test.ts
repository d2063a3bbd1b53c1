import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { planeGrid } from "../intake/planeGrid.ts";
import { cutGrid, NoCut } from "./cutGrid.ts";
import type { Grid } from "./grid.ts";
import { polygons } from "./surfaceForTests.ts";

const HEXAHEDRON = 12;
const TETRAHEDRON = 10;

/** n by n by n hexahedra in a cube of side 2, each point moved by up to `jitter` of a side inside; or each as six tetrahedra. */
function cube(n: number, jitter = 0, split = false): Grid {
  const at = (i: number, j: number, k: number) => i + (n + 1) * (j + (n + 1) * k);
  const points: number[] = [];
  for (let k = 0; k <= n; k++)
    for (let j = 0; j <= n; j++)
      for (let i = 0; i <= n; i++)
        [i, j, k].forEach((m, d) => {
          const inner = [i, j, k].every((x) => x > 0 && x < n);
          points.push((2 * (m + (inner ? jitter * Math.sin(7 * i + 13 * j + 29 * k + 5 * d) : 0))) / n);
        });
  const corners: number[] = [];
  const start = [0];
  for (let k = 0; k < n; k++)
    for (let j = 0; j < n; j++)
      for (let i = 0; i < n; i++) {
        const c = [
          at(i, j, k),
          at(i + 1, j, k),
          at(i + 1, j + 1, k),
          at(i, j + 1, k),
          at(i, j, k + 1),
          at(i + 1, j, k + 1),
          at(i + 1, j + 1, k + 1),
          at(i, j + 1, k + 1),
        ];
        const parts = split
          ? [
              [0, 1, 2, 6],
              [0, 2, 3, 6],
              [0, 3, 7, 6],
              [0, 7, 4, 6],
              [0, 4, 5, 6],
              [0, 5, 1, 6],
            ].map((t) => t.map((q) => c[q]))
          : [c];
        for (const p of parts) {
          corners.push(...p);
          start.push(corners.length);
        }
      }
  const cells = start.length - 1;
  const linear = (q: number) => 1 + points[3 * q] + 10 * points[3 * q + 1] + 100 * points[3 * q + 2];
  return {
    ...polygons([]),
    points: Float64Array.from(points),
    kinds: new Uint8Array(cells).fill(split ? TETRAHEDRON : HEXAHEDRON),
    cellStart: Int32Array.from(start),
    corners: Int32Array.from(corners),
    onPoints: [{ name: "p", components: 1, values: Float64Array.from({ length: points.length / 3 }, (_, q) => linear(q)) }],
    onCells: [{ name: "U", components: 3, values: Float64Array.from({ length: 3 * cells }, (_, k) => k) }],
  };
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
          const cut = cutGrid(cube(3, split ? jitter : 0, split), axis as 0 | 1 | 2, at);
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
  test("through a layer of faces it gives the faces below, once, with the values of the cells below", () => {
    const cut = cutGrid(cube(2), 2, 1);
    expect(cut.kinds).toHaveLength(4);
    expect([...cut.onCells[0].values]).toEqual(Array.from({ length: 12 }, (_, k) => k));
    expect(planeGrid(cut).mesh.cellCount).toBe(4);
    expect(cut.notes.at(-1)).toBe("Cut at z 1 of the file's unit of length: 4 of 8 cells lie there.");
  });
  test("hexahedra that are bent are cut without gaps too", () => {
    const { mesh } = planeGrid(cutGrid(cube(5, 0.15), 0, 0.83));
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
    const cut = cutGrid({ ...hexahedron, kinds: Uint8Array.of(42), polyhedra: new Map([[0, faces]]) }, 1, 0.5);
    expect(planeGrid(cut).mesh.volumeM2[0]).toBeCloseTo(4, 12);
  });
  test.each([2.5, -1, 0])("at z %d there is no cell to cut", (at) => {
    expect(() => cutGrid(cube(2), 2, at)).toThrow(NoCut);
    expect(() => cutGrid(cube(2), 2, at)).toThrow("the cells reach from 0 to 2");
  });
});
