import { grouped } from "../numeric/grouped.ts";
import { Growing } from "../numeric/growing.ts";
import { CELL_KINDS, type Grid } from "./grid.ts";

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

/**
 * Finds which cells meet across which faces. Two faces are one where they have the same corners, in whatever order.
 * @throws {RangeError} The grid has no cell in space.
 */
export function gridFaces(grid: Grid): GridFaces {
  const { kinds, cellStart, corners, polyhedra } = grid;
  const table = new FaceTable(corners.length);
  const owner = new Growing();
  const neighbour = new Growing();
  const crowded = new Set<number>();
  const claim = (c: number, n: number) => {
    const known = table.find(n);
    if (known < 0) {
      owner.push(c);
      neighbour.push(-1);
    } else if (neighbour.values[known] < 0) neighbour.values[known] = c;
    else crowded.add(known);
  };
  for (let c = 0; c < kinds.length; c++) {
    const kind = CELL_KINDS[kinds[c]];
    if (kind.dimension !== 3) continue;
    const own = polyhedra.get(c);
    const at = own ? 0 : cellStart[c];
    for (const face of own ?? kind.faces ?? []) {
      const list = table.room(face.length);
      for (let k = 0; k < face.length; k++) list[k] = own ? face[k] : corners[at + face[k]];
      claim(c, face.length);
    }
  }
  if (!owner.length) throw new RangeError("The grid has no cell in space.");
  return { start: table.start.taken(), corners: table.corners.taken(), owner: owner.taken(), neighbour: neighbour.taken(), crowded: [...crowded] };
}

/** Faces of each cell: faces[start[c] .. start[c + 1]). */
export interface Sides {
  readonly start: Int32Array;
  readonly faces: Int32Array;
}

/** @param cells how many there are, of any kind */
export function sidesOf(cells: number, { owner, neighbour }: GridFaces): Sides {
  const { start, entries } = grouped(cells, (tell) => {
    for (let f = 0; f < owner.length; f++) {
      tell(owner[f], f);
      if (neighbour[f] >= 0) tell(neighbour[f], f);
    }
  });
  return { start, faces: entries };
}

/** Faces by their corners: found by the sum and the least of them, then held against each other in full. */
class FaceTable {
  readonly start = new Growing();
  readonly corners = new Growing();
  private readonly heads: Int32Array;
  private readonly next = new Growing();
  private face = new Int32Array(16);

  constructor(corners: number) {
    this.start.push(0);
    let slots = 1024;
    while (slots < corners) slots *= 2;
    this.heads = new Int32Array(slots).fill(-1);
  }

  /** Where the corners of a face are put before it is looked for. */
  room(corners: number): Int32Array {
    if (this.face.length < corners) this.face = new Int32Array(2 * corners);
    return this.face;
  }

  /** The face with the corners that were put there, or -1; then it is known from now on, by the next number. @param n how many corners it has */
  find(n: number): number {
    const { face } = this;
    let least = face[0];
    let sum = 0;
    for (let k = 0; k < n; k++) {
      if (face[k] < least) least = face[k];
      sum += face[k];
    }
    const slot = (Math.imul(least, 73_856_093) ^ Math.imul(sum, 19_349_663)) & (this.heads.length - 1);
    for (let f = this.heads[slot]; f >= 0; f = this.next.values[f]) if (this.isOf(f, n)) return f;
    this.next.push(this.heads[slot]);
    this.heads[slot] = this.next.length - 1;
    for (let k = 0; k < n; k++) this.corners.push(face[k]);
    this.start.push(this.corners.length);
    return -1;
  }

  private isOf(f: number, n: number): boolean {
    const from = this.start.values[f];
    if (this.start.values[f + 1] - from !== n) return false;
    const { values } = this.corners;
    // Few corners: each is looked for among the others.
    for (let k = 0; k < n; k++) {
      let at = 0;
      while (at < n && values[from + at] !== this.face[k]) at++;
      if (at === n) return false;
    }
    return true;
  }
}
