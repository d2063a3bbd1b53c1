import { buildFaceMesh, type FaceMesh } from "./faceMesh.ts";
import { type Grading, gridLines } from "./grading.ts";

/** A rectangle [0, length] x [0, height] cut by grid lines. */
export interface RectangleSpec {
  readonly lengthM: number;
  readonly heightM: number;
  readonly nx: number;
  readonly ny: number;
  readonly gradingX: Grading;
  readonly gradingY: Grading;
  /** left and right ends joined to one another */
  readonly periodicX: boolean;
}

/** A face mesh that remembers the grid lines it was made from; cell (i, j) has index j * nx + i. */
export interface RectangleMesh extends FaceMesh {
  readonly xLinesM: Float64Array;
  readonly yLinesM: Float64Array;
  readonly periodicX: boolean;
}

/**
 * Mesh of a graded rectangle with boundaries "left", "right" (unless periodic), "bottom" and "top".
 * @throws {RangeError} Counts below 2, lengths not positive, absurd grading.
 */
export function rectangleMesh(spec: RectangleSpec): RectangleMesh {
  if (!(spec.nx >= 2 && spec.ny >= 2)) throw new RangeError(`A rectangle needs at least 2 x 2 cells, not ${spec.nx} x ${spec.ny}.`);
  return rectangleFromLines(gridLines(spec.lengthM, spec.nx, spec.gradingX), gridLines(spec.heightM, spec.ny, spec.gradingY), spec.periodicX);
}

/** The same from grid lines already placed, m, increasing. */
export function rectangleFromLines(xLinesM: Float64Array, yLinesM: Float64Array, periodicX: boolean): RectangleMesh {
  const nx = xLinesM.length - 1;
  const ny = yLinesM.length - 1;
  const pointsM = new Float64Array(2 * (nx + 1) * (ny + 1));
  const point = (i: number, j: number) => j * (nx + 1) + i;
  const cell = (i: number, j: number) => j * nx + i;
  for (let j = 0; j <= ny; j++) {
    for (let i = 0; i <= nx; i++) {
      pointsM[2 * point(i, j)] = xLinesM[i];
      pointsM[2 * point(i, j) + 1] = yLinesM[j];
    }
  }
  const joins: { owner: number; neighbour: number; a: number; b: number }[] = [];
  const cells: number[][] = [];
  // Joins in the order of their owners keep neighbouring data close in memory.
  for (let j = 0; j < ny; j++) {
    for (let i = 0; i < nx; i++) {
      if (i + 1 < nx) joins.push({ owner: cell(i, j), neighbour: cell(i + 1, j), a: point(i + 1, j), b: point(i + 1, j + 1) });
      if (j + 1 < ny) joins.push({ owner: cell(i, j), neighbour: cell(i, j + 1), a: point(i + 1, j + 1), b: point(i, j + 1) });
      cells.push([point(i, j), point(i + 1, j), point(i + 1, j + 1), point(i, j + 1)]);
    }
  }
  const firstJoin = joins.length;
  const rows = Array.from({ length: ny }, (_, j) => j);
  const columns = Array.from({ length: nx }, (_, i) => i);
  if (periodicX) for (const j of rows) joins.push({ owner: cell(nx - 1, j), neighbour: cell(0, j), a: point(nx, j), b: point(nx, j + 1) });
  const ends = [
    { name: "left", faces: rows.map((j) => ({ owner: cell(0, j), a: point(0, j + 1), b: point(0, j) })) },
    { name: "right", faces: rows.map((j) => ({ owner: cell(nx - 1, j), a: point(nx, j), b: point(nx, j + 1) })) },
  ];
  const walls = [
    { name: "bottom", faces: columns.map((i) => ({ owner: cell(i, 0), a: point(i, 0), b: point(i + 1, 0) })) },
    { name: "top", faces: columns.map((i) => ({ owner: cell(i, ny - 1), a: point(i + 1, ny), b: point(i, ny) })) },
  ];
  const mesh = buildFaceMesh({
    pointsM,
    joins,
    cells,
    boundaries: periodicX ? walls : [...ends, ...walls],
    periodic: periodicX ? [{ firstJoin, count: ny, shiftM: [xLinesM[nx] - xLinesM[0], 0], names: ["left", "right"] }] : [],
  });
  return { ...mesh, structure: [{ firstCell: 0, nx, ny }], xLinesM, yLinesM, periodicX };
}
