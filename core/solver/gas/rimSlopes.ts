import { grouped } from "../../numeric/grouped.ts";
import { solveDense } from "../../numeric/solveDense.ts";
import type { FaceGeometry } from "../discrete/flowGeometry.ts";

/** coefficients of a polynomial of second degree in two directions, without its constant */
const COEFFICIENTS = 5;
/** pivots of the fit below this share of its largest entry: the cells about it lie in too few rows */
const LEAST_PIVOT = 1e-6;
/** neighbours and theirs; a triangle in a corner needs more */
const RINGS = [2, 3] as const;

/**
 * Slopes at places along a boundary: of the polynomial of second degree that takes the value of the place and comes nearest to those of the cells about
 * it, weighted by the inverse square of the distance, each direction measured by how far they reach along it. Exact of such polynomials. A place belongs
 * to each boundary face, counted from the first one.
 */
export class RimSlopes {
  /** where the cells of each place begin */
  private readonly start: Int32Array;
  private readonly cells: Int32Array;
  /** what each cell's difference from the value of the place adds to the slope, x and y, 1/m, and to the bend */
  private readonly factors: Float64Array;

  private constructor(places: readonly (readonly Part[])[]) {
    this.start = new Int32Array(places.length + 1);
    places.forEach((near, k) => {
      this.start[k + 1] = this.start[k] + near.length;
    });
    const all = places.flat();
    this.cells = Int32Array.from(all, ({ cell }) => cell);
    this.factors = Float64Array.from(all.flatMap(({ x, y, bend }) => [x, y, bend]));
  }

  /**
   * On the faces themselves. A slope over half a cell is of first order only, and what that leaves out of the stress stays in the pressure of the
   * outermost cells.
   */
  static onFaces(g: FaceGeometry): RimSlopes {
    return RimSlopes.about(g, (f) => ({ cell: g.owner[f], x: -g.dx[f], y: -g.dy[f] }), 0);
  }

  /**
   * In the cells at the faces. Differences to one side give the slope half a cell further in, and what a straight line by that misses on the next face is
   * taken for a wave: in a slow viscous gas the pressure answers it with a layer along the boundary that falls by an order below 2.
   */
  static inCells(g: FaceGeometry): RimSlopes {
    return RimSlopes.about(g, (f) => ({ cell: g.owner[f], x: 0, y: 0 }), 1);
  }

  /** @param from the cell at a face, and the way to it from the place; the first `own` cells are the place itself */
  private static about(g: FaceGeometry, from: (face: number) => Cell, own: 0 | 1): RimSlopes {
    const joinsOf = joinsOfCells(g);
    const faces = Array.from({ length: g.faces - g.joins }, (_, b) => g.joins + b);
    return new RimSlopes(faces.map((f) => nearest((rings) => fitted(g, f, about(g, joinsOf, from(f), rings).slice(own)))));
  }

  /** @returns false where a mesh has too few cells about the place */
  reaches(place: number): boolean {
    return this.start[place + 1] > this.start[place];
  }

  /**
   * @param value of the place
   * @param of value of a cell
   */
  slope(place: number, value: number, of: (cell: number) => number): readonly [number, number] {
    let [x, y] = [0, 0];
    for (let k = this.start[place]; k < this.start[place + 1]; k++) {
      const d = of(this.cells[k]) - value;
      x += this.factors[3 * k] * d;
      y += this.factors[3 * k + 1] * d;
    }
    return [x, y];
  }

  /** How far the polynomial of a cell lies, on the face, from a straight line by its slope. Arguments as of `slope`. */
  bend(place: number, value: number, of: (cell: number) => number): number {
    let sum = 0;
    for (let k = this.start[place]; k < this.start[place + 1]; k++) sum += this.factors[3 * k + 2] * (of(this.cells[k]) - value);
    return sum;
  }
}

/** What the fewest rings of cells tell, nothing where none does. */
function nearest(tell: (rings: number) => Part[]): Part[] {
  for (const rings of RINGS) {
    const found = tell(rings);
    if (found.length > 0) return found;
  }
  return [];
}

/** A boundary face of each cell that has one, counted from the first one. */
export function rimOf({ joins, faces, owner }: Pick<FaceGeometry, "joins" | "faces" | "owner">): Int32Array {
  const faceOf = new Map<number, number>();
  for (let f = joins; f < faces; f++) if (!faceOf.has(owner[f])) faceOf.set(owner[f], f - joins);
  return Int32Array.from(faceOf.values());
}

/** A cell with the way to it, m. */
interface Cell {
  readonly cell: number;
  readonly x: number;
  readonly y: number;
}

/** What a cell adds to a slope, 1/m, and to a bend. */
interface Part extends Cell {
  readonly bend: number;
}

type JoinsOf = (cell: number) => Int32Array;

function joinsOfCells({ cells, joins, owner, neighbour }: FaceGeometry): JoinsOf {
  const { start, entries } = grouped(cells, (tell) => {
    for (let f = 0; f < joins; f++) {
      tell(owner[f], f);
      tell(neighbour[f], f);
    }
  });
  return (c) => entries.subarray(start[c], start[c + 1]);
}

/** A cell and its neighbours, so many rings of them; ways lead through joins, so that they go on past joined ends. */
function about({ owner, neighbour, dx, dy }: FaceGeometry, joinsOf: JoinsOf, from: Cell, rings: number): Cell[] {
  const found = new Map([[from.cell, from]]);
  let last = [from];
  for (let ring = 0; ring < rings; ring++) {
    const next: Cell[] = [];
    for (const { cell, x, y } of last)
      for (const f of joinsOf(cell)) {
        const forth = owner[f] === cell;
        const other = forth ? neighbour[f] : owner[f];
        if (found.has(other)) continue;
        const place = { cell: other, x: x + (forth ? dx[f] : -dx[f]), y: y + (forth ? dy[f] : -dy[f]) };
        found.set(other, place);
        next.push(place);
      }
    last = next;
  }
  return [...found.values()];
}

/** What each cell adds; nothing where the cells do not tell a polynomial. Directions are across and along the face. */
function fitted({ sx, sy, dx, dy }: FaceGeometry, face: number, near: readonly Cell[]): Part[] {
  const area = Math.hypot(sx[face], sy[face]);
  if (near.length < COEFFICIENTS || area === 0) return [];
  const [nx, ny] = [sx[face] / area, sy[face] / area];
  const outOf = (x: number, y: number) => x * nx + y * ny;
  const alongOf = (x: number, y: number) => y * nx - x * ny;
  const reachOut = Math.max(...near.map(({ x, y }) => Math.abs(outOf(x, y))));
  const reachAlong = Math.max(...near.map(({ x, y }) => Math.abs(alongOf(x, y))));
  if (!(reachOut > 0 && reachAlong > 0)) return [];
  const termsAt = (x: number, y: number) => {
    const [n, t] = [outOf(x, y) / reachOut, alongOf(x, y) / reachAlong];
    return [n, t, n * n, n * t, t * t];
  };
  const terms = near.map(({ x, y }) => {
    const of = termsAt(x, y);
    return { weight: 1 / (of[2] + of[4]), of };
  });
  const matrix = Array.from({ length: COEFFICIENTS }, (_, i) =>
    Array.from({ length: COEFFICIENTS }, (_, j) => terms.reduce((sum, { weight, of }) => sum + weight * of[i] * of[j], 0)),
  );
  const [, , ...bent] = termsAt(dx[face], dy[face]);
  const [across, beside, bend] = [
    [1, 0, 0, 0, 0],
    [0, 1, 0, 0, 0],
    [0, 0, ...bent],
  ].map((wanted) => solveDense(matrix, wanted, LEAST_PIVOT));
  if (!across || !beside || !bend) return [];
  const share = (row: readonly number[], k: number) => terms[k].weight * row.reduce((sum, v, i) => sum + v * terms[k].of[i], 0);
  return near.map(({ cell }, k) => {
    const [n, t] = [share(across, k) / reachOut, share(beside, k) / reachAlong];
    return { cell, x: n * nx - t * ny, y: n * ny + t * nx, bend: share(bend, k) };
  });
}
