import type { FaceMesh } from "../mesh/faceMesh.ts";
import { type SparsePattern, sparsePattern } from "./sparse.ts";

/** Geometry the flow solver reads in its inner loops, one array a component. */
export interface FlowGeometry {
  readonly mesh: FaceMesh;
  readonly cells: number;
  readonly joins: number;
  readonly faces: number;
  readonly owner: Int32Array;
  readonly neighbour: Int32Array;
  readonly volume: Float64Array;
  readonly sx: Float64Array;
  readonly sy: Float64Array;
  /** from the owner's centroid to the neighbour's (or to the face's centre on a boundary) */
  readonly dx: Float64Array;
  readonly dy: Float64Array;
  /** |S|^2 / (S . d): conductance of a face for unit diffusivity, over-relaxed split */
  readonly conductance: Float64Array;
  /** S - conductance d: what the non-orthogonal correction carries */
  readonly tx: Float64Array;
  readonly ty: Float64Array;
  /** weight of the owner in linear interpolation to the face */
  readonly weight: Float64Array;
  /** from the interpolation point on the centroid line to the face's centre */
  readonly kx: Float64Array;
  readonly ky: Float64Array;
  /** from each cell's centroid to the face's centre: owner's, neighbour's */
  readonly ox: Float64Array;
  readonly oy: Float64Array;
  readonly nx: Float64Array;
  readonly ny: Float64Array;
  readonly pattern: SparsePattern;
  /** least-squares gradient factors [owner x, owner y, neighbour x, neighbour y] a face, boundary values used */
  readonly gradientAll: Float64Array;
}

/** Derives the solver's geometry from a mesh. */
export function flowGeometry(mesh: FaceMesh): FlowGeometry {
  const { faceCount, joinCount, cellCount, centroidM, faceCentreM, areaVectorM, owner, neighbour } = mesh;
  const array = () => new Float64Array(faceCount);
  const g = {
    sx: array(),
    sy: array(),
    dx: array(),
    dy: array(),
    conductance: array(),
    tx: array(),
    ty: array(),
    weight: array(),
    kx: array(),
    ky: array(),
    ox: array(),
    oy: array(),
    nx: array(),
    ny: array(),
  };
  const periodicFrom = mesh.periodic ? mesh.periodic.faces[0] : joinCount;
  const [shiftX, shiftY] = mesh.periodic?.shiftM ?? [0, 0];
  for (let f = 0; f < faceCount; f++) {
    const o = owner[f];
    g.sx[f] = areaVectorM[2 * f];
    g.sy[f] = areaVectorM[2 * f + 1];
    g.ox[f] = faceCentreM[2 * f] - centroidM[2 * o];
    g.oy[f] = faceCentreM[2 * f + 1] - centroidM[2 * o + 1];
    g.dx[f] = g.ox[f];
    g.dy[f] = g.oy[f];
    if (f < joinCount) {
      const n = neighbour[f];
      const seen = f >= periodicFrom ? 1 : 0;
      g.nx[f] = faceCentreM[2 * f] - centroidM[2 * n] - seen * shiftX;
      g.ny[f] = faceCentreM[2 * f + 1] - centroidM[2 * n + 1] - seen * shiftY;
      g.dx[f] -= g.nx[f];
      g.dy[f] -= g.ny[f];
    }
    const sd = g.sx[f] * g.dx[f] + g.sy[f] * g.dy[f];
    g.conductance[f] = (g.sx[f] ** 2 + g.sy[f] ** 2) / sd;
    g.tx[f] = g.sx[f] - g.conductance[f] * g.dx[f];
    g.ty[f] = g.sy[f] - g.conductance[f] * g.dy[f];
    if (f < joinCount) {
      const along = (g.ox[f] * g.sx[f] + g.oy[f] * g.sy[f]) / sd;
      g.weight[f] = 1 - along;
      g.kx[f] = g.ox[f] - along * g.dx[f];
      g.ky[f] = g.oy[f] - along * g.dy[f];
    }
  }
  const shape = { cells: cellCount, joins: joinCount, faces: faceCount, owner, neighbour, dx: g.dx, dy: g.dy };
  return {
    mesh,
    cells: cellCount,
    joins: joinCount,
    faces: faceCount,
    owner,
    neighbour,
    volume: mesh.volumeM2,
    ...g,
    pattern: sparsePattern(cellCount, joinCount, owner, neighbour),
    gradientAll: leastSquaresFactors(shape, () => true),
  };
}

type Shape = Pick<FlowGeometry, "cells" | "joins" | "faces" | "owner" | "neighbour" | "dx" | "dy">;

/**
 * Factors that turn differences across faces into a least-squares gradient, weighted by the inverse square of the distance.
 * @param takesPart tells whether a boundary face's value takes part
 * @returns four numbers a face: owner's x and y factor, neighbour's x and y factor, 1/m
 */
export function leastSquaresFactors(g: Shape, takesPart: (face: number) => boolean): Float64Array {
  const xx = new Float64Array(g.cells);
  const xy = new Float64Array(g.cells);
  const yy = new Float64Array(g.cells);
  const used = (f: number) => f < g.joins || takesPart(f);
  const add = (c: number, f: number, w: number) => {
    xx[c] += w * g.dx[f] * g.dx[f];
    xy[c] += w * g.dx[f] * g.dy[f];
    yy[c] += w * g.dy[f] * g.dy[f];
  };
  for (let f = 0; f < g.faces; f++) {
    if (!used(f)) continue;
    const w = 1 / (g.dx[f] ** 2 + g.dy[f] ** 2);
    add(g.owner[f], f, w);
    if (f < g.joins) add(g.neighbour[f], f, w);
  }
  for (let c = 0; c < g.cells; c++) {
    const trace = xx[c] + yy[c];
    // A cell with neighbours along one line only: damp the direction it knows nothing about.
    if (xx[c] * yy[c] - xy[c] ** 2 < 1e-3 * trace * trace) {
      xx[c] += 0.03 * trace + 1e-300;
      yy[c] += 0.03 * trace + 1e-300;
    }
  }
  const factors = new Float64Array(4 * g.faces);
  const set = (c: number, f: number, at: number, w: number) => {
    const det = xx[c] * yy[c] - xy[c] ** 2;
    factors[at] = (w * (yy[c] * g.dx[f] - xy[c] * g.dy[f])) / det;
    factors[at + 1] = (w * (xx[c] * g.dy[f] - xy[c] * g.dx[f])) / det;
  };
  for (let f = 0; f < g.faces; f++) {
    if (!used(f)) continue;
    const w = 1 / (g.dx[f] ** 2 + g.dy[f] ** 2);
    set(g.owner[f], f, 4 * f, w);
    if (f < g.joins) set(g.neighbour[f], f, 4 * f + 2, w);
  }
  return factors;
}
