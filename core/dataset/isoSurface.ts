import { type CellTree, cellsAtLevel, type LeafRanges, leafRanges, longestOf } from "./cellTree.ts";
import { NoCut } from "./cutGrid.ts";
import type { Grid } from "./grid.ts";
import { cutAtLevel } from "./levelCut.ts";

/** values nearer to the level than this over the range of all are at it */
const AT_LEVEL = 1e-12;

/**
 * The surface on which a value is reached, in the polygons it makes of the cells.
 * @param values one a point, in the unit of `level`
 * @param ranges of the tree's leaves by the same values, where they are at hand
 * @throws {NoCut} it is reached nowhere
 */
export function isoSurface(
  grid: Grid,
  tree: CellTree,
  values: Float64Array,
  level: number,
  name: string,
  ranges: LeafRanges = leafRanges(grid, tree, values),
): Grid {
  let [least, most] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (let b = 0; b < ranges.low.length; b++) {
    least = Math.min(least, ranges.low[b]);
    most = Math.max(most, ranges.high[b]);
  }
  const near = AT_LEVEL * (most - least);
  const heights = (list: Int32Array, from: number, to: number, out: Float64Array): void => {
    for (let k = from; k < to; k++) {
      const g = values[list[k]] - level;
      out[k - from] = g < near && g > -near ? 0 : g;
    }
  };
  const cut = cutAtLevel(grid, cellsAtLevel(tree, ranges, level), { heights, side: longestOf(tree) });
  if (!cut) throw new NoCut(`${name} is ${level} nowhere inside the cells; it reaches from ${least} to ${most}.`);
  return cut.grid;
}
