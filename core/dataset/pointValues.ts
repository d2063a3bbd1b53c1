import { grouped } from "../numeric/grouped.ts";
import { CELL_KINDS, type Grid, type GridArray } from "./grid.ts";

/** Cells round each point: cells[start[q] .. start[q + 1]). */
export interface PointCells {
  readonly start: Int32Array;
  readonly cells: Int32Array;
}

/** Which cells have which points; a point a cell has twice counts once. */
export function pointCells({ points, kinds, cellStart, corners }: Pick<Grid, "points" | "kinds" | "cellStart" | "corners">): PointCells {
  const count = points.length / 3;
  const last = new Int32Array(count);
  const { start, entries } = grouped(count, (tell) => {
    last.fill(-1);
    for (let c = 0; c < kinds.length; c++)
      for (let k = cellStart[c]; k < cellStart[c + 1]; k++) {
        const q = corners[k];
        if (last[q] === c) continue;
        last[q] = c;
        tell(q, c);
      }
  });
  return { start, cells: entries };
}

/** Middle of each cell: of one in space the middle of its volume, by tetrahedra about the mean of its corners and of each face; else the mean of its corners. */
export function cellMiddles({ points, kinds, cellStart, corners, polyhedra }: Omit<Grid, "onPoints" | "onCells" | "notes">): Float64Array {
  const out = new Float64Array(3 * kinds.length);
  for (let c = 0; c < kinds.length; c++) {
    const own = cellStart[c + 1] - cellStart[c];
    for (let k = cellStart[c]; k < cellStart[c + 1]; k++) for (let d = 0; d < 3; d++) out[3 * c + d] += points[3 * corners[k] + d] / own;
    const known = polyhedra.get(c);
    const faces = known ?? CELL_KINDS[kinds[c]].faces;
    if (faces) ofVolume(out, c, points, faces, known ? undefined : corners, cellStart[c]);
  }
  return out;
}

/** Moves the middle of a cell from the mean of its corners to that of its volume, where it has one. */
function ofVolume(
  out: Float64Array,
  c: number,
  points: Float64Array,
  faces: readonly (readonly number[])[],
  corners: Int32Array | undefined,
  at: number,
): void {
  const [x0, y0, z0] = [out[3 * c], out[3 * c + 1], out[3 * c + 2]];
  let [whole, x, y, z] = [0, 0, 0, 0];
  for (const face of faces) {
    const n = face.length;
    let [mx, my, mz] = [-x0, -y0, -z0];
    for (let k = 0; k < n; k++) {
      const q = 3 * (corners ? corners[at + face[k]] : face[k]);
      mx += points[q] / n;
      my += points[q + 1] / n;
      mz += points[q + 2] / n;
    }
    let p = 3 * (corners ? corners[at + face[n - 1]] : face[n - 1]);
    for (let k = 0; k < n; k++) {
      const q = 3 * (corners ? corners[at + face[k]] : face[k]);
      const [px, py, pz] = [points[p] - x0, points[p + 1] - y0, points[p + 2] - z0];
      const [qx, qy, qz] = [points[q] - x0, points[q + 1] - y0, points[q + 2] - z0];
      const volume = mx * (py * qz - pz * qy) + my * (pz * qx - px * qz) + mz * (px * qy - py * qx);
      whole += volume;
      x += volume * (mx + px + qx);
      y += volume * (my + py + qy);
      z += volume * (mz + pz + qz);
      p = q;
    }
  }
  // Of a part's four corners one is the mean itself, from where all is counted.
  if (!(Math.abs(whole) > 0)) return;
  out[3 * c] += x / (4 * whole);
  out[3 * c + 1] += y / (4 * whole);
  out[3 * c + 2] += z / (4 * whole);
}

/**
 * Values of cells brought to points: weighted means of the cells round each, with weights near one that carry a field linear in space over as it is
 * wherever cells lie on all sides. At a rim, where they lie on one side only, each counts the same.
 * @source D. G. Holmes, S. D. Connell, AIAA 89-1932 (1989): weights from a pseudo-Laplacian
 */
export function onPoints(grid: Grid, array: GridArray, round: PointCells = pointCells(grid), middles: Float64Array = cellMiddles(grid)): GridArray {
  const count = grid.points.length / 3;
  const { components, values } = array;
  const out = new Float64Array(components * count);
  const slope = new Float64Array(3);
  const weights: number[] = [];
  for (let q = 0; q < count; q++) {
    const own = round.start[q + 1] - round.start[q];
    leaning(slope, grid.points, q, round, middles);
    let sum = 0;
    for (let k = 0; k < own; k++) sum += weights[k] = weightOf(slope, grid.points, q, middles, round.cells[round.start[q] + k]);
    const even = !(sum > SIDED * own);
    for (let k = 0; k < own; k++) {
      const share = even ? 1 / own : weights[k] / sum;
      const c = round.cells[round.start[q] + k];
      for (let d = 0; d < components; d++) out[components * q + d] += share * values[components * c + d];
    }
    if (own === 0) out.fill(Number.NaN, components * q, components * (q + 1));
  }
  return { name: array.name, components, values: out };
}

/** mean weight of a point's cells below which they lie on one side of it */
const SIDED = 0.25;

/** Weight of a cell, between 0 and 2. */
function weightOf(slope: Float64Array, points: Float64Array, q: number, middles: Float64Array, c: number): number {
  let weight = 1;
  for (let d = 0; d < 3; d++) weight += slope[d] * (middles[3 * c + d] - points[3 * q + d]);
  return weight < 0 ? 0 : weight > 2 ? 2 : weight;
}

/** By how much the weights of a point's cells change with place, so that their weighted middle is the point. */
function leaning(slope: Float64Array, points: Float64Array, q: number, { start, cells }: PointCells, middles: Float64Array): void {
  let [xx, xy, xz, yy, yz, zz, rx, ry, rz] = [0, 0, 0, 0, 0, 0, 0, 0, 0];
  for (let k = start[q]; k < start[q + 1]; k++) {
    const c = 3 * cells[k];
    const [x, y, z] = [middles[c] - points[3 * q], middles[c + 1] - points[3 * q + 1], middles[c + 2] - points[3 * q + 2]];
    xx += x * x;
    xy += x * y;
    xz += x * z;
    yy += y * y;
    yz += y * z;
    zz += z * z;
    rx += x;
    ry += y;
    rz += z;
  }
  // A little is added where cells lie in a plane or on a line, for which the system has no one answer.
  const little = 1e-9 * (xx + yy + zz) + Number.MIN_VALUE;
  const [a, b, c] = [xx + little, yy + little, zz + little];
  const det = a * (b * c - yz * yz) - xy * (xy * c - yz * xz) + xz * (xy * yz - b * xz);
  slope[0] = -(rx * (b * c - yz * yz) - xy * (ry * c - yz * rz) + xz * (ry * yz - b * rz)) / det;
  slope[1] = -(a * (ry * c - yz * rz) - rx * (xy * c - yz * xz) + xz * (xy * rz - ry * xz)) / det;
  slope[2] = -(a * (b * rz - ry * yz) - xy * (xy * rz - ry * xz) + rx * (xy * yz - b * xz)) / det;
}
