import { describe, expect, test } from "vitest";
import { UNIFORM } from "../problems/describe/common.ts";
import { cellAverages, faceFluxes } from "./integrals.ts";
import { revolved } from "./revolved.ts";
import { shapedRectangle } from "./shaped.ts";
import type { CellShape } from "./shapes.ts";

const box = (shape: CellShape, n = 6) =>
  shapedRectangle({ lengthM: 1, heightM: 1, nx: n, ny: n, gradingX: UNIFORM, gradingY: UNIFORM, periodicX: false }, shape);
const SHAPES: readonly CellShape[] = ["rows", "smooth", "jittered", "triangles", "hexagons"];
const integral = (mesh: ReturnType<typeof box>, f: (x: number, y: number) => number) =>
  cellAverages(mesh, f).reduce((s, v, c) => s + v * mesh.volumeM2[c], 0);

describe.each(SHAPES)("%s", (shape) => {
  test("averages of polynomials to the fifth degree add up to their integral over the box and over the ring", () => {
    expect(integral(box(shape), (x, y) => x ** 3 * y ** 2)).toBeCloseTo(1 / 12, 14);
    expect(integral(box(shape), (x) => x ** 5)).toBeCloseTo(1 / 6, 14);
    // Over a radian of the body: one power of the radius more, so that four are left.
    expect(integral(revolved(box(shape)), (x, y) => x ** 2 * y ** 2)).toBeCloseTo(1 / 12, 14);
    expect(cellAverages(revolved(box(shape)), () => 7).every((v) => Math.abs(v - 7) < 1e-12)).toBe(true);
  });
  test("the mean of a straight field is its value at the centroid", () => {
    for (const mesh of [box(shape), revolved(box(shape))]) {
      const found = cellAverages(mesh, (x, y) => 2 * x - 3 * y + 1);
      found.forEach((v, c) => {
        expect(v).toBeCloseTo(2 * mesh.centroidM[2 * c] - 3 * mesh.centroidM[2 * c + 1] + 1, 12);
      });
    }
  });
  test("what flows out of every cell is what its divergence makes in it, in the plane and round the axis", () => {
    for (const ring of [false, true]) {
      const mesh = ring ? revolved(box(shape)) : box(shape);
      const flux = faceFluxes(mesh, (x, y) => [x ** 2 * y, x * y ** 2]);
      const made = cellAverages(mesh, (x, y) => 2 * x * y + (ring ? 3 : 2) * x * y);
      const net = new Float64Array(mesh.cellCount);
      for (let f = 0; f < mesh.faceCount; f++) {
        net[mesh.owner[f]] += flux[f];
        if (mesh.neighbour[f] >= 0) net[mesh.neighbour[f]] -= flux[f];
      }
      net.forEach((v, c) => {
        expect(v).toBeCloseTo(made[c] * mesh.volumeM2[c], 13);
      });
    }
  });
});
