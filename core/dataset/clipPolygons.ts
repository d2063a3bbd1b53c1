import type { Grid, GridArray } from "./grid.ts";

const POLYGON = 7;

/**
 * What polygons leave below a level: those that lie across it are cut off there, with values on points taken linear along their sides.
 * @param above how far a point of the grid is above it, below it negative
 * @returns the polygons, and which of the grid's each comes from
 */
export function clipPolygons(grid: Grid, above: (point: number) => number): { readonly grid: Grid; readonly from: Int32Array } {
  const { points, cellStart, corners } = grid;
  const heights = Float64Array.from({ length: points.length / 3 }, (_, q) => above(q));
  const ends: number[] = [];
  const shares: number[] = [];
  const known = new Map<number, number>();
  const first = points.length / 3;
  const node = (p: number, q: number): number => {
    const [low, high] = heights[p] < heights[q] ? [p, q] : [q, p];
    const key = low * first + high;
    let n = known.get(key);
    if (n === undefined) {
      n = first + shares.length;
      known.set(key, n);
      ends.push(low, high);
      shares.push(-heights[low] / (heights[high] - heights[low]));
    }
    return n;
  };
  const list: number[] = [];
  const start = [0];
  const from: number[] = [];
  for (let c = 0; c < grid.kinds.length; c++) {
    const begun = list.length;
    const [a, b] = [cellStart[c], cellStart[c + 1]];
    for (let k = a; k < b; k++) {
      const [q, next] = [corners[k], corners[k + 1 < b ? k + 1 : a]];
      if (heights[q] <= 0) list.push(q);
      if (heights[q] < 0 !== heights[next] < 0 && heights[q] !== 0 && heights[next] !== 0) list.push(node(q, next));
    }
    if (list.length - begun < 3) list.length = begun;
    else {
      start.push(list.length);
      from.push(c);
    }
  }
  const mixed = (values: Float64Array, components: number): Float64Array => {
    const out = new Float64Array(values.length + components * shares.length);
    out.set(values);
    shares.forEach((s, n) => {
      for (let d = 0; d < components; d++)
        out[values.length + components * n + d] = (1 - s) * values[components * ends[2 * n] + d] + s * values[components * ends[2 * n + 1] + d];
    });
    return out;
  };
  const cut: Grid = {
    points: mixed(points, 3),
    kinds: new Uint8Array(from.length).fill(POLYGON),
    cellStart: Int32Array.from(start),
    corners: Int32Array.from(list),
    polyhedra: new Map(),
    onPoints: grid.onPoints.map((a): GridArray => ({ ...a, values: mixed(a.values, a.components) })),
    onCells: grid.onCells.map(
      (a): GridArray => ({
        ...a,
        values: Float64Array.from(from.flatMap((c) => Array.from(a.values.subarray(a.components * c, a.components * (c + 1))))),
      }),
    ),
    notes: grid.notes,
  };
  return { grid: cut, from: Int32Array.from(from) };
}
