import { describe, expect, test } from "vitest";
import { gridFaces } from "./gridFaces.ts";
import { cellMetrics, gridQuality } from "./gridQuality.ts";
import { LayerWalk } from "./layerWalk.ts";
import { hexahedra } from "./made.ts";
import { MOST_LAYERS } from "./metrics.ts";
import { cellMiddles } from "./pointValues.ts";
import { layersFromOutside, wallLayers } from "./wallLayers.ts";

/** 5 x 5 columns of cells whose heights grow by 1.3 from 0.01 upwards, 8 of them, and then one that is 5 times the last. */
const heights = [...Array.from({ length: 8 }, (_, k) => 0.01 * 1.3 ** k), 0.01 * 1.3 ** 7 * 5];
const level = [0, ...heights.map((_, k) => heights.slice(0, k + 1).reduce((s, h) => s + h, 0))];
const grid = hexahedra([5, 5, 9], (i, j, k) => [i, j, level[k]]);
const faces = gridFaces(grid);
const cell = (i: number, j: number, k: number) => i + 5 * (j + 5 * k);

describe("layers of cells on the outside", () => {
  test("have the height, the number and the growth they were made with", () => {
    const { height, layers, growth } = wallLayers(new LayerWalk(grid, faces), cellMiddles(grid));
    expect(height[cell(2, 2, 0)]).toBeCloseTo(0.01, 12);
    expect(layers[cell(2, 2, 0)]).toBe(8);
    expect(growth[cell(2, 2, 0)]).toBeCloseTo(1.3, 12);
    expect(height[cell(2, 2, 8)]).toBeCloseTo(heights[8], 12);
    expect(layers[cell(2, 2, 8)]).toBe(1);
    // In a corner of the block the thinnest way counts; inside there is none.
    expect(height[cell(0, 0, 0)]).toBeCloseTo(0.01, 12);
    expect(height[cell(2, 2, 4)]).toBeNaN();
    expect([height[cell(0, 2, 4)], layers[cell(0, 2, 4)], growth[cell(0, 2, 4)]]).toEqual([expect.closeTo(1, 12), 5, 1]);
  });
  test("an endless block of even cells counts as many layers as are followed, and no more", () => {
    const block = hexahedra([1, 1, 100], (i, j, k) => [1e3 * i, 1e3 * j, k]);
    expect(wallLayers(new LayerWalk(block, gridFaces(block)), cellMiddles(block)).layers[0]).toBe(MOST_LAYERS);
  });
  test("cells without a face opposite to the outside, such as tetrahedra, have none", () => {
    const lone = { ...grid, kinds: Uint8Array.of(10), cellStart: Int32Array.of(0, 4), corners: Int32Array.of(0, 1, 6, 36) };
    expect(wallLayers(new LayerWalk(lone, gridFaces(lone)), cellMiddles(lone)).height[0]).toBeNaN();
  });
});

describe("cells by how deep they lie", () => {
  test("are counted from the outside inwards", () => {
    const layer = layersFromOutside(grid, faces);
    expect([layer[cell(0, 3, 4)], layer[cell(1, 2, 4)], layer[cell(2, 2, 4)], layer[cell(2, 2, 1)]]).toEqual([0, 1, 2, 1]);
    expect(layersFromOutside({ ...grid, kinds: Uint8Array.from([...grid.kinds, 7]) }, faces).at(-1)).toBeNaN();
  });
});

describe("metrics of every cell", () => {
  test("are those whose worst the quality tells, at the cells it tells", () => {
    const all = cellMetrics(grid, faces);
    for (const m of gridQuality(grid).metrics) {
      expect(Math.max(...all[m.metric])).toBe(m.worst);
      expect(all[m.metric][m.cells[0].cell]).toBe(m.worst);
    }
    expect(all.volume[cell(1, 1, 3)]).toBeCloseTo(heights[3], 12);
    expect(all.aspect[cell(1, 1, 0)]).toBeCloseTo(100, 9);
  });
});
