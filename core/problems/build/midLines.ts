import type { RectangleMesh } from "../../mesh/rectangle.ts";
import { lagrange, lowest, stencilStart } from "../../numeric/lagrange.ts";
import { centres } from "./problem.ts";

const FOUR = [0, 1, 2, 3];

/** A cell field along the line x = const of a rectangle, at the heights of the cell centres, by cubic interpolation. */
export function alongColumn(mesh: RectangleMesh, values: ArrayLike<number>, xM: number): { at: number[]; values: number[] } {
  const { x, y, nx } = centres(mesh);
  const s = stencilStart(x, xM, 4);
  const xs = FOUR.map((k) => x[s + k]);
  return {
    at: [...y],
    values: Array.from(y, (_, j) =>
      lagrange(
        xs,
        FOUR.map((k) => values[j * nx + s + k]),
        xM,
      ),
    ),
  };
}

/** The same along y = const. */
export function alongRow(mesh: RectangleMesh, values: ArrayLike<number>, yM: number): { at: number[]; values: number[] } {
  const { x, y, nx } = centres(mesh);
  const s = stencilStart(y, yM, 4);
  const ys = FOUR.map((k) => y[s + k]);
  return {
    at: [...x],
    values: Array.from(x, (_, i) =>
      lagrange(
        ys,
        FOUR.map((k) => values[(s + k) * nx + i]),
        yM,
      ),
    ),
  };
}

/** Largest value along a line and where it lies. */
export function highest(at: readonly number[], values: readonly number[]): { x: number; value: number } {
  const found = lowest(
    at,
    values.map((q) => -q),
  );
  return { x: found.x, value: -found.value };
}
