import { type FaceGraph, faceShift } from "../../mesh/faceMesh.ts";
import { type Arena, plainArena } from "../kernels/arena.ts";
import type { FaceArrays, ObliqueFaces, RimFaces } from "../kernels/arrays.ts";
import { sparsePattern } from "./sparse.ts";

/** Geometry the flow solver reads in its inner loops, with the arena its arrays are taken from and the loops over them. */
export interface FlowGeometry extends FaceArrays {
  readonly arena: Arena;
}

/** All that is derived from a mesh's faces, joins and boundaries alike, in ordinary arrays of one entry a face. */
export interface FaceGeometry extends Omit<FaceArrays, "rim" | "oblique" | "corrected" | "pattern" | "gradientAll">, ObliqueFaces {
  /** some faces are not at right angles to the line of the centroids, or not centred on it */
  readonly skewed: boolean;
}

/** cosine a coarse face is counted with at least, however oblique it is */
const LEAST_COSINE = 0.4;
/** least weight of either side on a coarse face */
const LEAST_WEIGHT = 0.2;
/** relative size of a skew vector that is no more than rounding */
const STRAIGHT = 1e-10;

/**
 * Derives what solvers need of a mesh's faces.
 * @param coarse a mesh of grouped cells, which only guides finer ones: its oblique faces get a safe conductance and no corrections
 */
export function faceGeometry(mesh: FaceGraph, coarse = false): FaceGeometry {
  const { faceCount, joinCount, cellCount, centroidM, faceCentreM, areaVectorM, owner, neighbour } = mesh;
  const names = ["sx", "sy", "dx", "dy", "conductance", "tx", "ty", "weight", "kx", "ky", "ox", "oy", "nx", "ny"] as const;
  const g = Object.fromEntries(names.map((name) => [name, new Float64Array(faceCount)])) as Record<(typeof names)[number], Float64Array>;
  let skewed = false;
  for (let f = 0; f < faceCount; f++) {
    const o = owner[f];
    const joins = f < joinCount;
    const sx = areaVectorM[2 * f];
    const sy = areaVectorM[2 * f + 1];
    const ox = faceCentreM[2 * f] - centroidM[2 * o];
    const oy = faceCentreM[2 * f + 1] - centroidM[2 * o + 1];
    let [dx, dy] = [ox, oy];
    if (joins) {
      const n = neighbour[f];
      const [shiftX, shiftY] = mesh.periodic.length ? faceShift(mesh, f) : NOWHERE;
      g.nx[f] = faceCentreM[2 * f] - centroidM[2 * n] - shiftX;
      g.ny[f] = faceCentreM[2 * f + 1] - centroidM[2 * n + 1] - shiftY;
      dx -= g.nx[f];
      dy -= g.ny[f];
    }
    [g.sx[f], g.sy[f], g.ox[f], g.oy[f], g.dx[f], g.dy[f]] = [sx, sy, ox, oy, dx, dy];
    const area2 = sx ** 2 + sy ** 2;
    // Faces on the axis of a revolved mesh have no area and conduct nothing.
    if (area2 === 0) continue;
    const sd = sx * dx + sy * dy;
    const d2 = dx ** 2 + dy ** 2;
    const along = joins ? (ox * sx + oy * sy) / sd : 1;
    const conductance = area2 / sd;
    const [tx, ty] = [sx - conductance * dx, sy - conductance * dy];
    const [kx, ky] = [ox - along * dx, oy - along * dy];
    // Negated, so that a face without a distance counts as skewed.
    skewed ||= !(Math.hypot(tx, ty) <= STRAIGHT * Math.sqrt(area2) && Math.hypot(kx, ky) <= STRAIGHT * Math.sqrt(d2));
    if (coarse) {
      skewed ||= !(Math.abs(along - 0.5) <= 0.5 - LEAST_WEIGHT) && joins;
      // Too little would overshoot the pressure on oblique faces: the over-relaxed value, held within reason.
      g.conductance[f] = area2 / Math.max(sd, LEAST_COSINE * Math.sqrt(area2 * d2));
      if (joins) g.weight[f] = 1 - Math.min(1 - LEAST_WEIGHT, Math.max(LEAST_WEIGHT, along));
      continue;
    }
    [g.conductance[f], g.tx[f], g.ty[f]] = [conductance, tx, ty];
    if (joins) [g.weight[f], g.kx[f], g.ky[f]] = [1 - along, kx, ky];
  }
  const shape = { cells: cellCount, joins: joinCount, faces: faceCount, owner, neighbour };
  return { mesh, ...shape, volume: mesh.volumeM2, hoop: mesh.hoopM2, skewed, ...g };
}

/**
 * Geometry in the layout of the flow solver's loops.
 * @param arena where the arrays are taken from
 * @param coarse see `faceGeometry`
 */
export function flowGeometry(mesh: FaceGraph, coarse = false, arena = plainArena()): FlowGeometry {
  const all = faceGeometry(mesh, coarse);
  const { cells, joins, faces, skewed } = all;
  const real = (from: Float64Array) => copied(arena.float64(from.length), from);
  const int = (from: Int32Array) => copied(arena.int32(from.length), from);
  const [owner, neighbour] = [int(all.owner), int(all.neighbour)];
  const ofJoins = (q: Float64Array) => real(q.subarray(0, joins));
  const { dx, dy, tx, ty, kx, ky, ox, oy, nx, ny } = all;
  const oblique = skewed ? parts({ dx, dy, tx, ty, kx, ky, ox, oy, nx, ny }, ofJoins) : undefined;
  return {
    mesh,
    cells,
    joins,
    faces,
    owner,
    neighbour,
    volume: real(all.volume),
    hoop: all.hoop,
    sx: real(all.sx),
    sy: real(all.sy),
    conductance: real(all.conductance),
    weight: ofJoins(all.weight),
    rim: parts({ dx, dy, tx, ty } satisfies RimFaces, (q) => q.slice(joins)),
    oblique,
    corrected: skewed && !coarse,
    pattern: sparsePattern(cells, joins, owner, neighbour, arena),
    gradientAll: leastSquaresFactors(all, () => true, arena),
    arena,
  };
}

const NOWHERE = [0, 0] as const;

/** Every array of a record through one function. */
function parts<K extends string>(arrays: Record<K, Float64Array>, make: (q: Float64Array) => Float64Array): Record<K, Float64Array> {
  return Object.fromEntries(Object.entries<Float64Array>(arrays).map(([name, q]) => [name, make(q)])) as Record<K, Float64Array>;
}

function copied<A extends Float64Array | Int32Array>(to: A, from: A): A {
  to.set(from);
  return to;
}

/** Pairs of cells, and boundary faces behind them, with the way from one to the other. */
export type PairsOfCells = Pick<FaceGeometry, "cells" | "joins" | "faces" | "owner" | "neighbour" | "dx" | "dy">;

/**
 * Factors that turn differences across faces into a least-squares gradient, weighted by the inverse square of the distance.
 * @param takesPart tells whether a boundary face's value takes part
 * @returns four numbers a face: owner's x and y factor, neighbour's x and y factor, 1/m
 */
export function leastSquaresFactors(
  g: PairsOfCells,
  takesPart: (face: number) => boolean,
  arena: Pick<Arena, "float64"> = plainArena(),
): Float64Array {
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
