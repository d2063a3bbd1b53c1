import type { FaceMesh } from "./faceMesh.ts";

/**
 * The mesh of a flow that is the same in every plane through the x axis: y is the radius. Volumes and areas are those of one radian,
 * exact for straight-edged cells (Pappus), so that a uniform pressure on a closed cell leaves exactly its hoop share.
 * @throws {RangeError} A point below the axis.
 */
export function revolved(mesh: FaceMesh): FaceMesh {
  const { pointsM, cellCount, faceCount, volumeM2, centroidM, areaVectorM, faceCentreM, cellPoints, cellStart } = mesh;
  for (let p = 1; p < pointsM.length; p += 2) if (pointsM[p] < 0) throw new RangeError("A revolved mesh must not reach below its axis y = 0.");
  const volume = new Float64Array(cellCount);
  const centroid = new Float64Array(2 * cellCount);
  for (let c = 0; c < cellCount; c++) {
    volume[c] = volumeM2[c] * centroidM[2 * c + 1];
    const [x, y] = revolvedCentroid(pointsM, cellPoints, cellStart[c], cellStart[c + 1]);
    centroid[2 * c] = x / volume[c];
    centroid[2 * c + 1] = y / volume[c];
  }
  const area = new Float64Array(2 * faceCount);
  for (let f = 0; f < faceCount; f++) {
    const radius = faceCentreM[2 * f + 1];
    area[2 * f] = areaVectorM[2 * f] * radius;
    area[2 * f + 1] = areaVectorM[2 * f + 1] * radius;
  }
  return { ...mesh, volumeM2: volume, centroidM: centroid, areaVectorM: area, hoopM2: volumeM2 };
}

/** Integrals of x y and y y over a polygon, by triangles from the origin's side of each edge. */
function revolvedCentroid(points: Float64Array, corners: Int32Array, from: number, to: number): [number, number] {
  let xy = 0;
  let yy = 0;
  const a = corners[from];
  const [ax, ay] = [points[2 * a], points[2 * a + 1]];
  for (let k = from + 1; k + 1 < to; k++) {
    const [bx, by] = [points[2 * corners[k]], points[2 * corners[k] + 1]];
    const [cx, cy] = [points[2 * corners[k + 1]], points[2 * corners[k + 1] + 1]];
    const area = ((bx - ax) * (cy - ay) - (cx - ax) * (by - ay)) / 2;
    // Quadratics over a triangle: a twelfth of the sum of products of corners and of sums.
    const sx = ax + bx + cx;
    const sy = ay + by + cy;
    xy += (area / 12) * (ax * ay + bx * by + cx * cy + sx * sy);
    yy += (area / 12) * (ay * ay + by * by + cy * cy + sy * sy);
  }
  return [xy, yy];
}
