import { describe, expect, test } from "vitest";
import { cellTree } from "./cellTree.ts";
import { NoCut } from "./cutGrid.ts";
import { isoSurface } from "./isoSurface.ts";
import { hexahedra } from "./made.ts";
import { cellMiddles, onPoints } from "./pointValues.ts";
import { stitch } from "./stitch.ts";
import { faceGeometry } from "./surface.ts";
import { size, type Vector } from "./vector.ts";

/** n hexahedra a side from -1 to 1, bent where asked. */
const cube = (n: number, bent = 0) =>
  hexahedra([n, n, n], (i, j, k) => [i, j, k].map((m, d) => -1 + (2 * m) / n + bent * Math.sin(3 * i + 5 * j + 7 * k + d)) as unknown as Vector);

const radiusOf = (grid: ReturnType<typeof cube>) =>
  Float64Array.from({ length: grid.points.length / 3 }, (_, q) => Math.hypot(...grid.points.subarray(3 * q, 3 * q + 3)));

/** Area of the ball of radius 0.7 in n cells a side, and how many of its edges have one face. */
function ball(n: number) {
  const grid = cube(n);
  const { surface, edges } = stitch(isoSurface(grid, cellTree(grid), radiusOf(grid), 0.7, "r"));
  const { area } = faceGeometry(surface);
  const total = Array.from({ length: area.length / 3 }, (_, f) => size([area[3 * f], area[3 * f + 1], area[3 * f + 2]])).reduce((s, v) => s + v, 0);
  return { total, open: [...edges.faces].filter((f) => f < 0).length };
}

describe("the surface on which a value is reached", () => {
  test("of a distance is a ball: closed, and its area is met with the second order", () => {
    const exact = 4 * Math.PI * 0.7 ** 2;
    const [coarse, fine] = [ball(12), ball(24)];
    expect([coarse.open, fine.open]).toEqual([0, 0]);
    const [a, b] = [coarse, fine].map((x) => Math.abs(x.total - exact));
    expect(b / exact).toBeLessThan(0.01);
    expect(Math.log2(a / b)).toBeGreaterThan(1.7);
  });
  test("of a field linear in space is a plane, on bent cells as well, and carries other fields along", () => {
    const grid = cube(5, 0.04);
    const values = Float64Array.from({ length: grid.points.length / 3 }, (_, q) => grid.points[3 * q] + 2 * grid.points[3 * q + 1]);
    const whole = {
      ...grid,
      onPoints: [{ name: "f", components: 1, values }],
      onCells: [{ name: "c", components: 1, values: Float64Array.from(grid.kinds.keys()) }],
    };
    const cut = isoSurface(whole, cellTree(whole), values, 0.3, "f");
    for (let q = 0; q < cut.points.length / 3; q++) {
      expect(cut.points[3 * q] + 2 * cut.points[3 * q + 1]).toBeCloseTo(0.3, 12);
      expect(cut.onPoints[0].values[q]).toBeCloseTo(0.3, 12);
    }
    expect(new Set(cut.onCells[0].values).size).toBe(cut.kinds.length);
  });
  test("where faces have their corners above and below by turns it has no hole", () => {
    const grid = cube(6);
    const values = Float64Array.from({ length: grid.points.length / 3 }, (_, q) => {
      const [x, y, z] = grid.points.subarray(3 * q, 3 * q + 3);
      // Changes its sign from point to point inside, and nowhere on the rim.
      return Math.max(Math.abs(x), Math.abs(y), Math.abs(z)) > 0.9 ? 1 : Math.cos(Math.PI * 3 * (x + y + z));
    });
    const { edges } = stitch(isoSurface(grid, cellTree(grid), values, 0.1, "f"));
    expect([...edges.faces].filter((f) => f < 0)).toEqual([]);
  });
  test("a value that is reached nowhere is said with the range there is", () => {
    const grid = cube(2);
    expect(() => isoSurface(grid, cellTree(grid), radiusOf(grid), 9, "r")).toThrow(NoCut);
    expect(() => isoSurface(grid, cellTree(grid), radiusOf(grid), 9, "r")).toThrow(/^r is 9 nowhere inside the cells; it reaches from 0 to 1\.73/);
  });
});

describe("values of cells on points", () => {
  const linear = (x: number, y: number, z: number) => 3 - x + 2 * y + 0.5 * z;
  const brought = (bent: number) => {
    const grid = cube(6, bent);
    const middles = cellMiddles(grid);
    const values = Float64Array.from(grid.kinds, (_, c) => linear(middles[3 * c], middles[3 * c + 1], middles[3 * c + 2]));
    return { grid, values: onPoints(grid, { name: "f", components: 1, values }).values };
  };
  test.each([0, 0.05])("a field linear in space comes over as it is, wherever there are cells on all sides (bent by %d)", (bent) => {
    const { grid, values } = brought(bent);
    let inner = 0;
    for (let q = 0; q < values.length; q++) {
      const [x, y, z] = grid.points.subarray(3 * q, 3 * q + 3);
      if (Math.max(Math.abs(x), Math.abs(y), Math.abs(z)) > 0.8) continue;
      inner++;
      expect(values[q]).toBeCloseTo(linear(x, y, z), 7);
    }
    expect(inner).toBe(125);
  });
  test("no point has more than the cells round it, and one without cells has none", () => {
    const { grid, values } = brought(0.05);
    expect(Math.max(...values)).toBeLessThan(6.5);
    const lonely = { ...grid, points: Float64Array.from([...grid.points, 9, 9, 9]) };
    expect(onPoints(lonely, { name: "f", components: 1, values: new Float64Array(216).fill(2) }).values.at(-1)).toBeNaN();
    expect(onPoints(grid, { name: "f", components: 2, values: new Float64Array(432).fill(2) }).values.every((v) => Math.abs(v - 2) < 1e-14)).toBe(
      true,
    );
  });
});
