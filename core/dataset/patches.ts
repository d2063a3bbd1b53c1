import { boundaryOfFaces } from "./boundaries.ts";
import { CELL_KINDS, type Grid } from "./grid.ts";
import { Feet } from "./nearestFace.ts";
import type { StitchedSurface } from "./stitch.ts";
import { faceCount } from "./surface.ts";
import { angleAt, edgesOfFaces } from "./surfaceEdges.ts";
import { at, dot, minus, plus, size, times, type Vector } from "./vector.ts";

/** How a surface falls into pieces before any of them has a name. */
export type Division =
  | { readonly by: "angle"; readonly degrees: number }
  /** an array on cells whose whole numbers tell the pieces */
  | { readonly by: "array"; readonly array: string }
  /** parts or boundaries the file itself has names for */
  | { readonly by: "parts" };

/** Part of the faces of one name (or of those without one, ""), given another. */
export type Split =
  /** on the side of the plane its normal points to */
  | { readonly by: "plane"; readonly of: string; readonly at: Vector; readonly normal: Vector; readonly name: string }
  | { readonly by: "box"; readonly of: string; readonly low: Vector; readonly high: Vector; readonly name: string }
  /** whose normals lie within so many degrees of a direction */
  | { readonly by: "normal"; readonly of: string; readonly direction: Vector; readonly withinDeg: number; readonly name: string }
  /** from the face nearest to a place over edges less sharp than so many degrees */
  | { readonly by: "smooth"; readonly of: string; readonly at: Vector; readonly degrees: number; readonly name: string };

/** How the patches of a surface are named. Pieces are found again by places on them, so that it serves the next file of a family too. */
export interface PatchRecipe {
  readonly division: Division;
  /** two pieces of one name are one patch */
  readonly names: readonly { readonly at: Vector; readonly name: string }[];
  /** in this order, after the names */
  readonly splits: readonly Split[];
}

/** A piece of the surface as it was divided. */
export interface Piece {
  /** as the file has it, else undefined */
  readonly called?: string;
  readonly faces: number;
  readonly area: number;
  /** a place on it, in the middle of the face nearest to its own middle: names are given there */
  readonly at: Vector;
  /** sum of its area vectors, over its area: near 1 in size where it is flat */
  readonly facing: Vector;
}

export interface Patches {
  readonly pieces: readonly Piece[];
  readonly pieceOf: Int32Array;
  /** names in the order they were given */
  readonly names: readonly string[];
  /** name of each face by number, -1 without one */
  readonly nameOf: Int32Array;
  /** the same of each piece, before any part of it was given another */
  readonly nameOfPiece: Int32Array;
  /** what of the recipe found nothing, in sentences */
  readonly notes: readonly string[];
}

/** A division that cannot be made, in a sentence. */
export class NoDivision extends Error {}

/** sharper edges than this, in degrees, divide a surface unless it is said otherwise */
export const PRESET_ANGLE = 40;

/** pieces a surface may fall into */
const MOST_PIECES = 2000;

/**
 * Divides a surface into pieces and names them.
 * @throws {NoDivision} the array or the parts it is to be divided by are not there, or it falls into thousands of pieces
 */
export function patchesOf(s: StitchedSurface, recipe: PatchRecipe): Patches {
  const { pieceOf, called } = divided(s, recipe.division);
  const pieces = piecesOf(s, pieceOf, called);
  if (pieces.length > MOST_PIECES)
    throw new NoDivision(`The surface falls into ${pieces.length} pieces, more than ${MOST_PIECES}: divide it at larger angles, or by an array.`);
  const notes: string[] = [];
  const names: string[] = [];
  const numberOf = (name: string): number => {
    const known = names.indexOf(name);
    return known >= 0 ? known : names.push(name) - 1;
  };
  const nameOfPiece = new Int32Array(pieces.length).fill(-1);
  const feet = new Feet(s.surface);
  for (const { at: place, name } of recipe.names) {
    const { face: f } = feet.of(place);
    const was = nameOfPiece[pieceOf[f]];
    const to = numberOf(name);
    if (was >= 0 && was !== to) notes.push(`"${name}" lies on the piece that is called "${names[was]}" already; it is called "${name}" now.`);
    nameOfPiece[pieceOf[f]] = to;
  }
  const nameOf = pieceOf.map((p) => nameOfPiece[p]);
  for (const split of recipe.splits) {
    const of = split.of === "" ? -1 : names.indexOf(split.of);
    if (split.of !== "" && of < 0) {
      notes.push(`There is no patch "${split.of}" to take "${split.name}" from.`);
      continue;
    }
    const chosen = facesOfSplit(s, feet, split, nameOf, of);
    if (chosen.length) for (const f of chosen) nameOf[f] = numberOf(split.name);
    else notes.push(`No face of ${split.of ? `"${split.of}"` : "those without a name"} lies where "${split.name}" is to be.`);
  }
  return { pieces, pieceOf, names, nameOf, nameOfPiece, notes };
}

function divided(s: StitchedSurface, division: Division): { pieceOf: Int32Array; called: (piece: number) => string | undefined } {
  const { grid, surface } = s;
  if (division.by === "angle") return { pieceOf: bySmoothness(s, division.degrees, () => true), called: () => undefined };
  if (division.by === "parts") {
    const { parts, boundaries } = grid;
    if (boundaries?.length) return inOrder(boundaryOfFaces(surface, boundaries), (v) => boundaries[v]?.name);
    if (!parts?.length) throw new NoDivision("The file has no named parts to divide the surface by.");
    return inOrder(
      surface.cellOf.map((c) => parts.findIndex((p) => c >= p.from && c < p.to)),
      (v) => parts[v]?.name,
    );
  }
  const array = grid.onCells.find((a) => a.name === division.array);
  if (array?.components !== 1) throw new NoDivision(`There is no array "${division.array}" of one component on the cells to divide the surface by.`);
  const values = Array.from(surface.cellOf, (c) => array.values[c]);
  if (!values.every(Number.isInteger)) throw new NoDivision(`The values of "${division.array}" are not whole numbers: it tells no pieces.`);
  return inOrder(Int32Array.from(values), (v) => `${array.name} ${v}`);
}

/** Values numbered in the order they are met. */
function inOrder(values: Int32Array, nameOf: (value: number) => string | undefined) {
  const numbers = new Map<number, number>();
  const pieceOf = values.map((v) => {
    if (!numbers.has(v)) numbers.set(v, numbers.size);
    return numbers.get(v) as number;
  });
  const back = [...numbers.keys()];
  return { pieceOf, called: (piece: number) => nameOf(back[piece]) };
}

/** Pieces whose faces hang together over edges less sharp than so many degrees. */
function bySmoothness({ surface, edges, geometry, sign }: StitchedSurface, degrees: number, within: (f: number) => boolean): Int32Array {
  const count = faceCount(surface);
  const of = edgesOfFaces(count, edges);
  const pieceOf = new Int32Array(count).fill(-1);
  let n = 0;
  for (let seed = 0; seed < count; seed++) {
    if (pieceOf[seed] >= 0 || !within(seed)) continue;
    const members = [seed];
    pieceOf[seed] = n;
    for (let m = 0; m < members.length; m++) {
      const f = members[m];
      for (let i = of.start[f]; i < of.start[f + 1]; i++) {
        const e = of.edges[i];
        const g = edges.faces[2 * e] === f ? edges.faces[2 * e + 1] : edges.faces[2 * e];
        if (g < 0 || pieceOf[g] >= 0 || !within(g)) continue;
        if (!((angleAt(edges, geometry, sign, e) as number) <= degrees)) continue;
        pieceOf[g] = n;
        members.push(g);
      }
    }
    n++;
  }
  return pieceOf;
}

function piecesOf({ surface, geometry, sign }: StitchedSurface, pieceOf: Int32Array, called: (piece: number) => string | undefined): Piece[] {
  const count = pieceOf.reduce((n, p) => Math.max(n, p + 1), 0);
  const faces = new Int32Array(count);
  const area = new Float64Array(count);
  const weighted: Vector[] = Array.from({ length: count }, () => [0, 0, 0]);
  const facing: Vector[] = Array.from({ length: count }, () => [0, 0, 0]);
  for (let f = 0; f < faceCount(surface); f++) {
    const p = pieceOf[f];
    const own = at(geometry.area, f);
    faces[p]++;
    area[p] += size(own);
    weighted[p] = plus(weighted[p], times(at(geometry.middle, f), size(own)));
    facing[p] = plus(facing[p], times(own, sign[f]));
  }
  const middles = weighted.map((w, p) => (area[p] > 0 ? times(w, 1 / area[p]) : w));
  const nearest = new Int32Array(count).fill(-1);
  const apart = new Float64Array(count).fill(Number.POSITIVE_INFINITY);
  for (let f = 0; f < faceCount(surface); f++) {
    const p = pieceOf[f];
    const d = size(minus(at(geometry.middle, f), middles[p]));
    if (d < apart[p]) {
      apart[p] = d;
      nearest[p] = f;
    }
  }
  return Array.from({ length: count }, (_, p) => {
    const name = called(p);
    return {
      ...(name === undefined ? {} : { called: name }),
      faces: faces[p],
      area: area[p],
      at: at(geometry.middle, nearest[p]),
      facing: area[p] > 0 ? times(facing[p], 1 / area[p]) : ([0, 0, 0] as const),
    };
  });
}

function facesOfSplit(s: StitchedSurface, feet: Feet, split: Split, nameOf: Int32Array, of: number): number[] {
  const candidates = Array.from(nameOf.keys()).filter((f) => nameOf[f] === of);
  const middle = (f: number) => at(s.geometry.middle, f);
  switch (split.by) {
    case "plane":
      return candidates.filter((f) => dot(minus(middle(f), split.at), split.normal) > 0);
    case "box":
      return candidates.filter((f) => middle(f).every((v, d) => v >= split.low[d] && v <= split.high[d]));
    case "normal": {
      const least = Math.cos((split.withinDeg * Math.PI) / 180) * size(split.direction);
      return candidates.filter((f) => {
        const own = times(at(s.geometry.area, f), s.sign[f]);
        return dot(own, split.direction) >= least * size(own);
      });
    }
    case "smooth": {
      const { face: seed } = feet.of(split.at);
      if (nameOf[seed] !== of) return [];
      const pieceOf = bySmoothness(s, split.degrees, (f) => nameOf[f] === of);
      return candidates.filter((f) => pieceOf[f] === pieceOf[seed]);
    }
    default:
      return split satisfies never;
  }
}

/** Arrays that could tell the pieces of a surface: whole numbers on its cells, not too many different ones. */
export function dividingArrays(grid: Grid): string[] {
  const flat = Array.from(grid.kinds.keys()).filter((c) => CELL_KINDS[grid.kinds[c]].dimension >= 2);
  return grid.onCells
    .filter((a) => a.components === 1 && flat.every((c) => Number.isInteger(a.values[c])))
    .filter((a) => new Set(flat.map((c) => a.values[c])).size <= flat.length / 4)
    .map((a) => a.name);
}
