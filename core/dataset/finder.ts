import { type CellTree, cellsRound, longestOf } from "./cellTree.ts";
import { facesOf, type Grid, type GridArray } from "./grid.ts";
import type { Vector } from "./vector.ts";

/** how far outside a part a place may lie, as a share of it, and still count as inside: neighbours share their rims */
const RIM = 1e-9;

/** Where a place lies: in one of the tetrahedra a cell falls into about its middle. */
interface Part {
  readonly cell: number;
  /** corners of the face the part stands on, and which of its edges it has */
  readonly face: readonly number[];
  readonly edge: number;
}

/**
 * Finds the cells places lie in, and what point values are there. Each cell falls into tetrahedra about the mean of its corners and of each face;
 * values are linear in these, so that a field linear in space is met exactly in cells of any kind and goes over from cell to cell without a step.
 */
export class Finder {
  private last: Part | undefined;
  private readonly share = new Float64Array(4);
  private readonly side: number;

  constructor(
    readonly grid: Grid,
    readonly tree: CellTree,
  ) {
    this.side = longestOf(tree);
  }

  /** Cell a place lies in, -1 where there is none. */
  cellAt(place: Vector): number {
    return this.partAt(place)?.cell ?? -1;
  }

  /**
   * Values at a place, one a component, into `out`.
   * @param array on points
   * @returns whether the place lies in a cell
   */
  valueAt(place: Vector, array: GridArray, out: Float64Array): boolean {
    const part = this.partAt(place);
    if (!part) return false;
    const { cellStart, corners } = this.grid;
    const { components, values } = array;
    const [whole, ofFace, first, second] = this.share;
    const [from, to] = [cellStart[part.cell], cellStart[part.cell + 1]];
    const [p, q] = [part.face[part.edge], part.face[(part.edge + 1) % part.face.length]];
    for (let d = 0; d < components; d++) {
      let mean = 0;
      for (let k = from; k < to; k++) mean += values[components * corners[k] + d];
      let face = 0;
      for (const r of part.face) face += values[components * r + d];
      out[d] =
        (whole * mean) / (to - from) + (ofFace * face) / part.face.length + first * values[components * p + d] + second * values[components * q + d];
    }
    return true;
  }

  /** Longest side of the box round a cell. */
  sizeOf(cell: number): number {
    const { points, cellStart, corners } = this.grid;
    let longest = 0;
    for (let d = 0; d < 3; d++) {
      let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
      for (let k = cellStart[cell]; k < cellStart[cell + 1]; k++) {
        low = Math.min(low, points[3 * corners[k] + d]);
        high = Math.max(high, points[3 * corners[k] + d]);
      }
      longest = Math.max(longest, high - low);
    }
    return longest;
  }

  private partAt(place: Vector): Part | undefined {
    // Places that are asked one after the other mostly lie in the same part, or at least in the same cell.
    if (this.last) {
      const middle = this.middleOf(this.last.cell);
      if (this.inside(place, middle, this.last.face, this.meanOf(this.last.face), this.last.edge)) return this.last;
      const found = this.partOf(this.last.cell, place);
      if (found) return this.remember(found);
    }
    for (const cell of cellsRound(this.tree, place, RIM * this.side)) {
      if (cell === this.last?.cell) continue;
      const found = this.partOf(cell, place);
      if (found) return this.remember(found);
    }
    return undefined;
  }

  private remember(part: Part): Part {
    this.last = part;
    return part;
  }

  private partOf(cell: number, place: Vector): Part | undefined {
    if (!this.inBox(cell, place)) return undefined;
    const middle = this.middleOf(cell);
    for (const face of facesOf(this.grid, cell)) {
      const mean = this.meanOf(face);
      for (let edge = 0; edge < face.length; edge++) if (this.inside(place, middle, face, mean, edge)) return { cell, face, edge };
    }
    return undefined;
  }

  private inBox(cell: number, place: Vector): boolean {
    const { points, cellStart, corners } = this.grid;
    const by = RIM * this.side;
    for (let d = 0; d < 3; d++) {
      let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
      for (let k = cellStart[cell]; k < cellStart[cell + 1]; k++) {
        const v = points[3 * corners[k] + d];
        if (v < low) low = v;
        if (v > high) high = v;
      }
      if (place[d] < low - by || place[d] > high + by) return false;
    }
    return true;
  }

  private middleOf(cell: number): Vector {
    const { cellStart, corners } = this.grid;
    return this.mean(corners, cellStart[cell], cellStart[cell + 1]);
  }

  private meanOf(face: readonly number[]): Vector {
    return this.mean(face, 0, face.length);
  }

  private mean(list: ArrayLike<number>, from: number, to: number): Vector {
    const { points } = this.grid;
    let [x, y, z] = [0, 0, 0];
    for (let k = from; k < to; k++) {
      x += points[3 * list[k]];
      y += points[3 * list[k] + 1];
      z += points[3 * list[k] + 2];
    }
    return [x / (to - from), y / (to - from), z / (to - from)];
  }

  /** Whether a place lies in the part of a cell's middle, a face's mean and one edge; then its shares of these four are in `share`. */
  private inside(place: Vector, middle: Vector, face: readonly number[], mean: Vector, edge: number): boolean {
    const { points } = this.grid;
    const [p, q] = [3 * face[edge], 3 * face[(edge + 1) % face.length]];
    const [ax, ay, az] = [mean[0] - middle[0], mean[1] - middle[1], mean[2] - middle[2]];
    const [bx, by, bz] = [points[p] - middle[0], points[p + 1] - middle[1], points[p + 2] - middle[2]];
    const [cx, cy, cz] = [points[q] - middle[0], points[q + 1] - middle[1], points[q + 2] - middle[2]];
    const [x, y, z] = [place[0] - middle[0], place[1] - middle[1], place[2] - middle[2]];
    const whole = ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx);
    if (whole === 0) return false;
    const s = (x * (by * cz - bz * cy) + y * (bz * cx - bx * cz) + z * (bx * cy - by * cx)) / whole;
    if (!(s >= -RIM)) return false;
    const t = (ax * (y * cz - z * cy) + ay * (z * cx - x * cz) + az * (x * cy - y * cx)) / whole;
    if (!(t >= -RIM)) return false;
    const u = (ax * (by * z - bz * y) + ay * (bz * x - bx * z) + az * (bx * y - by * x)) / whole;
    if (!(u >= -RIM && s + t + u <= 1 + RIM)) return false;
    this.share[0] = 1 - s - t - u;
    this.share[1] = s;
    this.share[2] = t;
    this.share[3] = u;
    return true;
  }
}
