import { expect, test } from "vitest";
import { cellAt, cellsUnderPixels } from "@/core/drawing/cellRaster";
import { rectangleMesh } from "@/core/mesh/rectangle";
import { slicesWithin } from "./strokes";

const view = { x0: 0, y0: 0, pixelM: 0.1, width: 10, height: 20 };

test("pieces that cannot reach into the picture are left out, the others come in slices in their order", () => {
  const inside = [0.2, 0.2, 0.4, 0.4];
  const across = [-1, 1, 2, 1];
  const corner = [-0.5, 1.5, 0.5, 2.5];
  const outside = [
    [-1, 0, -0.1, 1],
    [1.1, 0, 3, 1],
    [0, -1, 1, -0.2],
    [0, 2.1, 1, 4],
  ];
  const all = [inside, outside[0], across, outside[1], corner, outside[2], inside, outside[3]].flat();
  expect(slicesWithin(all, view, 3)).toEqual([[...inside, ...across, ...corner], inside]);
  expect(slicesWithin(all, view, 10)).toEqual([[...inside, ...across, ...corner, ...inside]]);
  expect(slicesWithin(outside.flat(), view, 3)).toEqual([]);
});

test("the cell under the pointer is that of its pixel; beyond the picture there is none", () => {
  const uniform = { kind: "uniform" } as const;
  const mesh = rectangleMesh({ lengthM: 1, heightM: 2, nx: 2, ny: 4, gradingX: uniform, gradingY: uniform, periodicX: false });
  const raster = { ids: cellsUnderPixels(mesh, view), view };
  for (let c = 0; c < mesh.cellCount; c++) expect(cellAt(raster, mesh.centroidM[2 * c], mesh.centroidM[2 * c + 1])).toBe(c);
  expect([cellAt(raster, -0.01, 1), cellAt(raster, 1.01, 1), cellAt(raster, 0.5, -0.01), cellAt(raster, 0.5, 2.01)]).toEqual([-1, -1, -1, -1]);
});
