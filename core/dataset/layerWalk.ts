import type { Grid } from "./grid.ts";
import { type GridFaces, type Sides, sidesOf } from "./gridFaces.ts";

/** Goes from face to face through the cells of a grid, as layers along its outside lie behind one another. */
export class LayerWalk {
  private readonly sides: Sides;

  constructor(
    readonly grid: Grid,
    readonly faces: GridFaces,
  ) {
    this.sides = sidesOf(grid.kinds.length, faces);
  }

  /** Direction across a face, of length 1, the mean of its corners, and its area. */
  plane(f: number): { readonly normal: readonly number[]; readonly middle: readonly number[]; readonly area: number } {
    const { points } = this.grid;
    const { start, corners } = this.faces;
    const middle = [0, 1, 2].map((d) => this.along(f, d));
    const area = [0, 0, 0];
    for (let k = start[f]; k < start[f + 1]; k++) {
      const p = [0, 1, 2].map((d) => points[3 * corners[k] + d] - middle[d]);
      const q = [0, 1, 2].map((d) => points[3 * corners[k + 1 < start[f + 1] ? k + 1 : start[f]] + d] - middle[d]);
      for (let d = 0; d < 3; d++) area[d] += p[(d + 1) % 3] * q[(d + 2) % 3] - p[(d + 2) % 3] * q[(d + 1) % 3];
    }
    const length = Math.hypot(...area);
    return { normal: area.map((v) => v / (length || 1)), middle, area: length / 2 };
  }

  /** Mean of a face's corners along one axis. */
  private along(f: number, d: number): number {
    const { start, corners } = this.faces;
    let sum = 0;
    for (let k = start[f]; k < start[f + 1]; k++) sum += this.grid.points[3 * corners[k] + d];
    return sum / (start[f + 1] - start[f]);
  }

  /** How far the mean of a face's corners is along a direction. */
  level(f: number, normal: readonly number[]): number {
    return normal[0] * this.along(f, 0) + normal[1] * this.along(f, 1) + normal[2] * this.along(f, 2);
  }

  /** The face of a cell that shares no corner with one of its faces, -1 where there is none or more than one. */
  opposite(cell: number, face: number): number {
    const { sides } = this;
    let found = -1;
    for (let k = sides.start[cell]; k < sides.start[cell + 1]; k++) {
      const f = sides.faces[k];
      if (f === face || this.touch(f, face)) continue;
      if (found >= 0) return -1;
      found = f;
    }
    return found;
  }

  /** Whether two faces share a corner. */
  private touch(f: number, g: number): boolean {
    const { start, corners } = this.faces;
    for (let k = start[f]; k < start[f + 1]; k++) for (let m = start[g]; m < start[g + 1]; m++) if (corners[k] === corners[m]) return true;
    return false;
  }

  /** The cell on the other side of a face, -1 outside. */
  across(cell: number, face: number): number {
    return this.faces.owner[face] === cell ? this.faces.neighbour[face] : this.faces.owner[face];
  }
}
