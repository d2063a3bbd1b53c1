/** Cells and memory one member of a mesh family will have. */
export interface FamilyMember {
  readonly nx: number;
  readonly ny: number;
  readonly cells: number;
  /** expected memory of a run, bytes */
  readonly memoryBytes: number;
}

/** what the solver holds a cell: fields, matrices, coarse levels and eight remembered differences; measured by `npm run bench` */
export const BYTES_PER_CELL = 2500;

/**
 * Counts of a family of meshes with a constant ratio, coarsest first.
 * @param cellsOf cells of a member, where they are not columns times rows
 * @throws {RangeError} A base below 2 cells, a ratio not above 1, a count not between 1 and 6.
 * @example
 * familyMembers(8, 4, 2, 3).map((m) => m.cells) // [32, 128, 512]
 */
export function familyMembers(
  baseNx: number,
  baseNy: number,
  ratio: number,
  count: number,
  cellsOf: (nx: number, ny: number) => number = (nx, ny) => nx * ny,
): FamilyMember[] {
  if (!(baseNx >= 2 && baseNy >= 2)) throw new RangeError("The coarsest mesh needs at least 2 x 2 cells.");
  if (!(ratio > 1 && ratio <= 4)) throw new RangeError("The ratio must lie above 1 and not above 4.");
  if (!(Number.isInteger(count) && count >= 1 && count <= 6)) throw new RangeError("A family has one to six meshes.");
  return Array.from({ length: count }, (_, k) => {
    const nx = Math.round(baseNx * ratio ** k);
    const ny = Math.round(baseNy * ratio ** k);
    const cells = cellsOf(nx, ny);
    return { nx, ny, cells, memoryBytes: cells * BYTES_PER_CELL };
  });
}
