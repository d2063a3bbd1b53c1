import { CELL_KINDS, type GridArray } from "./grid.ts";
import { LayerWalk } from "./layerWalk.ts";
import type { SlopeWork } from "./slopes.ts";

/** How a vector rises from a wall, face by face. Lengths in the grid's unit. */
export interface WallSlopes {
  readonly cell: Int32Array;
  /** of the part along the wall, per length inwards: [x, y, z] of each */
  readonly slope: Float64Array;
  /** of the cell's middle from the plane of the face */
  readonly distance: Float64Array;
  readonly area: Float64Array;
  /** faces at which two places behind one another were read */
  readonly byTwo: number;
}

interface Read {
  readonly away: number;
  readonly value: readonly [number, number, number];
}

/** places further aside than inwards are not behind one another */
const ASIDE = 1;

/**
 * Slope of a vector at a wall, across it. Values on cells are read at the middles of the cell at the wall and of the one behind it, and the wall stands
 * still; values on points are read at the wall itself, at the face opposite and at the one behind that. A parabola through the three is exact of a
 * parabola. Where the cell has no face opposite, or none is straight behind it, a straight line through two stands instead.
 * @param isWall of each face of the grid
 */
export function wallSlopes(
  { grid, faces, middles }: SlopeWork,
  array: GridArray,
  on: "cells" | "points",
  isWall: (face: number) => boolean,
): WallSlopes {
  const walk = new LayerWalk(grid, faces);
  const list = faces.owner.reduce<number[]>((out, c, f) => {
    if (faces.neighbour[f] < 0 && CELL_KINDS[grid.kinds[c]].dimension === 3 && isWall(f)) out.push(f);
    return out;
  }, []);
  const reader = on === "cells" ? cellReader(array, middles, walk, faces.owner) : pointReader(array, walk, { grid, faces });
  const [slope, distance, area] = [new Float64Array(3 * list.length), new Float64Array(list.length), new Float64Array(list.length)];
  let byTwo = 0;
  list.forEach((f, k) => {
    const { normal, middle, area: own } = walk.plane(f);
    const c = faces.owner[f];
    const towards = (at: ArrayLike<number>) => {
      const d = [at[0] - middle[0], at[1] - middle[1], at[2] - middle[2]];
      const away = Math.abs(d[0] * normal[0] + d[1] * normal[1] + d[2] * normal[2]);
      return { away, aside: Math.sqrt(Math.max(0, d[0] ** 2 + d[1] ** 2 + d[2] ** 2 - away ** 2)) };
    };
    distance[k] = towards(middles.subarray(3 * c, 3 * c + 3)).away;
    area[k] = own;
    const { wall, first, second } = reader(f, towards);
    byTwo += second ? 1 : 0;
    let across = 0;
    for (let d = 0; d < 3; d++) {
      slope[3 * k + d] = slopeOf(first.away, first.value[d] - wall[d], second?.away, second && second.value[d] - wall[d]);
      across += slope[3 * k + d] * normal[d];
    }
    for (let d = 0; d < 3; d++) slope[3 * k + d] -= across * normal[d];
  });
  return { cell: Int32Array.from(list, (f) => faces.owner[f]), slope, distance, area, byTwo };
}

/** Slope at nothing of a parabola through (0, 0), (a, u) and (b, v); of a straight line where there is no second. */
const slopeOf = (a: number, u: number, b?: number, v?: number): number =>
  b === undefined || v === undefined ? u / a : (u * b * b - v * a * a) / (a * b * (b - a));

type Towards = (at: ArrayLike<number>) => { readonly away: number; readonly aside: number };
type Reader = (face: number, towards: Towards) => { readonly wall: readonly number[]; readonly first: Read; readonly second?: Read };

const STILL = [0, 0, 0];

/** The second place, where it stands straight behind the first. */
const secondOf = (first: Read, { away, aside }: ReturnType<Towards>, value: Read["value"]): { readonly second?: Read } =>
  away > first.away && aside <= ASIDE * away ? { second: { away, value } } : {};

function cellReader({ values }: GridArray, middles: Float64Array, walk: LayerWalk, owner: Int32Array): Reader {
  const of = (c: number) => [values[3 * c], values[3 * c + 1], values[3 * c + 2]] as const;
  const middle = (c: number) => middles.subarray(3 * c, 3 * c + 3);
  return (f, towards) => {
    const c = owner[f];
    const first = { away: towards(middle(c)).away, value: of(c) };
    const out = walk.opposite(c, f);
    const behind = out < 0 ? -1 : walk.across(c, out);
    if (behind < 0) return { wall: STILL, first };
    return { wall: STILL, first, ...secondOf(first, towards(middle(behind)), of(behind)) };
  };
}

function pointReader({ values }: GridArray, walk: LayerWalk, { grid, faces }: Pick<SlopeWork, "grid" | "faces">): Reader {
  const { start, corners, owner } = faces;
  const mean = (points: ArrayLike<number>) => {
    const value: [number, number, number] = [0, 0, 0];
    const at: [number, number, number] = [0, 0, 0];
    for (let k = 0; k < points.length; k++)
      for (let d = 0; d < 3; d++) {
        value[d] += values[3 * points[k] + d] / points.length;
        at[d] += grid.points[3 * points[k] + d] / points.length;
      }
    return { value, at };
  };
  const of = (face: number) => corners.subarray(start[face], start[face + 1]);
  return (f, towards) => {
    const wall = mean(of(f)).value;
    const c = owner[f];
    const out = walk.opposite(c, f);
    if (out < 0) {
      const own = of(f);
      const { value, at } = mean(grid.corners.subarray(grid.cellStart[c], grid.cellStart[c + 1]).filter((q) => !own.includes(q)));
      return { wall, first: { away: towards(at).away, value } };
    }
    const near = mean(of(out));
    const first = { away: towards(near.at).away, value: near.value };
    const behind = walk.across(c, out);
    const next = behind < 0 ? -1 : walk.opposite(behind, out);
    if (next < 0) return { wall, first };
    const far = mean(of(next));
    return { wall, first, ...secondOf(first, towards(far.at), far.value) };
  };
}
