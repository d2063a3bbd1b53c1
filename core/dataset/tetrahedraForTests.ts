import type { Grid } from "./grid.ts";

const TETRAHEDRON = 10;
/** a hexahedron's corners as six tetrahedra */
const SIX = [
  [0, 1, 2, 6],
  [0, 2, 3, 6],
  [0, 3, 7, 6],
  [0, 7, 4, 6],
  [0, 4, 5, 6],
  [0, 5, 1, 6],
];

/** A grid of hexahedra with six tetrahedra in place of each. */
export function asTetrahedra(grid: Grid): Grid {
  const parts = Array.from(grid.kinds.keys()).flatMap((c) => SIX.map((t) => t.map((k) => grid.corners[8 * c + k])));
  return {
    ...grid,
    kinds: new Uint8Array(parts.length).fill(TETRAHEDRON),
    cellStart: Int32Array.from({ length: parts.length + 1 }, (_, k) => 4 * k),
    corners: Int32Array.from(parts.flat()),
  };
}
