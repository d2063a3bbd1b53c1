import { describe, expect, test } from "vitest";
import { randomFrom } from "../numeric/random.ts";
import type { Grid } from "./grid.ts";
import { gridFaces } from "./gridFaces.ts";
import { equiangle, gridQuality } from "./gridQuality.ts";
import type { Metric } from "./metrics.ts";

const EMPTY = { polyhedra: new Map(), onPoints: [], onCells: [], notes: [] } as const;

/** Blocks of unit cells, their points moved by a function. */
function blocks(n: number, at: (x: number, y: number, z: number) => readonly [number, number, number] = (x, y, z) => [x, y, z]): Grid {
  const m = n + 1;
  const points = new Float64Array(3 * m ** 3);
  const id = (i: number, j: number, k: number) => i + m * (j + m * k);
  for (let k = 0; k < m; k++) for (let j = 0; j < m; j++) for (let i = 0; i < m; i++) points.set(at(i, j, k), 3 * id(i, j, k));
  const corners: number[] = [];
  for (let k = 0; k < n; k++)
    for (let j = 0; j < n; j++)
      for (let i = 0; i < n; i++)
        for (const [a, b, c] of [
          [0, 0, 0],
          [1, 0, 0],
          [1, 1, 0],
          [0, 1, 0],
          [0, 0, 1],
          [1, 0, 1],
          [1, 1, 1],
          [0, 1, 1],
        ])
          corners.push(id(i + a, j + b, k + c));
  const count = n ** 3;
  return {
    ...EMPTY,
    points,
    kinds: new Uint8Array(count).fill(12),
    cellStart: Int32Array.from({ length: count + 1 }, (_, c) => 8 * c),
    corners: Int32Array.from(corners),
  };
}

const single = (kind: number, points: readonly (readonly number[])[]): Grid => ({
  ...EMPTY,
  points: Float64Array.from(points.flat()),
  kinds: Uint8Array.of(kind),
  cellStart: Int32Array.of(0, points.length),
  corners: Int32Array.from(points.keys()),
});

const of = (g: Grid, metric: Metric) => {
  const found = gridQuality(g).metrics.find((m) => m.metric === metric);
  if (!found) throw new Error(metric);
  return found;
};

describe("faces", () => {
  test("of a block of n^3 cells there are 3 n^2 (n + 1), 6 n^2 of them outside", () => {
    const f = gridFaces(blocks(4));
    expect(f.owner).toHaveLength(3 * 16 * 5);
    expect(f.neighbour.filter((c) => c < 0)).toHaveLength(6 * 16);
    expect(f.crowded).toEqual([]);
  });
  test("a cell that stands twice crowds its faces", () => {
    const g = blocks(1);
    const twice = {
      ...g,
      kinds: Uint8Array.of(12, 12, 12),
      cellStart: Int32Array.of(0, 8, 16, 24),
      corners: Int32Array.from([...g.corners, ...g.corners, ...g.corners]),
    };
    expect(gridFaces(twice).crowded).toHaveLength(6);
  });
});

describe("quality of cells in space", () => {
  test("unit cubes are perfect in every metric; their volume is theirs", () => {
    const q = gridQuality(blocks(3));
    expect(q).toMatchObject({ cells: 27, faces: 108, outside: 54, inverted: [], open: [], crowded: 0 });
    expect(q.volume).toBeCloseTo(27, 12);
    const worst = Object.fromEntries(q.metrics.map((m) => [m.metric, m.worst]));
    for (const [metric, ideal] of Object.entries({
      nonOrthogonality: 0,
      skewness: 0,
      equiangle: 0,
      aspect: 1,
      volumeRatio: 1,
      areaRatio: 1,
      warpage: 0,
    }))
      expect(worst[metric]).toBeCloseTo(ideal, metric === "nonOrthogonality" || metric === "warpage" ? 4 : 10);
  });
  test("sheared by 45 degrees faces are 45 degrees off and angles half way to flat; stretched the aspect is the stretch", () => {
    const sheared = blocks(3, (x, y, z) => [x + y, y, z]);
    expect(of(sheared, "nonOrthogonality").worst).toBeCloseTo(45, 6);
    expect(of(sheared, "equiangle").worst).toBeCloseTo(0.5, 10);
    expect(gridQuality(sheared).volume).toBeCloseTo(27, 10);
    expect(
      of(
        blocks(2, (x, y, z) => [7 * x, y, z]),
        "aspect",
      ).worst,
    ).toBeCloseTo(7, 12);
    expect(
      of(
        blocks(2, (x, y, z) => [7 * x, y, z]),
        "areaRatio",
      ).worst,
    ).toBeCloseTo(7, 12);
  });
  test("a layer three times as thick makes neighbours of three to one, at that layer alone", () => {
    const g = blocks(3, (x, y, z) => [x > 1 ? 1 + 3 * (x - 1) : x, y, z]);
    const ratio = of(g, "volumeRatio");
    expect(ratio.worst).toBeCloseTo(3, 12);
    expect(ratio.beyond).toBe(0);
    expect(ratio.cells.every((c) => Math.abs(c.value - 3) < 1e-12 && c.at[0] < 4)).toBe(true);
    expect(ratio.counts.reduce((a, b) => a + b, 0)).toBe(27);
  });
  test("a regular tetrahedron has aspect 1 and equal angles; a flat one neither", () => {
    const regular = [
      [1, 1, 1],
      [1, -1, -1],
      [-1, 1, -1],
      [-1, -1, 1],
    ];
    const right = gridQuality(single(10, [regular[0], regular[2], regular[1], regular[3]]));
    const wrong = gridQuality(single(10, regular));
    // Of the two orders of its corners one is inside out.
    const [good, bad] = right.inverted.length ? [wrong, right] : [right, wrong];
    expect(bad.inverted).toEqual([0]);
    expect(good.volume).toBeCloseTo(8 / 3, 12);
    expect(good.metrics.find((m) => m.metric === "aspect")?.worst).toBeCloseTo(1, 12);
    expect(good.metrics.find((m) => m.metric === "equiangle")?.worst).toBeCloseTo(0, 10);
    // Height 0.1 over a right triangle: circumradius and inradius by hand.
    const flat = single(10, [
      [0, 0, 0],
      [1, 0, 0],
      [0, 1, 0],
      [0, 0, 0.1],
    ]);
    const circumradius = Math.sqrt(1 + 1 + 0.01) / 2;
    const surface = 0.5 + 0.05 + 0.05 + 0.5 * Math.sqrt(1 + 0.02);
    expect(of(flat, "aspect").worst).toBeCloseTo(circumradius / ((3 * (3 * (0.1 / 6))) / surface), 10);
  });
  test("volumes of every kind: wedge, pyramid, voxel, and a polyhedron given by its faces", () => {
    const base = [
      [0, 0, 0],
      [1, 0, 0],
      [1, 1, 0],
      [0, 1, 0],
    ];
    expect(gridQuality(single(14, [...base, [0.5, 0.5, 3]])).volume).toBeCloseTo(1, 12);
    expect(
      gridQuality(
        single(11, [
          [0, 0, 0],
          [1, 0, 0],
          [0, 1, 0],
          [1, 1, 0],
          [0, 0, 2],
          [1, 0, 2],
          [0, 1, 2],
          [1, 1, 2],
        ]),
      ).volume,
    ).toBeCloseTo(2, 12);
    const wedge = gridQuality(
      single(13, [
        [0, 0, 0],
        [0, 1, 0],
        [1, 0, 0],
        [0, 0, 2],
        [0, 1, 2],
        [1, 0, 2],
      ]),
    );
    expect(Math.abs(wedge.volume)).toBeCloseTo(1, 12);
    const cube = blocks(1);
    const faces = [
      [0, 2, 3, 1],
      [4, 5, 7, 6],
      [0, 1, 5, 4],
      [2, 6, 7, 3],
      [0, 4, 6, 2],
      [1, 3, 7, 5],
    ];
    const polyhedron: Grid = { ...cube, kinds: Uint8Array.of(42), polyhedra: new Map([[0, faces]]) };
    expect(gridQuality(polyhedron)).toMatchObject({ inverted: [], open: [] });
    expect(gridQuality(polyhedron).volume).toBeCloseTo(1, 12);
    const leaky: Grid = { ...polyhedron, polyhedra: new Map([[0, faces.slice(1)]]) };
    expect(gridQuality(leaky).open).toEqual([0]);
  });
  test("moved at random the cells still fill the box; the worst is where one point was pulled out", () => {
    const random = randomFrom(4);
    const inside = (v: number) => v > 0 && v < 5;
    const g = blocks(5, (x, y, z) => {
      const move = () => 0.2 * (random() - 0.5);
      const [a, b, c] = [move(), move(), move()];
      return [x + (inside(x) ? a : 0), y + (inside(y) ? b : 0), z + (inside(z) ? c : 0)];
    });
    const q = gridQuality(g);
    expect(q.volume).toBeCloseTo(125, 9);
    expect(q.open).toEqual([]);
    const at = 3 * (2 + 6 * (2 + 6 * 2));
    g.points[at] += 0.7;
    const pulled = gridQuality(g).metrics.find((m) => m.metric === "skewness");
    expect(pulled?.cells[0].at.every((v) => v > 0.9 && v < 3.2)).toBe(true);
    expect(pulled?.worst).toBeGreaterThan((q.metrics.find((m) => m.metric === "skewness")?.worst ?? 0) * 1.5);
  });
  test("angles of polygons: a square 0, a needle nearly 1", () => {
    expect(
      equiangle([
        [0, 0, 0],
        [1, 0, 0],
        [1, 1, 0],
        [0, 1, 0],
      ]),
    ).toBeCloseTo(0, 12);
    expect(
      equiangle([
        [0, 0, 0],
        [1, 0, 0],
        [2, 1e-6, 0],
      ]),
    ).toBeGreaterThan(0.99);
    expect(() =>
      gridQuality(
        single(5, [
          [0, 0, 0],
          [1, 0, 0],
          [0, 1, 0],
        ]),
      ),
    ).toThrow("no cell in space");
  });
});
