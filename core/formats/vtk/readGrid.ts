import { type Boundary, renumbered } from "../../dataset/boundaries.ts";
import { CELL_KINDS, type Grid, type GridArray } from "../../dataset/grid.ts";
import { type ArrayPlace, GridFileError, type Piece, type Scanned, scanVtk } from "./scan.ts";
import { ValueReader } from "./values.ts";

/** points or cells one file may have */
const MOST = 50_000_000;
const MOST_CORNERS = 2_000_000_000;

/** Kinds of cells that are made where a file gives none. */
const LINE = 3;
const QUAD = 9;
const PIXEL = 8;
const VOXEL = 11;
const HEXAHEDRON = 12;
const POLYGON = 7;
const TRIANGLE = 5;
const VERTEX = 1;
const POLYLINE = 4;
const POLYHEDRON = 42;

type Counted = Pick<Grid, "points" | "kinds" | "cellStart" | "corners" | "polyhedra" | "onPoints" | "onCells" | "boundaries"> & {
  readonly notes: readonly string[];
};

/**
 * The grid of a file in VTK's XML format: unstructured, polygonal, structured, rectilinear or an image; written as text, base64 or appended, packed
 * or not. Several pieces become one grid.
 * @throws {GridFileError} with a sentence and the place
 * @source VTK File Formats, section "XML File Formats"
 */
export function readVtkGrid(bytes: Uint8Array, told: (share: number) => void = () => undefined): Grid {
  const file = scanVtk(bytes);
  const reader = new ValueReader(bytes, file);
  if (!file.pieces.length) throw new GridFileError("The file has no piece with points and cells.", bytes.length);
  const pieces = file.pieces.map((p, k) => {
    told(k / file.pieces.length);
    return checked(READERS[file.kind](p, reader, file));
  });
  return joined(pieces);
}

const READERS: Readonly<Record<string, (p: Piece, r: ValueReader, f: Scanned) => Counted>> = {
  UnstructuredGrid: unstructured,
  PolyData: polygonal,
  StructuredGrid: (p, r) => structured(p, r, (extent) => pointsOf(p, r, countOf(extent))),
  RectilinearGrid: (p, r) => structured(p, r, (extent) => rectilinear(p, r, extent)),
  ImageData: (p, r, f) => structured(p, r, (extent) => image(f, p, extent)),
};

/** blocks of points that a file may name without holding as many bytes: they cost memory as soon as they are named */
const FREE_POINTS = 1_000_000;
const POINTS_A_BYTE = 64;

const placeOf = (p: Piece, section: string, name?: string): ArrayPlace | undefined =>
  p.sections[section]?.find((a) => name === undefined || a.name === name);

function needed(p: Piece, section: string, name?: string): ArrayPlace {
  const found = placeOf(p, section, name);
  if (!found) throw new GridFileError(`The file has no ${name ?? "array"} in ${section}.`);
  return found;
}

/** A count an element says. */
function countIn(p: Piece, key: string): number {
  const said = p.attributes[key] ?? "0";
  const count = Number(said);
  if (!(Number.isInteger(count) && count >= 0 && count <= MOST))
    throw new GridFileError(`${key} is "${said.slice(0, 30)}"; it is a whole number up to ${MOST}.`);
  return count;
}

const exactly = (r: ValueReader, place: ArrayPlace, count: number): Float64Array => complete(r.read(place, count), place, count);
const places = (r: ValueReader, place: ArrayPlace, count: number, highest: number): Int32Array =>
  complete(r.readPlaces(place, count, highest), place, count);

function complete<T extends Float64Array | Int32Array | Uint8Array>(values: T, { name, at }: ArrayPlace, count: number): T {
  if (values.length !== count)
    throw new GridFileError(`The array ${name.slice(0, 60)} has ${values.length} values where ${count} are due: the file was cut off.`, at);
  return values;
}

const pointsOf = (p: Piece, r: ValueReader, count: number): Float64Array => exactly(r, needed(p, "Points"), 3 * count);

/** Values on points or cells; an array of text or of another length is left out and said. */
function arraysOf(p: Piece, r: ValueReader, section: "PointData" | "CellData", count: number, notes: string[]): GridArray[] {
  return (p.sections[section] ?? []).flatMap((place): GridArray[] => {
    if (!/^(Float|U?Int)\d+$/.test(place.type)) {
      notes.push(`The array ${place.name} is of type ${place.type} and was left out.`);
      return [];
    }
    return [{ name: place.name, components: place.components, values: exactly(r, place, count * place.components) }];
  });
}

/** Places in a list, as the offsets of a file have them: where each cell ends. */
function startsOf(ends: Int32Array, length: number, at: number): Int32Array {
  const starts = new Int32Array(ends.length + 1);
  for (let c = 0; c < ends.length; c++) {
    if (!(ends[c] >= starts[c] && ends[c] <= length))
      throw new GridFileError(`Cell ${c} ends at ${ends[c]}, which is before it begins or after the last corner.`, at);
    starts[c + 1] = ends[c];
  }
  return starts;
}

function unstructured(p: Piece, r: ValueReader): Counted {
  const [pointCount, cellCount] = [countIn(p, "NumberOfPoints"), countIn(p, "NumberOfCells")];
  const notes: string[] = [];
  const ends = needed(p, "Cells", "offsets");
  const offsets = places(r, ends, cellCount, MOST_CORNERS);
  const due = cellCount ? offsets[cellCount - 1] : 0;
  const corners = places(r, needed(p, "Cells", "connectivity"), due, pointCount - 1);
  const types = needed(p, "Cells", "types");
  const kinds = complete(r.readKinds(types, cellCount), types, cellCount);
  const grid = {
    points: pointsOf(p, r, pointCount),
    kinds,
    cellStart: startsOf(offsets, due, ends.at),
    corners,
    polyhedra: kinds.includes(POLYHEDRON) ? polyhedraOf(p, r, kinds) : new Map<number, number[][]>(),
  };
  return { ...grid, onPoints: arraysOf(p, r, "PointData", pointCount, notes), onCells: arraysOf(p, r, "CellData", cellCount, notes), notes };
}

/** Faces of polyhedra: of each, how many, then every face by the number of its corners and the corners. */
function polyhedraOf(p: Piece, r: ValueReader, kinds: Uint8Array): Map<number, number[][]> {
  const [faces, ends] = [needed(p, "Cells", "faces"), exactly(r, needed(p, "Cells", "faceoffsets"), kinds.length)];
  const due = ends.reduce((most, v) => (v > most ? v : most), 0);
  if (!(due <= 8 * MOST)) throw new GridFileError(`The faces of polyhedra end at ${due}.`, faces.at);
  const list = exactly(r, faces, due);
  const found = new Map<number, number[][]>();
  let at = 0;
  kinds.forEach((kind, c) => {
    if (kind !== POLYHEDRON) return;
    const wrong = () => new GridFileError(`The faces of polyhedron ${c} are not those of a closed list.`, faces.at);
    const end = ends[c];
    const own: number[][] = [];
    let k = at;
    const take = () => {
      const v = list[k++];
      if (!(k <= end && Number.isInteger(v) && v >= 0)) throw wrong();
      return v;
    };
    for (let left = take(); left > 0; left--) {
      const size = take();
      if (size < 3 || k + size > end) throw wrong();
      own.push(Array.from({ length: size }, take));
    }
    if (k !== end) throw wrong();
    at = end;
    found.set(c, own);
  });
  return found;
}

/** Surfaces: points, lines, polygons and strips, whose cells come in that order. */
function polygonal(p: Piece, r: ValueReader): Counted {
  const pointCount = countIn(p, "NumberOfPoints");
  const notes: string[] = [];
  const kinds: number[] = [];
  const starts: number[] = [0];
  const corners: number[] = [];
  const groups = [
    ["Verts", "NumberOfVerts", (n: number) => (n === 1 ? VERTEX : 2)],
    ["Lines", "NumberOfLines", (n: number) => (n === 2 ? LINE : POLYLINE)],
    ["Polys", "NumberOfPolys", (n: number) => (n === 3 ? TRIANGLE : n === 4 ? QUAD : POLYGON)],
    ["Strips", "NumberOfStrips", () => 6],
  ] as const;
  for (const [section, key, kindOf] of groups) {
    const count = countIn(p, key);
    if (!count) continue;
    const ends = needed(p, section, "offsets");
    const offsets = places(r, ends, count, MOST_CORNERS);
    const list = places(r, needed(p, section, "connectivity"), offsets[count - 1], pointCount - 1);
    const own = startsOf(offsets, list.length, ends.at);
    for (let c = 0; c < count; c++) {
      kinds.push(kindOf(own[c + 1] - own[c]));
      for (let k = own[c]; k < own[c + 1]; k++) corners.push(list[k]);
      starts.push(corners.length);
    }
  }
  const grid = {
    points: pointsOf(p, r, pointCount),
    kinds: Uint8Array.from(kinds),
    cellStart: Int32Array.from(starts),
    corners: Int32Array.from(corners),
    polyhedra: new Map<number, number[][]>(),
  };
  return { ...grid, onPoints: arraysOf(p, r, "PointData", pointCount, notes), onCells: arraysOf(p, r, "CellData", kinds.length, notes), notes };
}

type Extent = readonly [number, number, number];

/** Points along each direction of a block. */
function extentOf(p: Piece): Extent {
  const words = (p.attributes.Extent ?? "").trim().split(/\s+/).map(Number);
  const size = [0, 1, 2].map((k) => words[2 * k + 1] - words[2 * k] + 1);
  if (words.length !== 6 || !size.every((n) => Number.isInteger(n) && n >= 1 && n <= MOST) || countOf(size as never) > MOST)
    throw new GridFileError(`The extent "${(p.attributes.Extent ?? "").slice(0, 60)}" is none.`);
  return size as unknown as Extent;
}

const countOf = ([i, j, k]: Extent): number => i * j * k;

function structured(p: Piece, r: ValueReader, points: (extent: Extent) => Float64Array): Counted {
  const extent = extentOf(p);
  if (countOf(extent) > FREE_POINTS + POINTS_A_BYTE * r.size)
    throw new GridFileError(`The extent "${(p.attributes.Extent ?? "").slice(0, 60)}" has more points than a file of this size can hold.`);
  const notes: string[] = [];
  const cells = blockCells(extent, p.sections.Points !== undefined);
  return {
    points: points(extent),
    ...cells,
    polyhedra: new Map(),
    onPoints: arraysOf(p, r, "PointData", countOf(extent), notes),
    onCells: arraysOf(p, r, "CellData", cells.kinds.length, notes),
    notes,
  };
}

/** Cells of a block of points, the first direction fastest; directions of one point have no thickness. */
function blockCells([ni, nj, nk]: Extent, curved: boolean): Pick<Counted, "kinds" | "cellStart" | "corners"> {
  const wide = [ni, nj, nk].map((n, d) => ({ n, step: [1, ni, ni * nj][d] })).filter((d) => d.n > 1);
  const count = wide.length ? wide.reduce((s, d) => s * (d.n - 1), 1) : 1;
  const own = 2 ** wide.length;
  const kind = [VERTEX, LINE, curved ? QUAD : PIXEL, curved ? HEXAHEDRON : VOXEL][wide.length];
  const corners = new Int32Array(count * own);
  // Corners of a square go round where the cell is a quadrilateral, row by row where it is a pixel; in space the same layer by layer.
  const round = curved ? [0, 1, 3, 2, 4, 5, 7, 6] : [0, 1, 2, 3, 4, 5, 6, 7];
  for (let c = 0; c < count; c++) {
    let [rest, first] = [c, 0];
    for (const d of wide) {
      first += (rest % (d.n - 1)) * d.step;
      rest = Math.floor(rest / (d.n - 1));
    }
    for (let k = 0; k < own; k++) {
      const bits = round[k];
      corners[c * own + k] = first + wide.reduce((s, d, b) => s + ((bits >> b) & 1) * d.step, 0);
    }
  }
  return { kinds: new Uint8Array(count).fill(kind), cellStart: Int32Array.from({ length: count + 1 }, (_, c) => c * own), corners };
}

function rectilinear(p: Piece, r: ValueReader, extent: Extent): Float64Array {
  const places = p.sections.Coordinates ?? [];
  if (places.length !== 3) throw new GridFileError("A rectilinear grid has three lists of coordinates.");
  const along = places.map((place, d) => exactly(r, place, extent[d]));
  return spread(extent, (i, j, k) => [along[0][i], along[1][j], along[2][k]]);
}

function image({ attributes }: Scanned, p: Piece, extent: Extent): Float64Array {
  const three = (key: string, preset: string): number[] => {
    const found = (attributes[key] ?? preset).trim().split(/\s+/).map(Number);
    if (found.length < 3 || !found.every(Number.isFinite)) throw new GridFileError(`${key} of the image is no list of three numbers.`);
    return found;
  };
  const [origin, spacing] = [three("Origin", "0 0 0"), three("Spacing", "1 1 1")];
  // A piece of an image says where in the whole it begins.
  const begins = (p.attributes.Extent ?? "").trim().split(/\s+/).map(Number);
  if (attributes.Direction && three("Direction", "").join(" ") !== "1 0 0 0 1 0 0 0 1") throw new GridFileError("A turned image is not read.");
  return spread(extent, (i, j, k) => [i, j, k].map((n, d) => origin[d] + spacing[d] * (n + begins[2 * d])) as [number, number, number]);
}

function spread([ni, nj, nk]: Extent, at: (i: number, j: number, k: number) => readonly [number, number, number]): Float64Array {
  const out = new Float64Array(3 * ni * nj * nk);
  let n = 0;
  for (let k = 0; k < nk; k++)
    for (let j = 0; j < nj; j++)
      for (let i = 0; i < ni; i++) {
        out.set(at(i, j, k), n);
        n += 3;
      }
  return out;
}

const KINDS = Array.from({ length: 256 }, (_, k) => CELL_KINDS[k] as (typeof CELL_KINDS)[number] | undefined);

/** Nothing times a number is nothing, unless the number is none or endless. */
function finite(values: Float64Array): boolean {
  let [even, odd] = [0, 0];
  for (let i = 0; i + 1 < values.length; i += 2) {
    even += values[i] * 0;
    odd += values[i + 1] * 0;
  }
  return even + odd + (values.at(-1) ?? 0) * 0 === 0;
}

/** corners of each kind that needs no more than as many; -1 where more is to be asked */
const PLAIN = Int16Array.from(KINDS, (k) => (k?.corners && !k.linear ? k.corners : -1));

/** A grid whose cells are of known kinds, with as many corners as these have. */
function checked(grid: Counted): Counted {
  const { kinds, cellStart, points } = grid;
  const count = points.length / 3;
  for (let i = finite(points) ? points.length : 0; i < points.length; i++)
    if (!Number.isFinite(points[i])) throw new GridFileError(`Point ${Math.floor(i / 3)} has a coordinate that is no number.`);
  const quadratic = new Set<string>();
  let first = 0;
  while (first < kinds.length && cellStart[first + 1] - cellStart[first] === PLAIN[kinds[first]]) first++;
  for (let c = first; c < kinds.length; c++) {
    const kind = kinds[c];
    const known = KINDS[kind];
    const own = cellStart[c + 1] - cellStart[c];
    if (own === PLAIN[kind]) continue;
    if (!known) throw new GridFileError(`Cell ${c} is of kind ${kind}, which is not read.`);
    if (known.corners && own !== known.corners) throw new GridFileError(`Cell ${c} is a ${known.name} with ${own} corners; it has ${known.corners}.`);
    if (known.linear) quadratic.add(known.name);
    if (kind === POLYGON && own < 3) throw new GridFileError(`Cell ${c} is a polygon with ${own} corners.`);
    if (kind !== POLYHEDRON) continue;
    for (const face of grid.polyhedra.get(c) ?? [])
      for (const q of face) if (q >= count) throw new GridFileError(`A face of cell ${c} has point ${q}, and there are ${count}.`);
  }
  const notes = quadratic.size ? [`Shown by their corners: ${[...quadratic].join(", ")}.`] : [];
  return { ...grid, notes: [...grid.notes, ...notes] };
}

/** Pieces as one grid; an array that not every piece has is left out and said. */
export function joined(pieces: readonly Counted[]): Grid {
  if (pieces.length === 1) return pieces[0];
  const notes = new Set(pieces.flatMap((p) => p.notes));
  const starts: number[] = [0];
  const polyhedra = new Map<number, readonly (readonly number[])[]>();
  const boundaries: Boundary[] = [];
  let [points, cells, corners] = [0, 0, 0];
  const cornerLists: Int32Array[] = [];
  for (const p of pieces) {
    const [firstPoint, firstCell, firstCorner] = [points, cells, corners];
    cornerLists.push(p.corners.map((q) => q + firstPoint));
    for (let c = 1; c < p.cellStart.length; c++) starts.push(firstCorner + p.cellStart[c]);
    for (const [c, faces] of p.polyhedra)
      polyhedra.set(
        firstCell + c,
        faces.map((f) => f.map((q) => q + firstPoint)),
      );
    boundaries.push(...renumbered(p.boundaries ?? [], (q) => q + firstPoint));
    points += p.points.length / 3;
    cells += p.kinds.length;
    corners += p.corners.length;
  }
  const arrays = (on: "onPoints" | "onCells"): GridArray[] =>
    pieces[0][on].flatMap((a): GridArray[] => {
      const all = pieces.map((p) => p[on].find((x) => x.name === a.name && x.components === a.components));
      if (all.every((x) => x !== undefined)) return [{ ...a, values: together(all.map((x) => (x as GridArray).values)) }];
      notes.add(`The array ${a.name} is not in every piece and was left out.`);
      return [];
    });
  return {
    points: together(pieces.map((p) => p.points)),
    kinds: together(pieces.map((p) => p.kinds)),
    cellStart: Int32Array.from(starts),
    corners: together(cornerLists),
    polyhedra,
    onPoints: arrays("onPoints"),
    onCells: arrays("onCells"),
    ...(boundaries.length ? { boundaries } : {}),
    notes: [...notes, `${pieces.length} pieces were put together; points they share stand twice.`],
  };
}

function together<T extends Float64Array | Int32Array | Uint8Array>(lists: readonly T[]): T {
  const out = new (lists[0].constructor as new (length: number) => T)(lists.reduce((s, l) => s + l.length, 0));
  let at = 0;
  for (const l of lists) {
    out.set(l, at);
    at += l.length;
  }
  return out;
}
