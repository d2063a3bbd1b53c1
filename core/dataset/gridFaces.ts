import { CELL_KINDS, facesOf, type Grid } from "./grid.ts";

/** Faces of the cells in space, each once, with the cells on its two sides. */
export interface GridFaces {
  /** corners of face f: corners[start[f] .. start[f + 1]), outward from its owner */
  readonly start: Int32Array;
  readonly corners: Int32Array;
  readonly owner: Int32Array;
  /** cell across, -1 on the outside */
  readonly neighbour: Int32Array;
  /** faces with three cells or more, which no mesh has */
  readonly crowded: readonly number[];
}

/** A list of whole numbers that grows; typed arrays keep millions of them where objects would not. */
class Growing {
  values = new Int32Array(1024);
  length = 0;

  push(v: number): void {
    if (this.length === this.values.length) {
      const wider = new Int32Array(2 * this.length);
      wider.set(this.values);
      this.values = wider;
    }
    this.values[this.length++] = v;
  }

  taken(): Int32Array {
    return this.values.slice(0, this.length);
  }
}

/**
 * Finds which cells meet across which faces. Two faces are one where they have the same corners, in whatever order.
 * @throws {RangeError} The grid has no cell in space.
 */
export function gridFaces(grid: Grid): GridFaces {
  const table = new FaceTable(grid.corners.length);
  const owner = new Growing();
  const neighbour = new Growing();
  const crowded = new Set<number>();
  for (let c = 0; c < grid.kinds.length; c++) {
    if (CELL_KINDS[grid.kinds[c]].dimension !== 3) continue;
    for (const face of facesOf(grid, c)) {
      const known = table.find(face);
      if (known === undefined) {
        owner.push(c);
        neighbour.push(-1);
      } else if (neighbour.values[known] < 0) neighbour.values[known] = c;
      else crowded.add(known);
    }
  }
  if (!owner.length) throw new RangeError("The grid has no cell in space.");
  return { start: table.start.taken(), corners: table.corners.taken(), owner: owner.taken(), neighbour: neighbour.taken(), crowded: [...crowded] };
}

/** Faces by their corners: found by the sum and the least of them, then held against each other in full. */
class FaceTable {
  readonly start = new Growing();
  readonly corners = new Growing();
  private readonly heads: Int32Array;
  private readonly next = new Growing();

  constructor(corners: number) {
    this.start.push(0);
    let slots = 1024;
    while (slots < corners) slots *= 2;
    this.heads = new Int32Array(slots).fill(-1);
  }

  /** The face with the same corners, or nothing; then it is known from now on, by the next number. */
  find(face: readonly number[]): number | undefined {
    let [least, sum] = [face[0], 0];
    for (const q of face) {
      if (q < least) least = q;
      sum += q;
    }
    const slot = (Math.imul(least, 73_856_093) ^ Math.imul(sum, 19_349_663)) & (this.heads.length - 1);
    for (let f = this.heads[slot]; f >= 0; f = this.next.values[f]) if (this.isOf(f, face)) return f;
    this.next.push(this.heads[slot]);
    this.heads[slot] = this.next.length - 1;
    for (const q of face) this.corners.push(q);
    this.start.push(this.corners.length);
    return undefined;
  }

  private isOf(f: number, face: readonly number[]): boolean {
    const [from, to] = [this.start.values[f], this.start.values[f + 1]];
    if (to - from !== face.length) return false;
    const { values } = this.corners;
    // Few corners: each is looked for among the others.
    return face.every((q) => {
      for (let k = from; k < to; k++) if (values[k] === q) return true;
      return false;
    });
  }
}
