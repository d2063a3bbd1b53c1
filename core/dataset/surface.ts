import { CELL_KINDS, cornersOf, type Grid } from "./grid.ts";
import { gridFaces } from "./gridFaces.ts";
import { mergePoints } from "./mergePoints.ts";
import { at, cross, minus, plus, size, times, type Vector } from "./vector.ts";

/** Polygons in space, stitched where their corners lie in the same place. */
export interface Surface {
  /** [x0, y0, z0, ...], in the grid's unit of length */
  readonly points: Float64Array;
  /** corners of face f: corners[start[f] .. start[f + 1]) */
  readonly start: Int32Array;
  readonly corners: Int32Array;
  /** point of the grid behind each of the corners: values on points are read there */
  readonly pointOf: Int32Array;
  /** cell of the grid behind each face: values on cells are read there */
  readonly cellOf: Int32Array;
  /** the faces are the outside of cells in space, their normals out of these cells */
  readonly ofCells: boolean;
  readonly notes: readonly string[];
}

/** A grid that has no surface, in a sentence. */
export class NoSurface extends Error {}

/** points nearer than this over the longest side are one */
const SAME = 1e-9;
const STRIP = 6;

/**
 * The surface of a grid: its faces in two dimensions, or where it has none the outside of its cells in space.
 * @throws {NoSurface} it has neither
 */
export function surfaceOf(grid: Grid): Surface {
  const notes: string[] = [];
  const found = flatFaces(grid) ?? outside(grid);
  if (!found) throw new NoSurface("The file has no faces and no cells in space: there is no surface to look at.");
  const { place, places } = mergePoints(grid.points, SAME * longestSide(grid.points));
  const one = grid.points.length / 3 - places.length / 3;
  if (one) notes.push(`${one} of ${grid.points.length / 3} points lie where another one does; the faces are stitched there.`);
  const kept = withoutFlat(found, place);
  const flat = found.faces.length - kept.faces.length;
  if (flat) notes.push(`${flat} faces have fewer than three corners that differ and were left out.`);
  if (!kept.faces.length) throw new NoSurface("No face of the file has three corners that differ.");
  if (found.others) notes.push(`${found.others} cells of other kinds (points, lines or cells in space) are no part of the surface.`);
  if (found.ofCells) notes.push("The surface is the outside of the cells; values on cells are those of the cell behind each face.");
  return { points: places, ...flattened(kept, place), ofCells: found.ofCells, notes };
}

interface Faces {
  readonly faces: readonly (readonly number[])[];
  readonly cells: readonly number[];
  readonly ofCells: boolean;
  readonly others: number;
}

function flatFaces(grid: Grid): Faces | undefined {
  const faces: (readonly number[])[] = [];
  const cells: number[] = [];
  let others = 0;
  for (let c = 0; c < grid.kinds.length; c++) {
    if (CELL_KINDS[grid.kinds[c]].dimension !== 2) {
      others++;
      continue;
    }
    const own = cornersOf(grid, c);
    for (const face of grid.kinds[c] === STRIP ? triangles(own) : [own]) {
      faces.push(face);
      cells.push(c);
    }
  }
  return faces.length ? { faces, cells, ofCells: false, others } : undefined;
}

/** Every second triangle of a strip goes round the other way. */
const triangles = (strip: readonly number[]): number[][] =>
  strip.slice(2).map((q, k) => (k % 2 ? [strip[k + 1], strip[k], q] : [strip[k], strip[k + 1], q]));

function outside(grid: Grid): Faces | undefined {
  if (!grid.kinds.some((k) => CELL_KINDS[k].dimension === 3)) return undefined;
  const { start, corners, owner, neighbour } = gridFaces(grid);
  const own = Array.from(owner.keys()).filter((f) => neighbour[f] < 0);
  return {
    faces: own.map((f) => Array.from(corners.subarray(start[f], start[f + 1]))),
    cells: own.map((f) => owner[f]),
    ofCells: true,
    others: 0,
  };
}

/** Corners that follow one in the same place are left out, and faces that have none left. */
function withoutFlat({ faces, cells, ...rest }: Faces, place: Int32Array): Faces {
  const short = faces.map((face) => face.filter((q, k) => place[q] !== place[face[(k + 1) % face.length]]));
  const kept = short.flatMap((face, f) => (new Set(face.map((q) => place[q])).size > 2 ? [f] : []));
  return { ...rest, faces: kept.map((f) => short[f]), cells: kept.map((f) => cells[f]) };
}

function flattened({ faces, cells }: Faces, place: Int32Array): Pick<Surface, "start" | "corners" | "pointOf" | "cellOf"> {
  const start = new Int32Array(faces.length + 1);
  faces.forEach((face, f) => {
    start[f + 1] = start[f] + face.length;
  });
  const pointOf = new Int32Array(start[faces.length]);
  faces.forEach((face, f) => {
    pointOf.set(face, start[f]);
  });
  return { start, pointOf, corners: pointOf.map((q) => place[q]), cellOf: Int32Array.from(cells) };
}

export const faceCount = (surface: Surface): number => surface.cellOf.length;

/** Least and greatest coordinate along each axis. */
export function extentOf(points: Float64Array): { readonly low: Vector; readonly high: Vector } {
  const low = [0, 1, 2].map(() => Number.POSITIVE_INFINITY);
  const high = [0, 1, 2].map(() => Number.NEGATIVE_INFINITY);
  for (let i = 0; i < points.length; i += 3)
    for (let d = 0; d < 3; d++) {
      const v = points[i + d];
      if (v < low[d]) low[d] = v;
      if (v > high[d]) high[d] = v;
    }
  return { low: low as unknown as Vector, high: high as unknown as Vector };
}

/** Longest side of the room points fill. */
export function longestSide(points: Float64Array): number {
  const { low, high } = extentOf(points);
  return Math.max(0, ...minus(high, low));
}

/** Area vectors and middles of faces. */
export interface FaceGeometry {
  /** [x0, y0, z0, ...]: normal times area, by the order of the corners */
  readonly area: Float64Array;
  /** middle of each face's area */
  readonly middle: Float64Array;
}

/** Normal times area of a polygon, by the order of its corners. */
export function areaVector(corners: readonly Vector[]): Vector {
  let sum: Vector = [0, 0, 0];
  for (let k = 1; k + 1 < corners.length; k++) sum = plus(sum, times(cross(minus(corners[k], corners[0]), minus(corners[k + 1], corners[0])), 0.5));
  return sum;
}

/** Triangles of a face about its first corner, as numbers of its corners. */
export function forTriangles(surface: Surface, f: number, use: (a: number, b: number, c: number) => void): void {
  const { start } = surface;
  for (let k = start[f] + 1; k + 1 < start[f + 1]; k++) use(start[f], k, k + 1);
}

export function faceGeometry(surface: Surface): FaceGeometry {
  const n = faceCount(surface);
  const area = new Float64Array(3 * n);
  const middle = new Float64Array(3 * n);
  const corner = (k: number) => at(surface.points, surface.corners[k]);
  for (let f = 0; f < n; f++) {
    let sum: Vector = [0, 0, 0];
    let weighted: Vector = [0, 0, 0];
    let weight = 0;
    forTriangles(surface, f, (a, b, c) => {
      const [p, q, r] = [corner(a), corner(b), corner(c)];
      const own = times(cross(minus(q, p), minus(r, p)), 0.5);
      sum = plus(sum, own);
      weighted = plus(weighted, times(plus(plus(p, q), r), size(own) / 3));
      weight += size(own);
    });
    area.set(sum, 3 * f);
    middle.set(weight > 0 ? times(weighted, 1 / weight) : corner(surface.start[f]), 3 * f);
  }
  return { area, middle };
}
