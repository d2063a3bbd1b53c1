import { CELL_KINDS, type Grid } from "../../dataset/grid.ts";
import { GridFileError } from "../vtk/scan.ts";
import { type CgnsNode, childOf, ofKind, wholesOf } from "./node.ts";

/** Elements of a zone that stand together under a name. */
export interface Section {
  readonly name: string;
  readonly dimension: number;
  readonly cells: Pick<Grid, "kinds" | "cellStart" | "corners" | "polyhedra">;
  /** number the zone gives each */
  readonly numbers: Int32Array;
  /** they are the faces other elements are made of, and none of their own */
  readonly ofCells: boolean;
  /** kinds of higher order that are taken by their corners */
  readonly higher: readonly string[];
}

interface ElementKind {
  readonly name: string;
  /** nodes it has, and the kind of cell its corners make */
  readonly nodes: number;
  readonly cell: number;
  /** order of its corners in that kind, where it is another one */
  readonly order?: readonly number[];
}

// The standard's wedge goes round its first triangle the other way.
const WEDGE = [0, 2, 1, 3, 5, 4];

/** Kinds of elements by the number the standard gives them. @source CGNS, Standard Interface Data Structures, ElementType_t */
const ELEMENTS: Readonly<Record<number, ElementKind>> = {
  2: { name: "point", nodes: 1, cell: 1 },
  3: { name: "line", nodes: 2, cell: 3 },
  4: { name: "line of three nodes", nodes: 3, cell: 3 },
  5: { name: "triangle", nodes: 3, cell: 5 },
  6: { name: "triangle of six nodes", nodes: 6, cell: 5 },
  7: { name: "quadrilateral", nodes: 4, cell: 9 },
  8: { name: "quadrilateral of eight nodes", nodes: 8, cell: 9 },
  9: { name: "quadrilateral of nine nodes", nodes: 9, cell: 9 },
  10: { name: "tetrahedron", nodes: 4, cell: 10 },
  11: { name: "tetrahedron of ten nodes", nodes: 10, cell: 10 },
  12: { name: "pyramid", nodes: 5, cell: 14 },
  13: { name: "pyramid of fourteen nodes", nodes: 14, cell: 14 },
  14: { name: "wedge", nodes: 6, cell: 13, order: WEDGE },
  15: { name: "wedge of fifteen nodes", nodes: 15, cell: 13, order: WEDGE },
  16: { name: "wedge of eighteen nodes", nodes: 18, cell: 13, order: WEDGE },
  17: { name: "hexahedron", nodes: 8, cell: 12 },
  18: { name: "hexahedron of twenty nodes", nodes: 20, cell: 12 },
  19: { name: "hexahedron of twenty-seven nodes", nodes: 27, cell: 12 },
  21: { name: "pyramid of thirteen nodes", nodes: 13, cell: 14 },
};
const MIXED = 20;
const FACES = 22;
const CELLS_OF_FACES = 23;
const POLYHEDRON = 42;
const POLYGON = 7;

interface Raw {
  readonly node: CgnsNode;
  readonly type: number;
  readonly first: number;
  readonly count: number;
  readonly list: Int32Array;
  readonly offsets: Int32Array;
}

/** Sections of an unstructured zone. @throws {GridFileError} a kind that is not read, or lists that do not fit */
export function sectionsOf(zone: CgnsNode, vertices: number): Section[] {
  const raw = ofKind(zone, "Elements_t").map(rawOf);
  const ofCells = raw.some((r) => r.type === CELLS_OF_FACES);
  const faces = new Map(raw.filter((r) => r.type === FACES).map((r) => [r, { ...polygons(r, vertices), ofCells }]));
  const byNumber = new Map<number, readonly number[]>();
  if (ofCells) for (const s of faces.values()) for (const [c, n] of s.numbers.entries()) byNumber.set(n, cornersIn(s, c));
  return raw.flatMap((r): Section[] => {
    if (r.type === CELLS_OF_FACES) return [polyhedra(r, byNumber)];
    const own = faces.get(r);
    return own ? [own] : bySize(r, vertices);
  });
}

/** Corners of an element of a section, by its place there. */
export const cornersIn = ({ cells: { cellStart, corners } }: Section, c: number): number[] =>
  Array.from(corners.subarray(cellStart[c], cellStart[c + 1]));

function rawOf(node: CgnsNode): Raw {
  const [type = 0] = wholesOf(node);
  const [first = 0, last = -1] = wholesOf(childOf(node, "IndexRange_t", "ElementRange"));
  const list = wholesOf(childOf(node, "DataArray_t", "ElementConnectivity"));
  const offsets = wholesOf(childOf(node, "DataArray_t", "ElementStartOffset"));
  const count = last - first + 1;
  if (!(first >= 1 && count >= 0)) throw new GridFileError(`Section "${node.name}" has elements from ${first} to ${last}.`);
  if (count > list.length) throw new GridFileError(`Section "${node.name}" names ${count} elements and has ${list.length} numbers for them.`);
  return { node, type, first, count, list, offsets };
}

/** Elements of kinds with a number of nodes of their own; where they are mixed, each number of its kind stands before its nodes. */
function bySize({ node, type, first, count, list }: Raw, vertices: number): Section[] {
  const byDimension = new Map<number, { kinds: number[]; numbers: number[]; starts: number[]; corners: number[]; higher: Set<string> }>();
  let at = 0;
  for (let c = 0; c < count; c++) {
    const own = type === MIXED ? list[at++] : type;
    const kind = ELEMENTS[own];
    if (!kind) throw new GridFileError(`Section "${node.name}" has elements of kind ${own}, which is not read.`);
    if (at + kind.nodes > list.length) throw new GridFileError(`Section "${node.name}" ends before its element ${c + 1}: the file was cut off.`);
    const { dimension, corners: size } = CELL_KINDS[kind.cell];
    let to = byDimension.get(dimension);
    if (!to) {
      to = { kinds: [], numbers: [], starts: [0], corners: [], higher: new Set() };
      byDimension.set(dimension, to);
    }
    to.kinds.push(kind.cell);
    to.numbers.push(first + c);
    for (let k = 0; k < size; k++) to.corners.push(vertex(list[at + (kind.order?.[k] ?? k)], vertices, node));
    to.starts.push(to.corners.length);
    if (kind.nodes > size) to.higher.add(kind.name);
    at += kind.nodes;
  }
  return [...byDimension].map(([dimension, { kinds, numbers, starts, corners, higher }]) => ({
    name: node.name,
    dimension,
    higher: [...higher],
    numbers: Int32Array.from(numbers),
    ofCells: false,
    cells: { kinds: Uint8Array.from(kinds), cellStart: Int32Array.from(starts), corners: Int32Array.from(corners), polyhedra: new Map() },
  }));
}

function vertex(number: number, vertices: number, node: CgnsNode): number {
  if (!(number >= 1 && number <= vertices)) throw new GridFileError(`Section "${node.name}" names vertex ${number}, and there are ${vertices}.`);
  return number - 1;
}

/** Where each element of a list with offsets stands; older files have the number of its entries before each instead. */
function listed({ node, count, list, offsets }: Raw, use: (element: number, entries: Int32Array) => void): void {
  let at = 0;
  for (let c = 0; c < count; c++) {
    const [from, to] = offsets.length ? [offsets[c], offsets[c + 1]] : [at + 1, at + 1 + list[at]];
    if (!(from >= 0 && to >= from && to <= list.length))
      throw new GridFileError(`Element ${c + 1} of section "${node.name}" does not lie in its list.`);
    use(c, list.subarray(from, to));
    at = to;
  }
}

const numbersOf = ({ first, count }: Raw): Int32Array => Int32Array.from({ length: count }, (_, c) => first + c);

function polygons(raw: Raw, vertices: number): Section {
  const starts = [0];
  const corners: number[] = [];
  listed(raw, (_, entries) => {
    for (const q of entries) corners.push(vertex(q, vertices, raw.node));
    starts.push(corners.length);
  });
  const kinds = new Uint8Array(raw.count).fill(POLYGON);
  return {
    name: raw.node.name,
    dimension: 2,
    higher: [],
    numbers: numbersOf(raw),
    ofCells: false,
    cells: { kinds, cellStart: Int32Array.from(starts), corners: Int32Array.from(corners), polyhedra: new Map() },
  };
}

/** Cells by their faces: a negative number turns a face round. */
function polyhedra(raw: Raw, faces: ReadonlyMap<number, readonly number[]>): Section {
  const starts = [0];
  const corners: number[] = [];
  const own = new Map<number, readonly (readonly number[])[]>();
  listed(raw, (c, entries) => {
    const list = Array.from(entries, (signed) => {
      const face = faces.get(Math.abs(signed));
      if (!face) throw new GridFileError(`Cell ${c + 1} of section "${raw.node.name}" names face ${Math.abs(signed)}, which there is not.`);
      return signed < 0 ? [...face].reverse() : face;
    });
    own.set(c, list);
    corners.push(...new Set(list.flat()));
    starts.push(corners.length);
  });
  const kinds = new Uint8Array(raw.count).fill(POLYHEDRON);
  return {
    name: raw.node.name,
    dimension: 3,
    higher: [],
    numbers: numbersOf(raw),
    ofCells: false,
    cells: { kinds, cellStart: Int32Array.from(starts), corners: Int32Array.from(corners), polyhedra: own },
  };
}

/** Cells of a block of vertices, the first index fastest, in two or three dimensions. */
export function structuredCells(size: Int32Array): Section["cells"] {
  const [ni, nj, nk = 1] = size;
  const flat = size.length === 2;
  const count = (ni - 1) * (nj - 1) * (flat ? 1 : nk - 1);
  if (!(count > 0)) throw new GridFileError(`A block of ${[...size].join(" by ")} vertices has no cells.`);
  const own = flat ? 4 : 8;
  const corners = new Int32Array(own * count);
  let at = 0;
  for (let k = 0; k < (flat ? 1 : nk - 1); k++)
    for (let j = 0; j + 1 < nj; j++)
      for (let i = 0; i + 1 < ni; i++)
        for (let top = 0; top < own / 4; top++) {
          const q = i + ni * (j + nj * (k + top));
          for (const v of [q, q + 1, q + 1 + ni, q + ni]) corners[at++] = v;
        }
  return {
    kinds: new Uint8Array(count).fill(flat ? 9 : 12),
    cellStart: Int32Array.from({ length: count + 1 }, (_, c) => own * c),
    corners,
    polyhedra: new Map(),
  };
}
