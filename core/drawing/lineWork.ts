import type { FaceMesh } from "../mesh/faceMesh.ts";
import { NearestCell } from "../mesh/locate.ts";
import type { Segments } from "./meshLines.ts";

/** Values at the corner points of a mesh: means of the cells around them, nearer ones counting more, with their slopes. */
export function pointValues(mesh: FaceMesh, values: ArrayLike<number>, [gx, gy]: readonly [Float64Array, Float64Array]): Float64Array {
  const { pointsM, cellStart, cellPoints, cellCount, centroidM } = mesh;
  const sum = new Float64Array(pointsM.length / 2);
  const weight = new Float64Array(pointsM.length / 2);
  for (let c = 0; c < cellCount; c++) {
    for (let k = cellStart[c]; k < cellStart[c + 1]; k++) {
      const p = cellPoints[k];
      const dx = pointsM[2 * p] - centroidM[2 * c];
      const dy = pointsM[2 * p + 1] - centroidM[2 * c + 1];
      const w = 1 / Math.hypot(dx, dy);
      sum[p] += w * (values[c] + gx[c] * dx + gy[c] * dy);
      weight[p] += w;
    }
  }
  return sum.map((s, p) => s / weight[p]);
}

/** Lines along which a field has given values, triangle by triangle from corner and centre values. */
export function contourLines(mesh: FaceMesh, values: ArrayLike<number>, corners: Float64Array, levels: readonly number[]): Segments {
  const { pointsM, cellStart, cellPoints, cellCount, centroidM } = mesh;
  const out: Segments = [];
  const cut = (ax: number, ay: number, a: number, bx: number, by: number, b: number, level: number) => {
    const t = (level - a) / (b - a);
    out.push(ax + t * (bx - ax), ay + t * (by - ay));
  };
  for (let c = 0; c < cellCount; c++) {
    const x = centroidM[2 * c];
    const y = centroidM[2 * c + 1];
    const v = values[c];
    for (let k = cellStart[c]; k < cellStart[c + 1]; k++) {
      const p = cellPoints[k];
      const q = cellPoints[k + 1 < cellStart[c + 1] ? k + 1 : cellStart[c]];
      const low = Math.min(v, corners[p], corners[q]);
      const high = Math.max(v, corners[p], corners[q]);
      for (const level of levels) {
        if (level <= low || level > high) continue;
        const before = out.length;
        if (v < level !== corners[p] < level) cut(x, y, v, pointsM[2 * p], pointsM[2 * p + 1], corners[p], level);
        if (corners[p] < level !== corners[q] < level)
          cut(pointsM[2 * p], pointsM[2 * p + 1], corners[p], pointsM[2 * q], pointsM[2 * q + 1], corners[q], level);
        if (v < level !== corners[q] < level) cut(x, y, v, pointsM[2 * q], pointsM[2 * q + 1], corners[q], level);
        if (out.length - before !== 4) out.length = before;
      }
    }
  }
  return out;
}

interface VelocityField {
  readonly mesh: FaceMesh;
  readonly u: Float64Array;
  readonly v: Float64Array;
  readonly slopesU: readonly [Float64Array, Float64Array];
  readonly slopesV: readonly [Float64Array, Float64Array];
}

/**
 * Lines that follow the velocity both ways from given points, by the midpoint rule with steps of half a cell.
 * @returns one list of points a line
 */
export function streamlines(field: VelocityField, seedsM: readonly (readonly [number, number])[], mostSteps = 900): Segments[] {
  const { mesh, u, v } = field;
  const nearest = new NearestCell(mesh);
  const at = (x: number, y: number) => {
    const c = nearest.find(x, y);
    const dx = x - mesh.centroidM[2 * c];
    const dy = y - mesh.centroidM[2 * c + 1];
    const size = Math.sqrt(mesh.hoopM2 ? mesh.hoopM2[c] : mesh.volumeM2[c]);
    // A point more than about a cell from the nearest centroid has left the mesh.
    const outside = Math.hypot(dx, dy) > 1.6 * reachOf(mesh, c);
    return {
      outside,
      size,
      u: u[c] + field.slopesU[0][c] * dx + field.slopesU[1][c] * dy,
      v: v[c] + field.slopesV[0][c] * dx + field.slopesV[1][c] * dy,
    };
  };
  const trace = (x0: number, y0: number, sign: 1 | -1) => {
    const points: number[] = [];
    let [x, y] = [x0, y0];
    for (let k = 0; k < mostSteps; k++) {
      const here = at(x, y);
      const speed = Math.hypot(here.u, here.v);
      if (here.outside || !(speed > 0)) break;
      points.push(x, y);
      const h = (sign * 0.5 * here.size) / speed;
      const half = at(x + 0.5 * h * here.u, y + 0.5 * h * here.v);
      const fast = Math.hypot(half.u, half.v);
      if (half.outside || !(fast > 0)) break;
      const g = (sign * 0.5 * here.size) / fast;
      x += g * half.u;
      y += g * half.v;
    }
    return points;
  };
  return seedsM.map(([x, y]) => {
    const back = trace(x, y, -1);
    const line: number[] = [];
    for (let k = back.length - 2; k >= 2; k -= 2) line.push(back[k], back[k + 1]);
    return [...line, ...trace(x, y, 1)];
  });
}

/** Distance from a cell's centroid to its farthest corner, m. */
function reachOf(mesh: FaceMesh, c: number): number {
  let reach = 0;
  for (let k = mesh.cellStart[c]; k < mesh.cellStart[c + 1]; k++) {
    const p = mesh.cellPoints[k];
    reach = Math.max(reach, Math.hypot(mesh.pointsM[2 * p] - mesh.centroidM[2 * c], mesh.pointsM[2 * p + 1] - mesh.centroidM[2 * c + 1]));
  }
  return reach;
}
