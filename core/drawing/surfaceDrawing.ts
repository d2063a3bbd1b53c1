import type { Patches } from "../dataset/patches.ts";
import type { StitchedSurface } from "../dataset/stitch.ts";
import { extentOf, faceCount, forTriangles } from "../dataset/surface.ts";
import { angleAt } from "../dataset/surfaceEdges.ts";
import type { OnSurface } from "../dataset/surfaceForces.ts";
import { minus, plus, size, times, type Vector } from "../dataset/vector.ts";
import { type FieldColors, fieldColor } from "./fieldRaster.ts";
import { INK, SERIES } from "./palette.ts";

/** What the faces of a surface are painted by. */
export type Painted =
  | { readonly by: "patches" }
  | { readonly by: "pieces" }
  /** values that were made of the file's arrays, such as a pressure in Pa, under the name they are shown by */
  | { readonly by: "field"; readonly field: OnSurface }
  /** component from 0, or the size of a vector */
  | { readonly by: "array"; readonly on: "cells" | "points"; readonly name: string; readonly component: number | "size" };

/** A surface ready to be drawn: triangles about the origin, the farthest corner at a distance of 1. */
export interface SurfaceDrawing {
  /** [x, y, z] of three corners a triangle */
  readonly positions: Float32Array;
  /** [r, g, b] of each of these corners, 0 to 255 */
  readonly colors: Uint8Array;
  /** face of each triangle */
  readonly faceOf: Int32Array;
  /** piece and name of each face, the name -1 where it has none */
  readonly pieceOf: Int32Array;
  readonly nameOf: Int32Array;
  readonly names: readonly string[];
  /** value of each face where it is painted by values: of corners their mean */
  readonly values?: Float64Array;
  /** values at the ends of the colours, and which colours */
  readonly range?: readonly [number, number];
  readonly scheme?: FieldColors;
  /** [x0, y0, z0, x1, y1, z1] of edges: where faces meet sharply, open ones and those of three faces, all */
  readonly sharp: Float32Array;
  readonly open: Float32Array;
  readonly edges: Float32Array;
  /** a point p of the file is drawn at (p - middle) / radius */
  readonly middle: Vector;
  readonly radius: number;
  readonly low: Vector;
  readonly high: Vector;
}

/** Sharper edges than this, in degrees, are drawn as lines. */
const SHARP = 30;
const PALE = [214, 211, 200] as const;

const rgb = (hex: string): readonly number[] => [1, 3, 5].map((i) => Number.parseInt(hex.slice(i, i + 2), 16));
/** Colours of patches, in the order of their names; after the last one again, each time paler. */
export function patchColor(k: number): readonly number[] {
  if (k < 0) return PALE;
  const own = rgb(SERIES[k % SERIES.length]);
  const pale = Math.min(0.75, 0.2 + 0.18 * Math.floor(k / SERIES.length));
  return own.map((v) => Math.round(v + (255 - v) * pale));
}

/** Lays a surface out to be drawn. @param range values the colours reach over; those of the surface unless given */
export function drawSurface(s: StitchedSurface, patches: Patches, painted: Painted, range?: readonly [number, number]): SurfaceDrawing {
  const { surface } = s;
  const { low, high } = extentOf(surface.points);
  const middle = times(plus(low, high), 0.5);
  const radius = size(minus(high, low)) / 2 || 1;
  const place = (q: number, d: number) => (surface.points[3 * q + d] - middle[d]) / radius;
  const corners: number[] = [];
  const faceOf: number[] = [];
  for (let f = 0; f < faceCount(surface); f++)
    forTriangles(surface, f, (a, b, c) => {
      corners.push(a, b, c);
      faceOf.push(f);
    });
  const positions = new Float32Array(3 * corners.length);
  corners.forEach((k, i) => {
    for (let d = 0; d < 3; d++) positions[3 * i + d] = place(surface.corners[k], d);
  });
  const colours = paint(s, patches, painted, range);
  const colors = new Uint8Array(3 * corners.length);
  corners.forEach((k, i) => {
    colors.set(colours.of(k, faceOf[Math.floor(i / 3)]), 3 * i);
  });
  const lines = (chosen: (e: number) => boolean): Float32Array => {
    const out: number[] = [];
    for (let e = 0; e < s.edges.sameWay.length; e++)
      if (chosen(e)) for (const q of [s.edges.ends[2 * e], s.edges.ends[2 * e + 1]]) out.push(place(q, 0), place(q, 1), place(q, 2));
    return Float32Array.from(out);
  };
  const crowded = new Set(s.edges.crowded);
  return {
    positions,
    colors,
    faceOf: Int32Array.from(faceOf),
    pieceOf: patches.pieceOf,
    nameOf: patches.nameOf,
    names: patches.names,
    ...(colours.values ? { values: colours.values, range: colours.range as [number, number], scheme: colours.scheme as FieldColors } : {}),
    sharp: lines((e) => (angleAt(s.edges, s.geometry, s.sign, e) ?? 0) > SHARP),
    open: lines((e) => s.edges.faces[2 * e + 1] < 0 || crowded.has(e)),
    edges: lines(() => true),
    middle,
    radius,
    low,
    high,
  };
}

interface Paint {
  /** colour of a corner of a face */
  readonly of: (corner: number, face: number) => readonly number[];
  readonly values?: Float64Array;
  readonly range?: readonly [number, number];
  readonly scheme?: FieldColors;
}

function paint(s: StitchedSurface, patches: Patches, painted: Painted, asked: readonly [number, number] | undefined): Paint {
  if (painted.by === "pieces") return { of: (_, f) => patchColor(patches.pieceOf[f]) };
  if (painted.by === "patches") return { of: (_, f) => patchColor(patches.nameOf[f]) };
  const { grid, surface } = s;
  if (painted.by === "field") {
    const { on, values } = painted.field;
    return byValues(s, (k, f) => values[on === "corners" ? k : f], asked);
  }
  const array = (painted.on === "cells" ? grid.onCells : grid.onPoints).find((a) => a.name === painted.name);
  if (!array) throw new RangeError(`The surface has no array "${painted.name}" on its ${painted.on}.`);
  const { components, values } = array;
  const { component } = painted;
  const valueAt = (i: number): number =>
    component === "size" ? Math.hypot(...values.subarray(components * i, components * (i + 1))) : values[components * i + component];
  return byValues(s, (k, f) => valueAt(painted.on === "cells" ? surface.cellOf[f] : surface.pointOf[k]), asked);
}

/** @param corner value at a corner of a face */
function byValues(s: StitchedSurface, corner: (k: number, f: number) => number, asked: readonly [number, number] | undefined): Paint {
  const { surface } = s;
  const byFace = Float64Array.from({ length: faceCount(surface) }, (_, f) => {
    let sum = 0;
    for (let k = surface.start[f]; k < surface.start[f + 1]; k++) sum += corner(k, f);
    return sum / (surface.start[f + 1] - surface.start[f]);
  });
  const range = asked ?? rangeOf(s, corner);
  const scheme: FieldColors = range[0] < 0 && range[1] > 0 ? "signed" : "even";
  const [from, to] = scheme === "signed" ? [-Math.max(-range[0], range[1]), Math.max(-range[0], range[1])] : range;
  return {
    of: (k, f) => {
      const v = corner(k, f);
      return Number.isFinite(v) ? fieldColor(to > from ? (v - from) / (to - from) : 0.5, scheme) : rgb(INK.line);
    },
    values: byFace,
    range: [from, to],
    scheme,
  };
}

function rangeOf({ surface }: StitchedSurface, corner: (k: number, f: number) => number): [number, number] {
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (let f = 0; f < faceCount(surface); f++)
    for (let k = surface.start[f]; k < surface.start[f + 1]; k++) {
      const v = corner(k, f);
      if (v < low) low = v;
      if (v > high) high = v;
    }
  return low <= high ? [low, high] : [0, 0];
}
