import { type CellTree, cellsAcross, longestOf } from "./cellTree.ts";
import { CELL_KINDS, type Grid } from "./grid.ts";
import { cutAtLevel } from "./levelCut.ts";
import { extentOf, longestSide } from "./surface.ts";
import { AXES, dot, size, times, type Vector } from "./vector.ts";

/** A plane or a value that cuts no cell, in a sentence. */
export class NoCut extends Error {}

/** A plane by its normal, of any length but none, and a place in it, in the grid's unit. */
export interface Plane {
  readonly normal: Vector;
  readonly through: Vector;
}

/** A plane as a person says it, in the file's unit of length: across an axis, 0 is x, or by its normal. */
export type Cut = { readonly across: 0 | 1 | 2; readonly at: number } | Plane;

export const planeOf = (cut: Cut): Plane => ("across" in cut ? acrossAxis(cut.across, cut.at) : cut);

/** points nearer to a plane than this over the longest side lie in it */
const IN_PLANE = 1e-10;

/** A plane across an axis, 0 is x. */
export const acrossAxis = (axis: 0 | 1 | 2, at: number): Plane => ({
  normal: [0, 1, 2].map((d) => (d === axis ? 1 : 0)) as unknown as Vector,
  through: [0, 1, 2].map((d) => (d === axis ? at : 0)) as unknown as Vector,
});

/** The axis a plane stands across, and where; nothing where it lies askew. */
export function axisOf({ normal, through }: Plane): { readonly axis: 0 | 1 | 2; readonly at: number } | undefined {
  const axis = ([0, 1, 2] as const).find((d) => normal[(d + 1) % 3] === 0 && normal[(d + 2) % 3] === 0);
  return axis === undefined || normal[axis] === 0 ? undefined : { axis, at: through[axis] };
}

/** A plane in words: "x 0.3", or where it lies askew "through (0, 0, 1) across (1, 1, 0)". */
export function planeWords(plane: Plane): string {
  const straight = axisOf(plane);
  if (straight) return `${AXES[straight.axis]} ${straight.at}`;
  const text = (v: Vector) => `(${v.map((x) => Number(x.toPrecision(6))).join(", ")})`;
  return `the plane through ${text(plane.through)} across ${text(plane.normal)}`;
}

/**
 * The polygons in which a plane cuts the cells of a grid in space, each with the values of its cell; values on points are taken linear along the
 * edges. Points in the plane count as above it, so that a plane through a layer of faces gives the faces below it once.
 * @param tree of the grid, where one is at hand: cells far from the plane are then not asked
 * @throws {NoCut} it has no cell in space there
 * @throws {RangeError} The normal has no length.
 */
export function cutGrid(grid: Grid, plane: Plane, tree?: CellTree): Grid {
  const length = size(plane.normal);
  if (!(length > 0 && Number.isFinite(length))) throw new RangeError("The normal of a plane has a length.");
  const normal = times(plane.normal, 1 / length);
  const offset = dot(normal, plane.through);
  const { points } = grid;
  const side = tree ? longestOf(tree) : longestSide(points);
  const [a, b, c] = normal;
  const straight = axisOf(plane);
  const near = IN_PLANE * side;
  const heights = (list: Int32Array, from: number, to: number, out: Float64Array): void => {
    for (let k = from; k < to; k++) {
      const q = 3 * list[k];
      const g = a * points[q] + b * points[q + 1] + c * points[q + 2] - offset;
      out[k - from] = g < near && g > -near ? 0 : g;
    }
  };
  const cut = cutAtLevel(grid, tree ? cellsAcross(tree, normal, offset) : everyCell(grid), { heights, side });
  if (!cut) throw new NoCut(`${missing(grid, plane)}`);
  // Round-off along the edges would leave what stands across an axis a little bent.
  if (straight) for (let q = straight.axis; q < cut.grid.points.length; q += 3) cut.grid.points[q] = straight.at;
  return { ...cut.grid, notes: [...cut.grid.notes, said(grid, cut.cellOf.length, planeWords(plane))] };
}

export const everyCell = ({ kinds }: Grid): Int32Array => Int32Array.from(kinds, (_, c) => c);

const said = ({ kinds }: Grid, cells: number, where: string): string =>
  `Cut at ${where} of the file's unit of length: ${cells} of ${kinds.length} cells lie there.`;

function missing(grid: Grid, plane: Plane): string {
  if (!grid.kinds.some((k) => CELL_KINDS[k].dimension === 3)) return "The grid has no cell in space that could be cut.";
  const { low, high } = extentOf(grid.points);
  const straight = axisOf(plane);
  return straight
    ? `The plane at ${AXES[straight.axis]} ${straight.at} cuts no cell; the cells reach from ${low[straight.axis]} to ${high[straight.axis]} in the file's unit of length.`
    : `${planeWords(plane)[0].toUpperCase()}${planeWords(plane).slice(1)} cuts no cell; the cells reach from (${low.join(", ")}) to (${high.join(", ")}) in the file's unit of length.`;
}
