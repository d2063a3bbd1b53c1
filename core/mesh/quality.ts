import { type FaceMesh, faceShift } from "./faceMesh.ts";

/** Figures a mesh is judged by before anything is run on it. */
export interface MeshQuality {
  readonly cells: number;
  /** (sum of cell volumes / N)^(1/2), m */
  readonly spacingM: number;
  readonly smallestEdgeM: number;
  readonly largestEdgeM: number;
  /** of the worst cell: longest over shortest edge, of a triangle the circumradius over twice the inradius (1 when equilateral) */
  readonly aspectRatio: number;
  /** largest ratio of the volumes of two joined cells */
  readonly neighbourVolumeRatio: number;
  /** largest angle between a face's normal and the line of the two centroids, degrees */
  readonly nonOrthogonalityDeg: number;
  readonly totalVolumeM2: number;
}

/**
 * Representative spacing h = (volume / N)^(1/D), m. @source Celik et al., J. Fluids Eng. 130, 078001 (2008)
 * @example
 * representativeSpacing(0.5, 50, 2) // 0.1
 */
export function representativeSpacing(totalVolume: number, cells: number, dimension: 2 | 3): number {
  if (!(totalVolume > 0 && cells > 0)) throw new RangeError("Volume and cell count must be positive.");
  return (totalVolume / cells) ** (1 / dimension);
}

/**
 * Circumradius over twice the inradius from the three edges: a b c / (8 (s - a)(s - b)(s - c)), s half the sum.
 * @example
 * triangleAspect([1, 1, 1]).toFixed(6) // "1.000000"
 */
export function triangleAspect([a, b, c]: readonly number[]): number {
  const s = (a + b + c) / 2;
  return (a * b * c) / (8 * Math.max((s - a) * (s - b) * (s - c), Number.MIN_VALUE));
}

/** Counts, spacing, aspect ratio, neighbour volume ratio and non-orthogonality of a plane mesh. */
export function meshQuality(mesh: FaceMesh): MeshQuality {
  const { pointsM, cellPoints, cellStart, volumeM2, centroidM, areaVectorM, owner, neighbour } = mesh;
  let smallest = Number.POSITIVE_INFINITY;
  let largest = 0;
  let aspect = 1;
  let total = 0;
  const edges: number[] = [];
  for (let c = 0; c < mesh.cellCount; c++) {
    let shortest = Number.POSITIVE_INFINITY;
    let longest = 0;
    edges.length = 0;
    for (let k = cellStart[c]; k < cellStart[c + 1]; k++) {
      const a = cellPoints[k];
      const b = cellPoints[k + 1 < cellStart[c + 1] ? k + 1 : cellStart[c]];
      const edge = Math.hypot(pointsM[2 * b] - pointsM[2 * a], pointsM[2 * b + 1] - pointsM[2 * a + 1]);
      edges.push(edge);
      shortest = Math.min(shortest, edge);
      longest = Math.max(longest, edge);
    }
    smallest = Math.min(smallest, shortest);
    largest = Math.max(largest, longest);
    aspect = Math.max(aspect, cellStart[c + 1] - cellStart[c] === 3 ? triangleAspect(edges) : longest / shortest);
    total += volumeM2[c];
  }
  let ratio = 1;
  let angle = 0;
  for (let f = 0; f < mesh.joinCount; f++) {
    const o = owner[f];
    const n = neighbour[f];
    ratio = Math.max(ratio, volumeM2[o] / volumeM2[n], volumeM2[n] / volumeM2[o]);
    const [shiftX, shiftY] = faceShift(mesh, f);
    const dx = centroidM[2 * n] + shiftX - centroidM[2 * o];
    const dy = centroidM[2 * n + 1] + shiftY - centroidM[2 * o + 1];
    const sx = areaVectorM[2 * f];
    const sy = areaVectorM[2 * f + 1];
    const cosine = (dx * sx + dy * sy) / (Math.hypot(dx, dy) * Math.hypot(sx, sy));
    angle = Math.max(angle, Math.acos(Math.min(1, Math.max(-1, cosine))));
  }
  return {
    cells: mesh.cellCount,
    spacingM: representativeSpacing(total, mesh.cellCount, 2),
    smallestEdgeM: smallest,
    largestEdgeM: largest,
    aspectRatio: aspect,
    neighbourVolumeRatio: ratio,
    nonOrthogonalityDeg: (angle * 180) / Math.PI,
    totalVolumeM2: total,
  };
}
