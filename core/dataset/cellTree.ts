import { CELL_KINDS, type Grid } from "./grid.ts";
import type { Vector } from "./vector.ts";

/** cells of a leaf, and boxes of a greater box */
const FAN = 8;
/** places along each axis by which cells are ordered */
const PLACES = 255;
/** more cells than a grid may have */
const CELLS = 2 ** 26;

/** Boxes round the cells in space of a grid, in boxes round these: what lies in a place or across a plane is found without asking every cell. */
export interface CellTree {
  /** the cells in space, neighbours near one another; eight after one another make a leaf */
  readonly order: Int32Array;
  /** [low x, y, z, high x, y, z] of each leaf, then of every eight of these, and so on up to one box */
  readonly levels: readonly Float64Array[];
}

/** Lays out the tree of a grid's cells in space. */
export function cellTree(grid: Grid): CellTree {
  const order = ordered(grid);
  const levels = [leaves(grid, order)];
  for (let below = levels[0]; below.length > 6; below = levels[levels.length - 1]) levels.push(boxesOf(below));
  return { order, levels };
}

/** Spreads the eight lowest bits of a number so that two more fit between each. */
function spread(v: number): number {
  let x = v & 0xff;
  x = (x | (x << 8)) & 0x00f00f;
  x = (x | (x << 4)) & 0x0c30c3;
  return (x | (x << 2)) & 0x249249;
}

/** Cells in space by the interleaved digits of where their first corner lies. */
function ordered({ points, kinds, cellStart, corners }: Grid): Int32Array {
  const { low, step } = raster(points);
  const keys = new Float64Array(kinds.length);
  let n = 0;
  for (let c = 0; c < kinds.length; c++) {
    if (CELL_KINDS[kinds[c]].dimension !== 3) continue;
    const q = 3 * corners[cellStart[c]];
    const [i, j, k] = [0, 1, 2].map((d) => spread((points[q + d] - low[d]) * step[d]));
    // Place and cell in one number, so that numbers are sorted and nothing else.
    keys[n++] = (i | (j << 1) | (k << 2)) * CELLS + c;
  }
  return Int32Array.from(keys.subarray(0, n).sort(), (key) => key % CELLS);
}

function raster(points: Float64Array): { readonly low: Float64Array; readonly step: Float64Array } {
  const low = new Float64Array(3).fill(Number.POSITIVE_INFINITY);
  const high = new Float64Array(3).fill(Number.NEGATIVE_INFINITY);
  for (let q = 0; q < points.length; q += 3)
    for (let d = 0; d < 3; d++) {
      const v = points[q + d];
      if (v < low[d]) low[d] = v;
      if (v > high[d]) high[d] = v;
    }
  return { low, step: high.map((h, d) => (h > low[d] ? PLACES / (h - low[d]) : 0)) };
}

function emptyBoxes(count: number): Float64Array {
  const boxes = new Float64Array(6 * count);
  for (let b = 0; b < count; b++) {
    boxes.fill(Number.POSITIVE_INFINITY, 6 * b, 6 * b + 3);
    boxes.fill(Number.NEGATIVE_INFINITY, 6 * b + 3, 6 * b + 6);
  }
  return boxes;
}

function leaves({ points, cellStart, corners }: Grid, order: Int32Array): Float64Array {
  const boxes = emptyBoxes(Math.ceil(order.length / FAN));
  for (let n = 0; n < order.length; n++) {
    const b = 6 * Math.floor(n / FAN);
    for (let k = cellStart[order[n]]; k < cellStart[order[n] + 1]; k++)
      for (let d = 0; d < 3; d++) {
        const v = points[3 * corners[k] + d];
        if (v < boxes[b + d]) boxes[b + d] = v;
        if (v > boxes[b + 3 + d]) boxes[b + 3 + d] = v;
      }
  }
  return boxes;
}

function boxesOf(below: Float64Array): Float64Array {
  const count = below.length / 6;
  const boxes = emptyBoxes(Math.ceil(count / FAN));
  for (let n = 0; n < count; n++) {
    const b = 6 * Math.floor(n / FAN);
    for (let d = 0; d < 3; d++) {
      boxes[b + d] = Math.min(boxes[b + d], below[6 * n + d]);
      boxes[b + 3 + d] = Math.max(boxes[b + 3 + d], below[6 * n + 3 + d]);
    }
  }
  return boxes;
}

/** Leaves whose boxes, and all boxes round them, are wanted. @param wanted of box b in a list of boxes */
function leavesWhere({ levels }: CellTree, wanted: (boxes: Float64Array, b: number) => boolean): number[] {
  let found = levels[levels.length - 1].length ? [0] : [];
  for (let level = levels.length - 1; level >= 0; level--) {
    const kept = found.filter((n) => wanted(levels[level], 6 * n));
    if (level === 0) return kept;
    const count = levels[level - 1].length / 6;
    found = [];
    for (const n of kept) for (let k = FAN * n; k < Math.min(count, FAN * n + FAN); k++) found.push(k);
  }
  return found;
}

function cellsOf({ order }: CellTree, leaf: readonly number[]): Int32Array {
  const out = new Int32Array(leaf.length * FAN);
  let n = 0;
  for (const l of leaf) for (let k = FAN * l; k < Math.min(order.length, FAN * l + FAN); k++) out[n++] = order[k];
  return out.subarray(0, n);
}

/** Cells whose leaf the plane normal · x = offset goes through, and a few more. */
export function cellsAcross(tree: CellTree, normal: Vector, offset: number): Int32Array {
  return cellsOf(
    tree,
    leavesWhere(tree, (boxes, b) => {
      let [least, most] = [-offset, -offset];
      for (let d = 0; d < 3; d++) {
        const [low, high] = [normal[d] * boxes[b + d], normal[d] * boxes[b + 3 + d]];
        least += Math.min(low, high);
        most += Math.max(low, high);
      }
      return least <= 0 && most >= 0;
    }),
  );
}

/** Cells whose leaf has a place inside, and a few more. @param by how far out of a box the place may lie */
export function cellsRound(tree: CellTree, [x, y, z]: Vector, by = 0): Int32Array {
  return cellsOf(
    tree,
    leavesWhere(
      tree,
      (boxes, b) =>
        x >= boxes[b] - by &&
        x <= boxes[b + 3] + by &&
        y >= boxes[b + 1] - by &&
        y <= boxes[b + 4] + by &&
        z >= boxes[b + 2] - by &&
        z <= boxes[b + 5] + by,
    ),
  );
}

/** Least and greatest value of the points of each leaf's cells: which cells a surface of one value goes through. */
export interface LeafRanges {
  readonly low: Float64Array;
  readonly high: Float64Array;
}

/** @param values one a point */
export function leafRanges({ cellStart, corners }: Grid, { order }: CellTree, values: Float64Array): LeafRanges {
  const count = Math.ceil(order.length / FAN);
  const low = new Float64Array(count).fill(Number.POSITIVE_INFINITY);
  const high = new Float64Array(count).fill(Number.NEGATIVE_INFINITY);
  for (let n = 0; n < order.length; n++) {
    const b = Math.floor(n / FAN);
    for (let k = cellStart[order[n]]; k < cellStart[order[n] + 1]; k++) {
      const v = values[corners[k]];
      if (v < low[b]) low[b] = v;
      if (v > high[b]) high[b] = v;
    }
  }
  return { low, high };
}

/** Cells of the leaves whose values reach from below the level to it or above. */
export function cellsAtLevel(tree: CellTree, { low, high }: LeafRanges, level: number): Int32Array {
  const found: number[] = [];
  for (let b = 0; b < low.length; b++) if (low[b] < level && high[b] >= level) found.push(b);
  return cellsOf(tree, found);
}

/** Longest side of the room the cells fill. */
export function longestOf({ levels }: CellTree): number {
  const all = levels[levels.length - 1];
  return all.length ? Math.max(all[3] - all[0], all[4] - all[1], all[5] - all[2]) : 0;
}
