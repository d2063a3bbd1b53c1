import { namesOfOutside } from "../../dataset/boundaries.ts";
import type { SlopeWork } from "../../dataset/slopes.ts";
import type { FaceMesh } from "../../mesh/faceMesh.ts";

/** A body's name where it has none: whatever stands inside the mesh without touching its rim. */
export const HOLES = "";
/** the same where the body stands on the rim: faces that do not lie on the box round the whole mesh */
export const OFF_BOX = " ";

/** A mesh as far as a disturbance runs through it: cells and the faces between them, in the plane or in space. */
export interface Around {
  readonly axes: 2 | 3;
  readonly cells: number;
  /** [x0, y0, (z0,) x1, ...] of cells' middles and of points, m */
  readonly middleM: Float64Array;
  readonly pointsM: Float64Array;
  readonly faces: number;
  /** cells on the two sides of a face; -1 beyond the rim */
  readonly owner: (face: number) => number;
  readonly neighbour: (face: number) => number;
  readonly corners: (face: number) => ArrayLike<number>;
  /** faces of a part of the rim by its name; none where there is no such */
  readonly named: (name: string) => readonly number[];
}

export function aroundPlane({
  cellCount,
  joinCount,
  faceCount,
  owner,
  neighbour,
  facePoints,
  centroidM,
  pointsM,
  boundaries,
}: Pick<FaceMesh, "cellCount" | "joinCount" | "faceCount" | "owner" | "neighbour" | "facePoints" | "centroidM" | "pointsM" | "boundaries">): Around {
  return {
    axes: 2,
    cells: cellCount,
    middleM: centroidM,
    pointsM,
    faces: faceCount,
    owner: (f) => owner[f],
    neighbour: (f) => (f < joinCount ? neighbour[f] : -1),
    corners: (f) => facePoints.subarray(2 * f, 2 * f + 2),
    named: (name) => boundaries.filter((b) => b.name === name).flatMap((b) => Array.from({ length: b.count }, (_, k) => b.start + k)),
  };
}

/** @param unitM metres of the grid's unit of length */
export function aroundGrid({ grid, faces, middles }: SlopeWork, unitM: number): Around {
  const { start, corners, owner, neighbour } = faces;
  return {
    axes: 3,
    cells: grid.kinds.length,
    middleM: middles.map((v) => v * unitM),
    pointsM: grid.points.map((v) => v * unitM),
    faces: owner.length,
    owner: (f) => owner[f],
    neighbour: (f) => neighbour[f],
    corners: (f) => corners.subarray(start[f], start[f + 1]),
    named: (name) => {
      const { names, of } = namesOfOutside(grid, faces);
      const number = names.indexOf(name);
      return number < 0 ? [] : Array.from(of.keys()).filter((f) => of[f] === number);
    },
  };
}

/** Faces on the rim, in their order. */
export function rimOf({ faces, neighbour }: Around): number[] {
  const out: number[] = [];
  for (let f = 0; f < faces; f++) if (neighbour(f) < 0) out.push(f);
  return out;
}

/** Least and greatest place of faces, axis by axis: [low x, high x, low y, high y, ...]. */
export function boxOf({ axes, pointsM, corners }: Around, faces: readonly number[]): number[] {
  const box = Array.from({ length: 2 * axes }, (_, k) => (k % 2 ? Number.NEGATIVE_INFINITY : Number.POSITIVE_INFINITY));
  for (const f of faces) {
    const own = corners(f);
    for (let c = 0; c < own.length; c++)
      for (let d = 0; d < axes; d++) {
        const v = pointsM[axes * own[c] + d];
        box[2 * d] = Math.min(box[2 * d], v);
        box[2 * d + 1] = Math.max(box[2 * d + 1], v);
      }
  }
  return box;
}

/** Faces of every closed part of the rim but the one that reaches farthest. */
export function holesOf(around: Around): number[] {
  const { axes, corners } = around;
  const rim = rimOf(around);
  const at = new Map<number, number[]>();
  const each = (f: number, use: (q: number) => void) => {
    const own = corners(f);
    for (let c = 0; c < own.length; c++) use(own[c]);
  };
  for (const f of rim)
    each(f, (q) => {
      const own = at.get(q);
      if (own) own.push(f);
      else at.set(q, [f]);
    });
  const seen = new Set<number>();
  const parts: number[][] = [];
  for (const f of rim) {
    if (seen.has(f)) continue;
    seen.add(f);
    const part = [f];
    for (let head = 0; head < part.length; head++)
      each(part[head], (q) => {
        for (const next of at.get(q) ?? [])
          if (!seen.has(next)) {
            seen.add(next);
            part.push(next);
          }
      });
    parts.push(part);
  }
  const sizes = parts.map((part) => {
    const box = boxOf(around, part);
    return Array.from({ length: axes }, (_, d) => box[2 * d + 1] - box[2 * d]).reduce((s, v) => s + v, 0);
  });
  const outer = sizes.indexOf(Math.max(...sizes));
  return parts.filter((_, k) => k !== outer).flat();
}

/** share of a side of the box within which a corner lies on it */
const ON_BOX = 1e-6;

/** Faces on the rim of which some corner does not lie on the side of the box that the others lie on. */
export function offBox(around: Around): number[] {
  const rim = rimOf(around);
  const box = boxOf(around, rim);
  const { axes, pointsM, corners } = around;
  const onSide = (f: number, k: number) => {
    const d = k >> 1;
    const near = ON_BOX * (box[2 * d + 1] - box[2 * d]);
    return Array.from(corners(f)).every((q) => Math.abs(pointsM[axes * q + d] - box[k]) <= near);
  };
  return rim.filter((f) => !box.some((_, k) => onSide(f, k)));
}
