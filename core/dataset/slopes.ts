import { solveSymmetric3 } from "../numeric/symmetric3.ts";
import { CELL_KINDS, type Grid, type GridArray } from "./grid.ts";
import { type GridFaces, gridFaces } from "./gridFaces.ts";
import { cellMiddles, type PointCells, pointCells } from "./pointValues.ts";

/** What slopes are worked out with: asked for once a grid. */
export class SlopeWork {
  private knownFaces: GridFaces | undefined;
  private knownRound: PointCells | undefined;
  private knownMiddles: Float64Array | undefined;

  constructor(readonly grid: Grid) {}

  get faces(): GridFaces {
    this.knownFaces ??= gridFaces(this.grid);
    return this.knownFaces;
  }

  get round(): PointCells {
    this.knownRound ??= pointCells(this.grid);
    return this.knownRound;
  }

  get middles(): Float64Array {
    this.knownMiddles ??= cellMiddles(this.grid);
    return this.knownMiddles;
  }
}

/**
 * Slopes of an array in the cells in space: of each component those along x, y and z, in the array's unit over the grid's unit of length. A field
 * linear in space gives its slopes exactly in cells of any kind: of points by what their faces carry out of each cell, of cells by least squares over
 * all cells that share a point. Cells that are not in space, or have too few neighbours, have none.
 * @returns [a along x, a along y, a along z, b along x, ...] of each cell
 * @throws {RangeError} The grid has no cell in space.
 */
export const slopesOf = (work: SlopeWork, array: GridArray, on: "cells" | "points"): Float64Array =>
  on === "points" ? byFaces(work, array) : byNeighbours(work, array);

/** The sum over a cell's faces of value times area vector, over its volume; faces are triangles about the mean of their corners. */
function byFaces(
  { grid: { points, kinds }, faces: { start, corners, owner, neighbour } }: SlopeWork,
  { components, values }: GridArray,
): Float64Array {
  const out = new Float64Array(3 * components * kinds.length);
  const volume = new Float64Array(kinds.length);
  const mean = new Float64Array(3);
  const area = new Float64Array(3);
  const flow = new Float64Array(components);
  const meanValue = new Float64Array(components);
  for (let f = 0; f < owner.length; f++) {
    const n = start[f + 1] - start[f];
    mean.fill(0);
    meanValue.fill(0);
    for (let k = start[f]; k < start[f + 1]; k++) {
      for (let d = 0; d < 3; d++) mean[d] += points[3 * corners[k] + d] / n;
      for (let i = 0; i < components; i++) meanValue[i] += values[components * corners[k] + i] / n;
    }
    for (let k = start[f]; k < start[f + 1]; k++) {
      const p = corners[k];
      const q = corners[k + 1 < start[f + 1] ? k + 1 : start[f]];
      const [ux, uy, uz] = [points[3 * p] - mean[0], points[3 * p + 1] - mean[1], points[3 * p + 2] - mean[2]];
      const [vx, vy, vz] = [points[3 * q] - mean[0], points[3 * q + 1] - mean[1], points[3 * q + 2] - mean[2]];
      area[0] = (uy * vz - uz * vy) / 2;
      area[1] = (uz * vx - ux * vz) / 2;
      area[2] = (ux * vy - uy * vx) / 2;
      for (let i = 0; i < components; i++) flow[i] = (meanValue[i] + values[components * p + i] + values[components * q + i]) / 3;
      for (let side = 0; side < 2; side++) {
        const c = side ? neighbour[f] : owner[f];
        if (c < 0) continue;
        const sign = side ? -1 : 1;
        for (let d = 0; d < 3; d++) {
          volume[c] += (sign * area[d] * (mean[d] + points[3 * p + d] + points[3 * q + d])) / 9;
          for (let i = 0; i < components; i++) out[3 * (components * c + i) + d] += sign * area[d] * flow[i];
        }
      }
    }
  }
  for (let c = 0; c < kinds.length; c++)
    for (let k = 3 * components * c; k < 3 * components * (c + 1); k++) out[k] = volume[c] > 0 ? out[k] / volume[c] : Number.NaN;
  return out;
}

function byNeighbours({ grid, round, middles }: SlopeWork, { components, values }: GridArray): Float64Array {
  const { kinds, cellStart, corners } = grid;
  const out = new Float64Array(3 * components * kinds.length);
  const last = new Int32Array(kinds.length).fill(-1);
  const matrix = new Float64Array(6);
  const right = new Float64Array(3 * components);
  for (let c = 0; c < kinds.length; c++) {
    matrix.fill(0);
    right.fill(0);
    last[c] = c;
    if (CELL_KINDS[kinds[c]].dimension === 3)
      for (let k = cellStart[c]; k < cellStart[c + 1]; k++)
        for (let m = round.start[corners[k]]; m < round.start[corners[k] + 1]; m++) {
          const other = round.cells[m];
          if (last[other] === c || CELL_KINDS[kinds[other]].dimension !== 3) continue;
          last[other] = c;
          const x = middles[3 * other] - middles[3 * c];
          const y = middles[3 * other + 1] - middles[3 * c + 1];
          const z = middles[3 * other + 2] - middles[3 * c + 2];
          const w = 1 / Math.max(x * x + y * y + z * z, Number.MIN_VALUE);
          matrix[0] += w * x * x;
          matrix[1] += w * x * y;
          matrix[2] += w * x * z;
          matrix[3] += w * y * y;
          matrix[4] += w * y * z;
          matrix[5] += w * z * z;
          for (let i = 0; i < components; i++) {
            const step = w * (values[components * other + i] - values[components * c + i]);
            right[3 * i] += step * x;
            right[3 * i + 1] += step * y;
            right[3 * i + 2] += step * z;
          }
        }
    for (let i = 0; i < components; i++) solveSymmetric3(matrix, right, 3 * i, out, 3 * (components * c + i));
  }
  return out;
}
