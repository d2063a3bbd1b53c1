import { boundaryNames } from "../dataset/boundaries.ts";
import { type CellTree, cellTree } from "../dataset/cellTree.ts";
import { Finder } from "../dataset/finder.ts";
import { CELL_KINDS, type Grid, type GridArray } from "../dataset/grid.ts";
import { onPoints } from "../dataset/pointValues.ts";
import { SlopeWork } from "../dataset/slopes.ts";
import { type StitchedSurface, stitch } from "../dataset/stitch.ts";
import { extentOf } from "../dataset/surface.ts";
import { angleAt } from "../dataset/surfaceEdges.ts";
import { minus, plus, size, times, type Vector } from "../dataset/vector.ts";
import { guessRole, ROLE_UNITS, unitInName } from "../intake/gridFields.ts";
import type { Made, SpaceArray, SpaceSaid, Wish } from "../monitors/space/said.ts";
import { spaceField } from "../monitors/space/spaceFields.ts";

/** An array by its name and where it lies. */
export interface ArrayKey {
  readonly name: string;
  readonly on: "cells" | "points";
}

/** A field that can be shown. */
export interface ShownArray extends ArrayKey {
  readonly components: number;
  readonly unit: string;
  /** what it was made from, where the file does not have it */
  readonly made?: string;
  /** least and greatest of one component, or of the sizes */
  readonly low: number;
  readonly high: number;
}

/** What a file in space holds, before anything of it is drawn. */
export interface VolumeLook {
  readonly cells: number;
  readonly solid: number;
  readonly points: number;
  readonly kinds: readonly { readonly name: string; readonly count: number }[];
  readonly low: Vector;
  readonly high: Vector;
  readonly arrays: readonly ShownArray[];
  /** names the file has for parts of its outside */
  readonly boundaries: readonly string[];
  /** what each array of the file may be */
  readonly guessed: readonly SpaceArray[];
  readonly notes: readonly string[];
}

/** Sharper edges than this, in degrees, are drawn as lines. */
const SHARP = 30;
const POLYGON = 7;
const ROLES = ["velocity", "pressure", "temperature", "density"] as const;

/** A grid with all that is worked out of it once, however often it is looked at. */
export class Volume {
  readonly work: SlopeWork;
  readonly outside: StitchedSurface;
  /** faces of the outside as polygons */
  readonly skin: Grid;
  /** cell of the grid behind each of these, and point of the grid behind each of their points */
  readonly skinOf: Int32Array;
  readonly skinPoint: Int32Array;
  readonly low: Vector;
  readonly high: Vector;
  private knownTree: CellTree | undefined;
  private knownFinder: Finder | undefined;
  private readonly smoothed = new Map<string, GridArray>();
  private readonly added: Made[] = [];

  /** @throws {NoSurface} it has neither faces nor cells */
  constructor(readonly grid: Grid) {
    this.work = new SlopeWork(grid);
    this.outside = stitch(grid);
    const { surface } = this.outside;
    this.skinOf = surface.cellOf;
    ({ skin: this.skin, skinPoint: this.skinPoint } = skinOf(grid.points, surface.start, surface.pointOf));
    ({ low: this.low, high: this.high } = extentOf(grid.points));
  }

  /** Faces between cells that are kept and what is not; of a surface those of the faces that are. */
  skinAround(kept: Uint8Array): Pick<Volume, "skin" | "skinOf" | "skinPoint"> {
    const list: number[] = [];
    const start = [0];
    const of: number[] = [];
    const take = (face: ArrayLike<number>, from: number, to: number, c: number) => {
      for (let k = from; k < to; k++) list.push(face[k]);
      start.push(list.length);
      of.push(c);
    };
    if (this.outside.surface.ofCells) {
      const { start: at, corners, owner, neighbour } = this.work.faces;
      for (let f = 0; f < owner.length; f++) {
        const [a, b] = [owner[f], neighbour[f]];
        if (kept[a] && !(b >= 0 && kept[b])) take(corners, at[f], at[f + 1], a);
        else if (b >= 0 && kept[b] && !kept[a]) take(corners, at[f], at[f + 1], b);
      }
    } else
      this.skinOf.forEach((c, f) => {
        if (kept[c]) take(this.outside.surface.pointOf, this.outside.surface.start[f], this.outside.surface.start[f + 1], c);
      });
    return { ...skinOf(this.grid.points, Int32Array.from(start), Int32Array.from(list)), skinOf: Int32Array.from(of) };
  }

  get middle(): Vector {
    return times(plus(this.low, this.high), 0.5);
  }

  get radius(): number {
    return size(minus(this.high, this.low)) / 2 || 1;
  }

  get tree(): CellTree {
    this.knownTree ??= cellTree(this.grid);
    return this.knownTree;
  }

  get finder(): Finder {
    this.knownFinder ??= new Finder(this.grid, this.tree);
    return this.knownFinder;
  }

  /** @throws {RangeError} there is none */
  find({ name, on }: ArrayKey): GridArray {
    const found =
      (on === "cells" ? this.grid.onCells : this.grid.onPoints).find((a) => a.name === name) ??
      this.added.find((m) => m.on === on && m.array.name === name)?.array;
    if (!found) throw new RangeError(`There is no field "${name}" on ${on}.`);
    return found;
  }

  /** An array on points: as it is, or brought there from the cells. */
  onPoints(key: ArrayKey): GridArray {
    if (key.on === "points") return this.find(key);
    const known = this.smoothed.get(key.name);
    if (known) return known;
    const made = onPoints(this.grid, this.find(key), this.work.round, this.work.middles);
    this.smoothed.set(key.name, made);
    return made;
  }

  /** Adds a field made of others; one of the same name takes its place. @throws {FieldMistake} it cannot be made */
  make(said: SpaceSaid, wish: Wish): ShownArray {
    return this.put(spaceField(this.work, said, wish));
  }

  /** Adds a field that was worked out elsewhere. */
  put(made: Made): ShownArray {
    const old = this.added.findIndex((m) => m.on === made.on && m.array.name === made.array.name);
    if (old >= 0) this.added.splice(old, 1);
    this.smoothed.delete(made.array.name);
    this.added.push(made);
    return shown(made.array, made.on, made.unit, made.made);
  }

  look(): VolumeLook {
    const { grid } = this;
    const guessed = [...grid.onCells.map((a) => guess(a, "cells")), ...grid.onPoints.map((a) => guess(a, "points"))];
    return {
      cells: grid.kinds.length,
      solid: grid.kinds.reduce((n, k) => n + (CELL_KINDS[k].dimension === 3 ? 1 : 0), 0),
      points: grid.points.length / 3,
      kinds: [...new Set(grid.kinds)].map((k) => ({ name: CELL_KINDS[k].name, count: grid.kinds.reduce((n, x) => n + (x === k ? 1 : 0), 0) })),
      low: this.low,
      high: this.high,
      arrays: [
        ...grid.onCells.map((a) => shown(a, "cells", unitInName(a.name) ?? "")),
        ...grid.onPoints.map((a) => shown(a, "points", unitInName(a.name) ?? "")),
        ...this.added.map((m) => shown(m.array, m.on, m.unit, m.made)),
      ],
      boundaries: boundaryNames(grid),
      guessed: onlyOnce(guessed),
      notes: [...grid.notes, ...this.outside.surface.notes],
    };
  }

  /** Every field there is. */
  private keys(): ArrayKey[] {
    const of = (arrays: readonly GridArray[], on: ArrayKey["on"]) => arrays.map(({ name }) => ({ name, on }));
    return [...of(this.grid.onCells, "cells"), ...of(this.grid.onPoints, "points"), ...this.added.map((m) => ({ name: m.array.name, on: m.on }))];
  }

  /** Sharp and open edges of the outside: [x0, y0, z0, x1, y1, z1, ...] in the grid's unit. */
  outline(): Float64Array {
    const { edges, geometry, sign, surface } = this.outside;
    const out: number[] = [];
    for (let e = 0; e < edges.sameWay.length; e++)
      if (edges.faces[2 * e + 1] < 0 || (angleAt(edges, geometry, sign, e) ?? 0) > SHARP)
        for (const q of [edges.ends[2 * e], edges.ends[2 * e + 1]]) out.push(...surface.points.subarray(3 * q, 3 * q + 3));
    return Float64Array.from(out);
  }

  /** Values at a place, of every field: of cells that of the cell it lies in, of points linear in it; nothing outside. */
  probe(
    place: Vector,
  ): { readonly cell: number; readonly values: readonly { readonly key: ArrayKey; readonly values: readonly number[] }[] } | undefined {
    const cell = this.finder.cellAt(place);
    if (cell < 0) return undefined;
    return {
      cell,
      values: this.keys().map(({ name, on }) => {
        const array = this.find({ name, on });
        const out = new Float64Array(array.components);
        if (on === "points") this.finder.valueAt(place, array, out);
        else out.set(array.values.subarray(array.components * cell, array.components * (cell + 1)));
        return { key: { name, on }, values: [...out] };
      }),
    };
  }
}

/** Polygons over the points they name. */
function skinOf(all: Float64Array, cellStart: Int32Array, list: Int32Array): { readonly skin: Grid; readonly skinPoint: Int32Array } {
  const { points, numbers, corners } = onlyUsed(all, list);
  const kinds = new Uint8Array(cellStart.length - 1).fill(POLYGON);
  return { skin: { points, kinds, cellStart, corners, polyhedra: new Map(), onPoints: [], onCells: [], notes: [] }, skinPoint: numbers };
}

/** The points a list names, each once, in the order they are met. */
function onlyUsed(
  all: Float64Array,
  list: Int32Array,
): { readonly points: Float64Array; readonly numbers: Int32Array; readonly corners: Int32Array } {
  const place = new Int32Array(all.length / 3).fill(-1);
  const numbers: number[] = [];
  const corners = list.map((q) => {
    if (place[q] < 0) {
      place[q] = numbers.length;
      numbers.push(q);
    }
    return place[q];
  });
  const points = new Float64Array(3 * numbers.length);
  numbers.forEach((q, k) => {
    points.set(all.subarray(3 * q, 3 * q + 3), 3 * k);
  });
  return { points, numbers: Int32Array.from(numbers), corners };
}

function guess(array: GridArray, on: "cells" | "points"): SpaceArray {
  const role = ROLES.find((r) => r === guessRole(array)) ?? "ignore";
  const fits = role === "ignore" || array.components === (role === "velocity" ? 3 : 1);
  return { name: array.name, on, role: fits ? role : "ignore", unit: unitInName(array.name) ?? (fits && role !== "ignore" ? ROLE_UNITS[role] : "") };
}

/** Of two arrays that may be the same thing the first is proposed. */
function onlyOnce(arrays: readonly SpaceArray[]): SpaceArray[] {
  const taken = new Set<string>();
  return arrays.map((a) => {
    if (a.role === "ignore" || !taken.has(a.role)) {
      taken.add(a.role);
      return a;
    }
    return { ...a, role: "ignore" };
  });
}

/** Value of an entry: one component, or the size of all. */
export function entryOf({ components, values }: GridArray, k: number, component: number | "size"): number {
  if (component !== "size") return values[components * k + component];
  let sum = 0;
  for (let d = 0; d < components; d++) sum += values[components * k + d] ** 2;
  return Math.sqrt(sum);
}

/** Entries of a field in the cells: values on points count as the mean of a cell's corners. */
export function entriesInCells(volume: Volume, key: ArrayKey & { readonly component: number | "size" }): Float64Array {
  const { kinds, cellStart, corners } = volume.grid;
  const array = volume.find(key);
  const out = new Float64Array(kinds.length);
  for (let c = 0; c < out.length; c++) {
    if (key.on === "cells") out[c] = entryOf(array, c, key.component);
    else
      for (let k = cellStart[c]; k < cellStart[c + 1]; k++) out[c] += entryOf(array, corners[k], key.component) / (cellStart[c + 1] - cellStart[c]);
  }
  return out;
}

function shown(array: GridArray, on: "cells" | "points", unit: string, made?: string): ShownArray {
  const { name, components, values } = array;
  const component = components === 1 ? 0 : "size";
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (let k = 0; k < values.length / components; k++) {
    const v = entryOf(array, k, component);
    if (v < low) low = v;
    if (v > high) high = v;
  }
  return { name, on, components, unit, low: low <= high ? low : 0, high: low <= high ? high : 0, ...(made ? { made } : {}) };
}
