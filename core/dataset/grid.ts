import type { Boundary } from "./boundaries.ts";

/** Values on the points or the cells of a grid. */
export interface GridArray {
  readonly name: string;
  readonly components: number;
  /** [a0, b0, c0, a1, ...] */
  readonly values: Float64Array;
}

/**
 * Cells of any kind in space, with what is known on them. Corners come in the order the documented format of the kind has them.
 */
export interface Grid {
  /** [x0, y0, z0, ...], in the file's unit */
  readonly points: Float64Array;
  /** kind of each cell, see CELL_KINDS */
  readonly kinds: Uint8Array;
  /** corners of cell c: corners[cellStart[c] .. cellStart[c + 1]) */
  readonly cellStart: Int32Array;
  readonly corners: Int32Array;
  /** faces of polyhedra, by cell: lists of corners, each face a cell may have */
  readonly polyhedra: ReadonlyMap<number, readonly (readonly number[])[]>;
  readonly onPoints: readonly GridArray[];
  readonly onCells: readonly GridArray[];
  /** parts the file has names for, as ranges of cells */
  readonly parts?: readonly { readonly name: string; readonly from: number; readonly to: number }[];
  /** parts of the outside of its cells the file has names for */
  readonly boundaries?: readonly Boundary[];
  /** what the reader did to what stood in the file, in sentences */
  readonly notes: readonly string[];
}

export interface CellKind {
  readonly name: string;
  /** 0 points, 1 lines, 2 surfaces, 3 cells in space */
  readonly dimension: 0 | 1 | 2 | 3;
  /** corners it has; 0 where any number */
  readonly corners: number;
  /** corners it is shown by, where it has more points than that */
  readonly linear?: number;
  /** faces by its own corners, outward; of cells in space */
  readonly faces?: readonly (readonly number[])[];
  /** order in which its corners go round, where the file has another one */
  readonly round?: readonly number[];
}

const TETRAHEDRON = [
  [0, 2, 1],
  [0, 1, 3],
  [1, 2, 3],
  [0, 3, 2],
];
const HEXAHEDRON = [
  [0, 3, 2, 1],
  [4, 5, 6, 7],
  [0, 1, 5, 4],
  [1, 2, 6, 5],
  [2, 3, 7, 6],
  [3, 0, 4, 7],
];
const VOXEL = HEXAHEDRON.map((f) => f.map((k) => [0, 1, 3, 2, 4, 5, 7, 6][k]));
const WEDGE = [
  [0, 1, 2],
  [3, 5, 4],
  [0, 3, 4, 1],
  [1, 4, 5, 2],
  [2, 5, 3, 0],
];
const PYRAMID = [
  [0, 3, 2, 1],
  [0, 1, 4],
  [1, 2, 4],
  [2, 3, 4],
  [3, 0, 4],
];

/** Kinds of cells by the number the documented format gives them. @source VTK File Formats, cell types */
export const CELL_KINDS: Readonly<Record<number, CellKind>> = {
  1: { name: "point", dimension: 0, corners: 1 },
  2: { name: "points", dimension: 0, corners: 0 },
  3: { name: "line", dimension: 1, corners: 2 },
  4: { name: "polyline", dimension: 1, corners: 0 },
  5: { name: "triangle", dimension: 2, corners: 3 },
  6: { name: "strip of triangles", dimension: 2, corners: 0 },
  7: { name: "polygon", dimension: 2, corners: 0 },
  8: { name: "pixel", dimension: 2, corners: 4, round: [0, 1, 3, 2] },
  9: { name: "quadrilateral", dimension: 2, corners: 4 },
  10: { name: "tetrahedron", dimension: 3, corners: 4, faces: TETRAHEDRON },
  11: { name: "voxel", dimension: 3, corners: 8, faces: VOXEL },
  12: { name: "hexahedron", dimension: 3, corners: 8, faces: HEXAHEDRON },
  13: { name: "wedge", dimension: 3, corners: 6, faces: WEDGE },
  14: { name: "pyramid", dimension: 3, corners: 5, faces: PYRAMID },
  21: { name: "quadratic line", dimension: 1, corners: 3, linear: 2 },
  22: { name: "quadratic triangle", dimension: 2, corners: 6, linear: 3 },
  23: { name: "quadratic quadrilateral", dimension: 2, corners: 8, linear: 4 },
  24: { name: "quadratic tetrahedron", dimension: 3, corners: 10, linear: 4, faces: TETRAHEDRON },
  25: { name: "quadratic hexahedron", dimension: 3, corners: 20, linear: 8, faces: HEXAHEDRON },
  26: { name: "quadratic wedge", dimension: 3, corners: 15, linear: 6, faces: WEDGE },
  27: { name: "quadratic pyramid", dimension: 3, corners: 13, linear: 5, faces: PYRAMID },
  28: { name: "biquadratic quadrilateral", dimension: 2, corners: 9, linear: 4 },
  29: { name: "triquadratic hexahedron", dimension: 3, corners: 27, linear: 8, faces: HEXAHEDRON },
  34: { name: "biquadratic triangle", dimension: 2, corners: 7, linear: 3 },
  42: { name: "polyhedron", dimension: 3, corners: 0 },
};

/** Corners of a cell by which it is shown: those of a quadratic one without its middles. */
export function cornersOf({ kinds, cellStart, corners }: Grid, c: number): number[] {
  const kind = CELL_KINDS[kinds[c]];
  const own = Array.from(corners.subarray(cellStart[c], cellStart[c + 1]));
  if (kind.linear) return own.slice(0, kind.linear);
  return kind.round ? kind.round.map((k) => own[k]) : own;
}

/** Faces of a cell in space, each by its corners. */
export function facesOf(grid: Grid, c: number): readonly (readonly number[])[] {
  const known = grid.polyhedra.get(c);
  if (known) return known;
  const faces = CELL_KINDS[grid.kinds[c]].faces ?? [];
  const at = grid.cellStart[c];
  return faces.map((f) => f.map((k) => grid.corners[at + k]));
}
