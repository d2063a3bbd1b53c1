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

/**
 * Finds which cells meet across which faces. Two faces are one where they have the same corners, in whatever order.
 * @throws {RangeError} The grid has no cell in space.
 */
export function gridFaces(grid: Grid): GridFaces {
  const start: number[] = [0];
  const corners: number[] = [];
  const owner: number[] = [];
  const neighbour: number[] = [];
  const crowded: number[] = [];
  const table = new FaceTable();
  for (let c = 0; c < grid.kinds.length; c++) {
    if (CELL_KINDS[grid.kinds[c]].dimension !== 3) continue;
    for (const face of facesOf(grid, c)) {
      const known = table.find(face, owner.length, (f) => corners.slice(start[f], start[f + 1]));
      if (known === undefined) {
        owner.push(c);
        neighbour.push(-1);
        for (const q of face) corners.push(q);
        start.push(corners.length);
      } else if (neighbour[known] < 0) neighbour[known] = c;
      else crowded.push(known);
    }
  }
  if (!owner.length) throw new RangeError("The grid has no cell in space.");
  return {
    start: Int32Array.from(start),
    corners: Int32Array.from(corners),
    owner: Int32Array.from(owner),
    neighbour: Int32Array.from(neighbour),
    crowded: [...new Set(crowded)],
  };
}

/** Faces by their corners: found by the sum and the least of them, then held against each other in full. */
class FaceTable {
  private readonly chains = new Map<number, number[]>();

  /** The face with the same corners, or nothing; then it is known by the number it is given. */
  find(face: readonly number[], next: number, cornersOf: (face: number) => readonly number[]): number | undefined {
    const least = face.reduce((a, b) => Math.min(a, b));
    const key = least * 4_194_301 + face.reduce((a, b) => a + b);
    const chain = this.chains.get(key);
    if (!chain) {
      this.chains.set(key, [next]);
      return undefined;
    }
    const wanted = [...face].sort((a, b) => a - b).join();
    const found = chain.find((f) => {
      const there = cornersOf(f);
      return there.length === face.length && [...there].sort((a, b) => a - b).join() === wanted;
    });
    if (found === undefined) chain.push(next);
    return found;
  }
}
