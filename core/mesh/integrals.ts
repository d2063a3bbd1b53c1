import type { FaceMesh } from "./faceMesh.ts";

/** Places and weights on a triangle, exact for polynomials of the fifth degree. @source Radon (1948); Hammer, Marlowe & Stroud, Math. Tables Aids Comput. 10 (1956) 130 */
const ROOT = Math.sqrt(15);
const TRIANGLE: readonly (readonly [a: number, b: number, weight: number])[] = [
  [1 / 3, 1 / 3, 9 / 40],
  ...[(6 - ROOT) / 21, (6 + ROOT) / 21].flatMap((s, k) => {
    const weight = (155 + (k ? ROOT : -ROOT)) / 1200;
    return [
      [s, s, weight],
      [1 - 2 * s, s, weight],
      [s, 1 - 2 * s, weight],
    ] as const;
  }),
];
/** Gauss and Legendre on an edge, exact to the fifth degree */
const EDGE: readonly (readonly [at: number, weight: number])[] = [
  [0.5 - Math.sqrt(0.15), 5 / 18],
  [0.5, 8 / 18],
  [0.5 + Math.sqrt(0.15), 5 / 18],
];

/**
 * Mean of a field over every cell, by quadrature of the fifth degree over the triangles of its corners; over the ring it sweeps where the mesh was revolved.
 * @param f field at x, y in m
 * @returns one value a cell
 */
export function cellAverages(mesh: FaceMesh, f: (xM: number, yM: number) => number): Float64Array {
  const { pointsM: p, cellStart, cellPoints, cellCount, hoopM2 } = mesh;
  const out = new Float64Array(cellCount);
  for (let c = 0; c < cellCount; c++) {
    const a = cellPoints[cellStart[c]];
    const [ax, ay] = [p[2 * a], p[2 * a + 1]];
    let [sum, size] = [0, 0];
    for (let k = cellStart[c] + 1; k + 1 < cellStart[c + 1]; k++) {
      const [b, d] = [cellPoints[k], cellPoints[k + 1]];
      const [bx, by] = [p[2 * b] - ax, p[2 * b + 1] - ay];
      const [dx, dy] = [p[2 * d] - ax, p[2 * d + 1] - ay];
      const area = (bx * dy - dx * by) / 2;
      for (const [s, t, weight] of TRIANGLE) {
        const [x, y] = [ax + s * bx + t * dx, ay + s * by + t * dy];
        const part = weight * area * (hoopM2 ? y : 1);
        sum += part * f(x, y);
        size += part;
      }
    }
    out[c] = sum / size;
  }
  return out;
}

/**
 * What flows through every face, outward from its owner, by quadrature of the fifth degree along its edge; through one radian of it where the mesh was
 * revolved.
 * @param g what flows along x and y, a unit area
 * @returns one value a face
 */
export function faceFluxes(mesh: FaceMesh, g: (xM: number, yM: number) => readonly [number, number]): Float64Array {
  const { pointsM: p, facePoints, faceCount, hoopM2 } = mesh;
  const out = new Float64Array(faceCount);
  for (let f = 0; f < faceCount; f++) {
    const [a, b] = [facePoints[2 * f], facePoints[2 * f + 1]];
    const [ax, ay] = [p[2 * a], p[2 * a + 1]];
    const [dx, dy] = [p[2 * b] - ax, p[2 * b + 1] - ay];
    for (const [at, weight] of EDGE) {
      const [x, y] = [ax + at * dx, ay + at * dy];
      // Nothing flows through the axis, and a field over the radius has no value there.
      if (hoopM2 && y === 0) continue;
      const [gx, gy] = g(x, y);
      // The owner lies on the left of the edge: outward is to its right.
      out[f] += weight * (hoopM2 ? y : 1) * (gx * dy - gy * dx);
    }
  }
  return out;
}
