import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { cellsAcross, cellsAtLevel, cellsRound, cellTree, leafRanges, longestOf } from "./cellTree.ts";
import { hexahedra } from "./made.ts";
import { dot, type Vector } from "./vector.ts";

const grid = hexahedra([9, 7, 5], (i, j, k) => [0.1 * i + 0.03 * Math.sin(j), 0.2 * j, 0.3 * k + 0.02 * i]);
const tree = cellTree(grid);
const place = (q: number): Vector => [grid.points[3 * q], grid.points[3 * q + 1], grid.points[3 * q + 2]];
const cornersOf = (c: number) => [...grid.corners.subarray(8 * c, 8 * c + 8)];

/** Cells some of whose corners are above and some below. */
const crossed = (above: (q: number) => number) => [...grid.kinds.keys()].filter((c) => new Set(cornersOf(c).map((q) => above(q) >= 0)).size === 2);

describe("the boxes round cells", () => {
  test("hold every cell in space once, and no other", () => {
    expect([...tree.order].sort((a, b) => a - b)).toEqual([...grid.kinds.keys()]);
    const mixed = { ...grid, kinds: grid.kinds.map((k, c) => (c % 3 ? k : 9)) };
    expect(cellTree(mixed).order).toHaveLength(grid.kinds.filter((_, c) => c % 3).length);
    expect(cellTree({ ...grid, kinds: new Uint8Array(), cellStart: Int32Array.of(0) }).order).toHaveLength(0);
  });
  test("the greatest one has the longest side", () => {
    expect(longestOf(tree)).toBeCloseTo(5 * 0.3 + 9 * 0.02, 12);
  });
  test("no cell that a plane goes through is missed, wherever it lies; far ones are passed over", () => {
    const number = fc.double({ min: -1, max: 1, noNaN: true });
    fc.assert(
      fc.property(number, number, number, fc.integer({ min: 0, max: 200 }), (a, b, c, q) => {
        const normal: Vector = [a, b, c + 1.5];
        const offset = dot(normal, place(q));
        const found = new Set(cellsAcross(tree, normal, offset));
        for (const cell of crossed((p) => dot(normal, place(p)) - offset)) expect(found.has(cell)).toBe(true);
        expect(found.size).toBeLessThan(grid.kinds.length);
      }),
    );
  });
  test("a place finds the cell that has it among its own", () => {
    for (const c of [0, 17, 200, grid.kinds.length - 1]) {
      const own = cornersOf(c).map(place);
      const middle = [0, 1, 2].map((d) => own.reduce((s, p) => s + p[d] / 8, 0)) as unknown as Vector;
      expect([...cellsRound(tree, middle)]).toContain(c);
    }
    expect(cellsRound(tree, [5, 5, 5])).toHaveLength(0);
    expect([...cellsRound(tree, [-0.01, 0, 0], 0.02)]).toContain(0);
  });
  test("a value finds every cell whose points reach from below to it", () => {
    const values = Float64Array.from({ length: grid.points.length / 3 }, (_, q) => Math.sin(9 * grid.points[3 * q]) + grid.points[3 * q + 1]);
    const ranges = leafRanges(grid, tree, values);
    for (const level of [-0.5, 0.4, 1.1]) {
      const found = new Set(cellsAtLevel(tree, ranges, level));
      for (const c of crossed((q) => values[q] - level)) expect(found.has(c)).toBe(true);
    }
    expect(cellsAtLevel(tree, ranges, 7)).toHaveLength(0);
  });
});
