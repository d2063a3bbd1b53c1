import { type FaceGraph, faceShift } from "../../mesh/faceMesh.ts";
import { type Arena, plainArena } from "../kernels/arena.ts";
import type { FaceArrays } from "../kernels/arrays.ts";
import { sparsePattern } from "./sparse.ts";

/** Geometry the flow solver reads in its inner loops, with the arena its arrays are taken from and the loops over them. */
export interface FlowGeometry extends FaceArrays {
  readonly arena: Arena;
}

/** cosine a coarse face is counted with at least, however oblique it is */
const LEAST_COSINE = 0.4;
/** relative size of a skew vector that is no more than rounding */
const STRAIGHT = 1e-10;

/**
 * Derives the solver's geometry from a mesh.
 * @param arena where the arrays are taken from
 * @param coarse a mesh of grouped cells, which only guides finer ones: its oblique faces get a safe conductance and no corrections
 */
export function flowGeometry(mesh: FaceGraph, coarse = false, arena = plainArena()): FlowGeometry {
  const { faceCount, joinCount, cellCount, centroidM, faceCentreM, areaVectorM } = mesh;
  const array = () => arena.float64(faceCount);
  const owner = copyInt(arena, mesh.owner);
  const neighbour = copyInt(arena, mesh.neighbour);
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
  let skewed = false;
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
      const [shiftX, shiftY] = mesh.periodic.length ? faceShift(mesh, f) : NOWHERE;
      g.nx[f] = faceCentreM[2 * f] - centroidM[2 * n] - shiftX;
      g.ny[f] = faceCentreM[2 * f + 1] - centroidM[2 * n + 1] - shiftY;
      g.dx[f] -= g.nx[f];
      g.dy[f] -= g.ny[f];
    }
    const area2 = g.sx[f] ** 2 + g.sy[f] ** 2;
    // Faces on the axis of a revolved mesh have no area and conduct nothing.
    if (area2 === 0) continue;
    const sd = g.sx[f] * g.dx[f] + g.sy[f] * g.dy[f];
    const d2 = g.dx[f] ** 2 + g.dy[f] ** 2;
    if (coarse) {
      // Too little would overshoot the pressure on oblique faces: the over-relaxed value, held within reason.
      g.conductance[f] = area2 / Math.max(sd, LEAST_COSINE * Math.sqrt(area2 * d2));
    } else {
      g.conductance[f] = area2 / sd;
      g.tx[f] = g.sx[f] - g.conductance[f] * g.dx[f];
      g.ty[f] = g.sy[f] - g.conductance[f] * g.dy[f];
    }
    if (f < joinCount) {
      const along = (g.ox[f] * g.sx[f] + g.oy[f] * g.sy[f]) / sd;
      g.weight[f] = coarse ? 1 - Math.min(0.8, Math.max(0.2, along)) : 1 - along;
      if (coarse) continue;
      g.kx[f] = g.ox[f] - along * g.dx[f];
      g.ky[f] = g.oy[f] - along * g.dy[f];
      skewed ||= Math.hypot(g.tx[f], g.ty[f]) > STRAIGHT * Math.sqrt(area2) || Math.hypot(g.kx[f], g.ky[f]) > STRAIGHT * Math.sqrt(d2);
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
    volume: copyReal(arena, mesh.volumeM2),
    hoop: mesh.hoopM2,
    skewed,
    ...g,
    pattern: sparsePattern(cellCount, joinCount, owner, neighbour, arena),
    gradientAll: leastSquaresFactors(shape, () => true, arena),
    arena,
  };
}

const NOWHERE = [0, 0] as const;

function copyInt(arena: Arena, from: Int32Array): Int32Array {
  const to = arena.int32(from.length);
  to.set(from);
  return to;
}

function copyReal(arena: Arena, from: Float64Array): Float64Array {
  const to = arena.float64(from.length);
  to.set(from);
  return to;
}

type Shape = Pick<FlowGeometry, "cells" | "joins" | "faces" | "owner" | "neighbour" | "dx" | "dy">;

/**
 * Factors that turn differences across faces into a least-squares gradient, weighted by the inverse square of the distance.
 * @param takesPart tells whether a boundary face's value takes part
 * @returns four numbers a face: owner's x and y factor, neighbour's x and y factor, 1/m
 */
export function leastSquaresFactors(g: Shape, takesPart: (face: number) => boolean, arena: Pick<Arena, "float64"> = plainArena()): Float64Array {
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
  const factors = arena.float64(4 * g.faces);
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
