import type { Grid, GridArray } from "./grid.ts";
import type { Vector } from "./vector.ts";

const TRIANGLE = 5;
const POLYGON = 7;
const HEXAHEDRON = 12;

/** A grid of polygons, each given by its corners' places; equal corners stay apart as in a file of separate patches. */
export function polygons(faces: readonly (readonly Vector[])[], onCells: readonly GridArray[] = []): Grid {
  const start = [0];
  for (const f of faces) start.push(start[start.length - 1] + f.length);
  return {
    points: Float64Array.from(faces.flat(2)),
    kinds: Uint8Array.from(faces, (f) => (f.length === 3 ? TRIANGLE : POLYGON)),
    cellStart: Int32Array.from(start),
    corners: Int32Array.from({ length: start[faces.length] }, (_, k) => k),
    polyhedra: new Map(),
    onPoints: [],
    onCells,
    notes: [],
  };
}

/** One side of a box of sides `size` from `low`, outward: quadrilaterals, so many along each axis. @param axis the side stands across, at its greater end or its lesser */
export function boxSide(low: Vector, size: Vector, counts: Vector, axis: number, greater: boolean): Vector[][] {
  const [u, v] = greater ? [(axis + 1) % 3, (axis + 2) % 3] : [(axis + 2) % 3, (axis + 1) % 3];
  const corner = (i: number, j: number): Vector => {
    const x = [...low];
    if (greater) x[axis] += size[axis];
    x[u] += (i * size[u]) / counts[u];
    x[v] += (j * size[v]) / counts[v];
    return x as unknown as Vector;
  };
  const faces: Vector[][] = [];
  for (let i = 0; i < counts[u]; i++)
    for (let j = 0; j < counts[v]; j++) faces.push([corner(i, j), corner(i + 1, j), corner(i + 1, j + 1), corner(i, j + 1)]);
  return faces;
}

/** All sides of a box, n by n quadrilaterals each, in the order -x, +x, -y, +y, -z, +z. */
export const boxFaces = (low: Vector, size: Vector, n: number): Vector[][] =>
  [0, 1, 2].flatMap((axis) => [false, true].flatMap((greater) => boxSide(low, size, [n, n, n], axis, greater)));

/** A block of hexahedra, so many along each axis, the first fastest. @param place of the point (i, j, k) */
export function hexahedra([ni, nj, nk]: Vector, place: (i: number, j: number, k: number) => Vector, onCells: readonly GridArray[] = []): Grid {
  const number = (i: number, j: number, k: number) => i + (ni + 1) * (j + (nj + 1) * k);
  const count = ni * nj * nk;
  const points = new Float64Array(3 * (ni + 1) * (nj + 1) * (nk + 1));
  for (let k = 0; k <= nk; k++) for (let j = 0; j <= nj; j++) for (let i = 0; i <= ni; i++) points.set(place(i, j, k), 3 * number(i, j, k));
  const corners = new Int32Array(8 * count);
  let c = 0;
  for (let k = 0; k < nk; k++)
    for (let j = 0; j < nj; j++)
      for (let i = 0; i < ni; i++)
        for (const z of [k, k + 1])
          for (const q of [number(i, j, z), number(i + 1, j, z), number(i + 1, j + 1, z), number(i, j + 1, z)]) corners[c++] = q;
  return {
    points,
    kinds: new Uint8Array(count).fill(HEXAHEDRON),
    cellStart: Int32Array.from({ length: count + 1 }, (_, k) => 8 * k),
    corners,
    polyhedra: new Map(),
    onPoints: [],
    onCells,
    notes: [],
  };
}
