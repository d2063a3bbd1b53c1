import { Growing } from "../numeric/growing.ts";
import { CELL_KINDS, facesOf, type Grid, type GridArray } from "./grid.ts";

const POLYGON = 7;
/** polygons smaller than this over the square of the longest side are none */
const NOTHING = 1e-16;

/** Where edges of cells go through a level: each known by the two points of its edge. */
interface Nodes {
  /** points of node n: ends[2n] below the level, ends[2n + 1] at it or above; the same one twice where it is at the level */
  readonly ends: Int32Array;
  /** share of the upper point at each node */
  readonly share: Float64Array;
}

/** Where cells are cut: above is what is at the level or beyond it. */
export interface Level {
  /** how far points of a list are above it, below it negative; points at it count as above: asked cell by cell, since asking point by point takes four times as long */
  readonly heights: (points: Int32Array, from: number, to: number, out: Float64Array) => void;
  /** longest side of the room the grid fills */
  readonly side: number;
}

/** Polygons in which cells are cut, with the values of their cells and, on their corners, those of the edges they lie on. */
export interface LevelCut {
  readonly grid: Grid;
  /** cell of the whole grid behind each polygon */
  readonly cellOf: Int32Array;
}

/**
 * The polygons in which a level cuts cells in space: where it goes between the corners of an edge is taken linear along the edge. Points at the level
 * count as above, so that neighbours agree on every place they are cut at, and a level through a layer of faces gives the faces below it once.
 * @param cells those that may be cut, such as a tree finds them; cells that are not in space are passed over
 * @returns nothing where none is cut
 */
export function cutAtLevel(grid: Grid, cells: Int32Array, level: Level): LevelCut | undefined {
  const cutter = new Cutter(grid, level);
  for (let k = 0; k < cells.length; k++) cutter.cut(cells[k]);
  return assembled(grid, cutter, level);
}

/** An edge that goes through the level: the point below it, and the one above. */
type Edge = readonly [low: number, high: number];

/** Where a cell is cut, polygon by polygon, each by the edges it goes through. */
function loopsOf(faces: readonly (readonly number[])[], above: (corner: number) => boolean): Edge[][] {
  const stretches = faces.flatMap((face) => stretchesOf(face, above));
  const loops: Edge[][] = [];
  for (let first = stretches.pop(); first; first = stretches.pop()) {
    const loop = [first[0]];
    for (let at = first[1]; !same(at, first[0]); ) {
      loop.push(at);
      // Faces of a polyhedron need not go round alike: a stretch may have to be walked backwards.
      const k = stretches.findIndex(([p, q]) => same(p, at) || same(q, at));
      if (k < 0) break;
      const [next] = stretches.splice(k, 1);
      at = same(next[0], at) ? next[1] : next[0];
    }
    if (loop.length > 2) loops.push(loop);
  }
  return loops;
}

const same = (a: Edge, b: Edge): boolean => a[0] === b[0] && a[1] === b[1];

/** Each face gives a stretch from where it rises through the level to where it falls again: its neighbour across that edge rises there. */
function stretchesOf(face: readonly number[], above: (corner: number) => boolean): [Edge, Edge][] {
  const rises = face.findIndex((q, k) => above(q) && !above(face[(k || face.length) - 1]));
  if (rises < 0) return [];
  const out: [Edge, Edge][] = [];
  let open: Edge | undefined;
  for (let k = 0; k < face.length; k++) {
    const [q, next] = [rises + face.length - 1 + k, rises + k].map((i) => face[i % face.length]);
    if (above(q) === above(next)) continue;
    if (above(next)) open = [q, next];
    else if (open) out.push([open, [next, q]]);
  }
  return out;
}

/** corners of a cell whose ways of being cut are worked out once */
const FEW = 8;
/** loops of cells of a kind with few corners, by which of these are above: edges by their own corners, [low, high, low, high, ...] of each loop */
const KNOWN: (readonly (readonly number[])[] | undefined)[][] = Array.from({ length: 256 }, () => []);

function knownLoops(kind: number, mask: number): readonly (readonly number[])[] {
  const known = KNOWN[kind][mask];
  if (known) return known;
  const made = loopsOf(CELL_KINDS[kind].faces ?? [], (k) => ((mask >> k) & 1) === 1).map((loop) => loop.flat());
  KNOWN[kind][mask] = made;
  return made;
}

/** Cuts one cell after the other, and keeps the polygons. */
class Cutter {
  readonly ends = new Growing();
  /** nodes of polygon p: corners[starts[p] .. starts[p + 1]) */
  readonly corners = new Growing();
  readonly starts = new Growing();
  readonly cells = new Growing();
  private table = new Int32Array(16_384).fill(-1);
  /** of the corners of the cell at hand */
  private height = new Float64Array(FEW);

  constructor(
    private readonly grid: Grid,
    private readonly level: Level,
  ) {
    this.starts.push(0);
  }

  cut(c: number): void {
    const { kinds, cellStart, corners, polyhedra } = this.grid;
    const kind = CELL_KINDS[kinds[c]];
    if (kind.dimension !== 3) return;
    const at = cellStart[c];
    const own = cellStart[c + 1] - at;
    if (this.height.length < own) this.height = new Float64Array(2 * own);
    const { height } = this;
    this.level.heights(corners, at, at + own, height);
    let [mask, count] = [0, 0];
    for (let k = 0; k < own; k++)
      if (height[k] >= 0) {
        mask |= 1 << k;
        count++;
      }
    if (count === 0 || count === own) return;
    if (kind.faces !== undefined && own <= FEW) {
      for (const loop of knownLoops(kinds[c], mask)) {
        for (let k = 0; k < loop.length; k += 2) {
          const high = corners[at + loop[k + 1]];
          // All edges that end in a point at the level have that point for a node.
          this.corners.push(this.node(height[loop[k + 1]] === 0 ? high : corners[at + loop[k]], high));
        }
        this.end(c);
      }
      return;
    }
    const list = corners.subarray(at, at + own);
    const heightOf = (q: number): number => height[list.indexOf(q)];
    for (const loop of loopsOf(polyhedra.get(c) ?? facesOf(this.grid, c), (q) => heightOf(q) >= 0)) {
      for (const [low, high] of loop) this.corners.push(this.node(heightOf(high) === 0 ? high : low, high));
      this.end(c);
    }
  }

  private end(c: number): void {
    this.starts.push(this.corners.length);
    this.cells.push(c);
  }

  /** Number of the node on an edge. */
  private node(low: number, high: number): number {
    const mask = this.table.length - 1;
    let slot = slotOf(low, high, mask);
    const { values: list } = this.ends;
    for (let n = this.table[slot]; n >= 0; n = this.table[slot]) {
      if (list[2 * n] === low && list[2 * n + 1] === high) return n;
      slot = (slot + 1) & mask;
    }
    const n = this.ends.length / 2;
    this.table[slot] = n;
    this.ends.push(low);
    this.ends.push(high);
    if (3 * n > this.table.length) this.grow();
    return n;
  }

  private grow(): void {
    const { values: list, length } = this.ends;
    this.table = new Int32Array(4 * this.table.length).fill(-1);
    const mask = this.table.length - 1;
    for (let n = 0; 2 * n < length; n++) {
      let slot = slotOf(list[2 * n], list[2 * n + 1], mask);
      while (this.table[slot] >= 0) slot = (slot + 1) & mask;
      this.table[slot] = n;
    }
  }
}

function slotOf(low: number, high: number, mask: number): number {
  const h = Math.imul(low, 73_856_093) ^ Math.imul(high, 19_349_663);
  return (h ^ (h >>> 15)) & mask;
}

function assembled(grid: Grid, cutter: Cutter, { heights, side }: Level): LevelCut | undefined {
  const { ends, corners, starts, cells } = cutter;
  const nodes = nodesOf(ends, heights);
  const places = placesOf(grid.points, nodes);
  const kept = new Growing();
  const list = new Growing();
  const start = new Growing();
  start.push(0);
  for (let p = 0; p < cells.length; p++) {
    const begun = list.length;
    const [a, b] = [starts.values[p], starts.values[p + 1]];
    for (let k = a; k < b; k++) {
      const here = corners.values[k];
      if (here !== corners.values[k + 1 < b ? k + 1 : a]) list.push(here);
    }
    if (list.length - begun < 3 || !(areaOf(list.values, begun, list.length, places) > NOTHING * side * side)) {
      list.length = begun;
      continue;
    }
    start.push(list.length);
    kept.push(cells.values[p]);
  }
  if (!kept.length) return undefined;
  const cellOf = kept.taken();
  const cut: Grid = {
    points: places,
    kinds: new Uint8Array(kept.length).fill(POLYGON),
    cellStart: start.taken(),
    corners: list.taken(),
    polyhedra: new Map(),
    onPoints: grid.onPoints.map((a) => onNodes(a, nodes)),
    onCells: grid.onCells.map((a) => onPolygons(a, cellOf)),
    notes: grid.notes,
  };
  return { grid: cut, cellOf };
}

function nodesOf(ends: Growing, heights: Level["heights"]): Nodes {
  const share = new Float64Array(ends.length / 2);
  const height = new Float64Array(ends.length);
  heights(ends.values, 0, ends.length, height);
  for (let n = 0; n < share.length; n++) {
    const high = height[2 * n + 1];
    share[n] = high === 0 ? 1 : -height[2 * n] / (high - height[2 * n]);
  }
  return { ends: ends.values, share };
}

function placesOf(points: Float64Array, { ends, share }: Nodes): Float64Array {
  const out = new Float64Array(3 * share.length);
  for (let n = 0; n < share.length; n++) {
    const [p, q, s] = [3 * ends[2 * n], 3 * ends[2 * n + 1], share[n]];
    for (let d = 0; d < 3; d++) out[3 * n + d] = (1 - s) * points[p + d] + s * points[q + d];
  }
  return out;
}

/** Size of the area vector of a polygon. */
function areaOf(list: Int32Array, from: number, to: number, places: Float64Array): number {
  let [x, y, z] = [0, 0, 0];
  const o = 3 * list[from];
  for (let k = from + 1; k + 1 < to; k++) {
    const [p, q] = [3 * list[k], 3 * list[k + 1]];
    const [ux, uy, uz] = [places[p] - places[o], places[p + 1] - places[o + 1], places[p + 2] - places[o + 2]];
    const [vx, vy, vz] = [places[q] - places[o], places[q + 1] - places[o + 1], places[q + 2] - places[o + 2]];
    x += uy * vz - uz * vy;
    y += uz * vx - ux * vz;
    z += ux * vy - uy * vx;
  }
  return Math.sqrt(x * x + y * y + z * z) / 2;
}

function onNodes({ name, components, values }: GridArray, { ends, share }: Nodes): GridArray {
  const out = new Float64Array(components * share.length);
  for (let n = 0; n < share.length; n++) {
    const [p, q, s] = [components * ends[2 * n], components * ends[2 * n + 1], share[n]];
    for (let d = 0; d < components; d++) out[components * n + d] = (1 - s) * values[p + d] + s * values[q + d];
  }
  return { name, components, values: out };
}

function onPolygons({ name, components, values }: GridArray, cellOf: Int32Array): GridArray {
  const out = new Float64Array(components * cellOf.length);
  for (let k = 0; k < cellOf.length; k++) for (let d = 0; d < components; d++) out[components * k + d] = values[components * cellOf[k] + d];
  return { name, components, values: out };
}
