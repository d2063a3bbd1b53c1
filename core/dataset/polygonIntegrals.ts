import type { Grid, GridArray } from "./grid.ts";
import { areaVector } from "./surface.ts";
import { size, type Vector } from "./vector.ts";

/** What a field comes to over polygons. */
export interface Integral {
  /** their area, in the square of the grid's unit */
  readonly area: number;
  /** mean over the area of each component; NaN where nothing is known */
  readonly mean: readonly number[];
  /** of a vector of three components what goes through them, towards the normal they were given by; in its unit times the square of the grid's */
  readonly through?: number;
  /** area of polygons without a value */
  readonly gaps: number;
}

/**
 * Integrates a field over flat polygons: values of cells as they are; values on points linear over triangles about each polygon's first corner.
 * @param towards the side on which what goes through counts as positive
 */
export function integralOver(grid: Grid, array: GridArray, on: "cells" | "points", towards: Vector): Integral {
  const { components: n, values } = array;
  const sum = new Float64Array(n);
  let [area, known, through] = [0, 0, 0];
  for (let c = 0; c < grid.kinds.length; c++) {
    const own = grid.corners.subarray(grid.cellStart[c], grid.cellStart[c + 1]);
    for (let k = 1; k + 1 < own.length; k++) {
      const corners = [own[0], own[k], own[k + 1]];
      const vector = areaVector(corners.map((q): Vector => [grid.points[3 * q], grid.points[3 * q + 1], grid.points[3 * q + 2]]));
      const piece = size(vector);
      const value = Array.from({ length: n }, (_, d) =>
        on === "cells" ? values[n * c + d] : corners.reduce((s, q) => s + values[n * q + d] / 3, 0),
      );
      area += piece;
      if (!value.every(Number.isFinite)) continue;
      known += piece;
      for (let d = 0; d < n; d++) sum[d] += piece * value[d];
      if (n === 3) through += (piece * value.reduce((s, v, d) => s + v * towards[d], 0)) / size(towards);
    }
  }
  const mean = Array.from(sum, (s) => (known > 0 ? s / known : Number.NaN));
  return { area, mean, gaps: area - known, ...(n === 3 ? { through } : {}) };
}
