import { renumbered } from "./boundaries.ts";
import type { Grid, GridArray } from "./grid.ts";
import { mergePoints } from "./mergePoints.ts";
import { longestSide } from "./surface.ts";

/** points nearer than this over the longest side are one */
const SAME = 1e-9;

/** A grid whose points that lie in one place are one, with the values of the first: pieces that were put together meet then. */
export function weld(grid: Grid): Grid {
  const { place, places } = mergePoints(grid.points, SAME * longestSide(grid.points));
  const lost = (grid.points.length - places.length) / 3;
  if (!lost) return grid;
  const count = places.length / 3;
  const onPoints = grid.onPoints.map(({ name, components, values }): GridArray => {
    const out = new Float64Array(components * count);
    for (let q = place.length - 1; q >= 0; q--) out.set(values.subarray(components * q, components * (q + 1)), components * place[q]);
    return { name, components, values: out };
  });
  return {
    ...grid,
    points: places,
    corners: grid.corners.map((q) => place[q]),
    polyhedra: new Map([...grid.polyhedra].map(([c, faces]) => [c, faces.map((f) => f.map((q) => place[q]))])),
    onPoints,
    ...(grid.boundaries ? { boundaries: renumbered(grid.boundaries, (q) => place[q]) } : {}),
    notes: [...grid.notes, `${lost} points lay where another one does and were made one with it.`],
  };
}
