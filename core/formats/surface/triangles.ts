import type { Grid, GridArray } from "../../dataset/grid.ts";
import { mergePoints } from "../../dataset/mergePoints.ts";

const TRIANGLE = 5;
const POLYGON = 7;

/** Triangles given by their corners' coordinates as a grid: corners of equal coordinates are one point. */
export function gridOfTriangles(coordinates: Float64Array, notes: readonly string[], parts?: Grid["parts"]): Grid {
  const count = coordinates.length / 9;
  const { place, places } = mergePoints(coordinates, 0);
  return {
    points: places,
    kinds: new Uint8Array(count).fill(TRIANGLE),
    cellStart: Int32Array.from({ length: count + 1 }, (_, k) => 3 * k),
    corners: place,
    polyhedra: new Map(),
    onPoints: [],
    onCells: [],
    ...(parts?.length ? { parts } : {}),
    notes,
  };
}

/** Polygons over a list of points as a grid. */
export function gridOfPolygons(
  points: Float64Array,
  start: Int32Array,
  corners: Int32Array,
  arrays: { readonly onPoints: readonly GridArray[]; readonly onCells: readonly GridArray[] },
  notes: readonly string[],
): Grid {
  const kinds = Uint8Array.from({ length: start.length - 1 }, (_, c) => (start[c + 1] - start[c] === 3 ? TRIANGLE : POLYGON));
  return { points, kinds, cellStart: start, corners, polyhedra: new Map(), ...arrays, notes };
}
