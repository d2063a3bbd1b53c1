import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { boxFaces, hexahedra, polygons } from "./made.ts";
import { mergePoints } from "./mergePoints.ts";
import { stitch } from "./stitch.ts";
import { NoSurface, surfaceOf } from "./surface.ts";
import type { Vector } from "./vector.ts";

const BOX = boxFaces([1, 2, 3], [2, 1, 0.5], 4);

describe("points in the same place", () => {
  test("equal ones are one, in the order they were met", () => {
    const { place, places } = mergePoints(Float64Array.of(0, 0, 0, 1, 0, 0, 0, 0, 0, 1, 0, 1e-300), 0);
    expect([...place]).toEqual([0, 1, 0, 2]);
    expect([...places]).toEqual([0, 0, 0, 1, 0, 0, 1, 0, 1e-300]);
  });
  test("whatever the points are: jittered by less than the tolerance they are found again, also across sides of boxes", () => {
    const coordinate = fc.double({ min: -3, max: 3, noNaN: true }).map((v) => Math.round(v * 64) / 64);
    fc.assert(
      fc.property(
        fc.array(fc.tuple(coordinate, coordinate, coordinate), { minLength: 1, maxLength: 40 }),
        fc.integer({ min: 0, max: 1e6 }),
        (list, seed) => {
          // Multiples of 1/64 lie on sides of boxes of 1024 times this tolerance.
          const tolerance = 1 / 64 / 1024;
          const jitter = (k: number) => 0.4 * tolerance * Math.sin(seed + k);
          const twice = [...list, ...list.map((p, k) => p.map((v, d) => v + jitter(3 * k + d)) as unknown as typeof p)];
          const { place, places } = mergePoints(Float64Array.from(twice.flat()), tolerance);
          expect(places.length / 3).toBe(new Set(list.map((p) => p.map((v) => v + 0).join())).size);
          list.forEach((_, k) => {
            expect(place[k]).toBe(place[k + list.length]);
          });
        },
      ),
    );
  });
});

describe("the surface of a grid", () => {
  test("faces that have their own corners each are stitched; the area of a box is that of its sides", () => {
    const { surface, geometry, faults } = stitch(polygons(BOX));
    expect(surface.points.length / 3).toBe(6 * 9 + 12 * 3 + 8);
    expect(surface.notes[0]).toContain("286 of 384 points lie where another one does");
    expect(faults.shells).toHaveLength(1);
    expect(faults.shells[0].area).toBeCloseTo(2 * (2 * 1 + 1 * 0.5 + 0.5 * 2), 12);
    expect(faults.shells[0].volume).toBeCloseTo(1, 12);
    expect(faults.shells[0]).toMatchObject({ faces: 96, closed: true });
    expect(faults.shells[0].gap).toBeLessThan(1e-14);
    expect([...geometry.middle.subarray(0, 3)][0]).toBe(1);
  });
  test("a strip of triangles goes round one way; faces without an extent are left out and said", () => {
    const strip = { ...polygons([]), points: Float64Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 1, 0, 5, 5, 5) };
    const grid = { ...strip, kinds: Uint8Array.of(6, 5, 1), cellStart: Int32Array.of(0, 4, 7, 8), corners: Int32Array.of(0, 1, 2, 3, 0, 0, 1, 4) };
    const s = stitch(grid);
    expect([...s.geometry.area]).toEqual([0, 0, 0.5, 0, 0, 0.5]);
    expect([...s.surface.cellOf]).toEqual([0, 0]);
    expect(s.surface.notes.join(" ")).toContain("1 faces have fewer than three corners that differ");
    expect(s.surface.notes.join(" ")).toContain("1 cells of other kinds");
  });
  test("cells in space have an outside: two boxes side by side share no face of it", () => {
    const grid = hexahedra([2, 1, 1], (i, j, k) => [[0, 1, 3][i], j, k]);
    const { surface, faults } = stitch(grid);
    expect(surface.ofCells).toBe(true);
    expect(surface.cellOf).toHaveLength(10);
    expect(faults.shells[0].volume).toBeCloseTo(3, 12);
    expect([...surface.cellOf].filter((c) => c === 1)).toHaveLength(5);
  });
  test("a grid of points has none", () => {
    const grid = {
      ...polygons([]),
      points: Float64Array.of(0, 0, 0),
      kinds: Uint8Array.of(1),
      cellStart: Int32Array.of(0, 1),
      corners: Int32Array.of(0),
    };
    expect(() => surfaceOf(grid)).toThrow(NoSurface);
  });
});

describe("faults of a surface", () => {
  const without = (...gone: number[]) => BOX.filter((_, f) => !gone.includes(f));
  test("a missing piece leaves a rim, with its length and place, and the area vectors do not cancel", () => {
    const { faults } = stitch(polygons(without(5)));
    expect(faults.rims).toHaveLength(1);
    expect(faults.rims[0].edges).toBe(4);
    expect(faults.rims[0].length).toBeCloseTo(2 * (1 / 4 + 0.5 / 4), 12);
    expect(faults.rims[0].at[0]).toBe(1);
    expect(faults.shells[0]).not.toHaveProperty("volume");
    expect(faults.shells[0].gap).toBeCloseTo((1 * 0.5) / 16 / (7 - (1 * 0.5) / 16), 12);
  });
  test("faces turned over are found whichever they are, as long as they are the smaller part", () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 0, max: BOX.length - 1 }), { maxLength: 40 }), (chosen) => {
        const { faults } = stitch(polygons(BOX.map((f, k) => (chosen.includes(k) ? [...f].reverse() : f))));
        const area = chosen.reduce((s, k) => s + [0.5, 0.5, 1, 1, 2, 2][Math.floor(k / 16)] / 16, 0);
        fc.pre(area < 3.4);
        expect(faults.turned).toEqual([...chosen].sort((a, b) => a - b));
        expect(faults.shells[0].volume).toBeCloseTo(1, 12);
        expect(faults.oneSided).toBe(0);
      }),
    );
  });
  test("two bodies are two shells; one whose normals point inwards has a negative volume", () => {
    const other = boxFaces([10, 0, 0], [1, 1, 1], 2).map((f) => [...f].reverse());
    const { faults } = stitch(polygons([...BOX, ...other]));
    expect(faults.shells.map((s) => Math.round((s.volume ?? 0) * 1e9) / 1e9)).toEqual([1, -1]);
    expect(faults.turned).toEqual([]);
  });
  test("a face that is there twice, and a wall that stands on a surface, are told", () => {
    expect(stitch(polygons([...BOX, BOX[7]])).faults.twice).toEqual([96]);
    const wall: Vector[] = [
      [1, 2, 3.5],
      [1.5, 2, 3.5],
      [1.5, 2, 4],
      [1, 2, 4],
    ];
    const { faults } = stitch(polygons([...BOX, wall]));
    expect(faults.crowded.edges).toBe(1);
    expect(faults.crowded.at[0]).toEqual([1.25, 2, 3.5]);
  });
  test("a twisted band has one side", () => {
    const n = 12;
    const place = (i: number, side: number): Vector => {
      const a = (2 * Math.PI * i) / n;
      const w = 0.3 * side;
      return [(1 + w * Math.cos(a / 2)) * Math.cos(a), (1 + w * Math.cos(a / 2)) * Math.sin(a), w * Math.sin(a / 2)];
    };
    const band = Array.from({ length: n }, (_, i) => [place(i, -1), place(i + 1, -1), place(i + 1, 1), place(i, 1)]);
    expect(stitch(polygons(band)).faults.oneSided).toBe(1);
  });
});
