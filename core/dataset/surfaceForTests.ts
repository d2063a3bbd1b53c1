import type { Grid, GridArray } from "./grid.ts";
import { faceGeometry, surfaceOf } from "./surface.ts";
import { surfaceEdges, surfaceFaults } from "./surfaceEdges.ts";
import type { Vector } from "./vector.ts";

const TRIANGLE = 5;
const POLYGON = 7;

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

/** Faces of a box of sides `size` from `low`, n by n quadrilaterals a side, outward; the sides in the order -x, +x, -y, +y, -z, +z. */
export function boxFaces(low: Vector, size: Vector, n: number): Vector[][] {
  const faces: Vector[][] = [];
  for (let d = 0; d < 3; d++)
    for (const side of [0, 1]) {
      const [u, v] = side ? [(d + 1) % 3, (d + 2) % 3] : [(d + 2) % 3, (d + 1) % 3];
      const corner = (i: number, j: number): Vector => {
        const x = [...low];
        x[d] += side * size[d];
        x[u] += (i * size[u]) / n;
        x[v] += (j * size[v]) / n;
        return x as unknown as Vector;
      };
      for (let i = 0; i < n; i++) for (let j = 0; j < n; j++) faces.push([corner(i, j), corner(i + 1, j), corner(i + 1, j + 1), corner(i, j + 1)]);
    }
  return faces;
}

/** A surface with all that is found out about it. */
export function stitched(grid: Grid) {
  const surface = surfaceOf(grid);
  const geometry = faceGeometry(surface);
  const edges = surfaceEdges(surface);
  const faults = surfaceFaults(surface, edges, geometry);
  return { grid, surface, geometry, edges, faults, sign: faults.sign };
}
