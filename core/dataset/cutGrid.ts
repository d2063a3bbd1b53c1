import { CELL_KINDS, facesOf, type Grid, type GridArray } from "./grid.ts";
import { mergePoints } from "./mergePoints.ts";
import { extentOf, longestSide } from "./surface.ts";
import { AXES } from "./vector.ts";

/** A plane that cuts no cell, in a sentence. */
export class NoCut extends Error {}

const POLYGON = 7;
/** nodes nearer than this over the longest side are one */
const SAME = 1e-9;
/** polygons smaller than this over the square of the longest side are none */
const NOTHING = 1e-16;
/**
 * The polygons in which a plane across an axis cuts the cells of a grid in space. Each has the values of its cell; values on points are
 * taken linear along the edges. Points in the plane count as above it, so that a plane through a layer of faces gives the faces below it once.
 * @param axis 0 is x
 * @param at where on it, in the grid's unit
 * @throws {NoCut} it has no cell in space there
 */
export function cutGrid(grid: Grid, axis: 0 | 1 | 2, at: number): Grid {
  const { points, kinds, cellStart, corners } = grid;
  const nodes = new CutNodes(points, axis, at);
  const polygons: { readonly cell: number; readonly nodes: readonly number[] }[] = [];
  for (let c = 0; c < kinds.length; c++) {
    if (CELL_KINDS[kinds[c]].dimension !== 3) continue;
    let [above, below] = [false, false];
    for (let k = cellStart[c]; k < cellStart[c + 1]; k++) {
      if (points[3 * corners[k] + axis] >= at) above = true;
      else below = true;
    }
    if (above && below) for (const loop of loopsOf(facesOf(grid, c), nodes)) polygons.push({ cell: c, nodes: loop });
  }
  const side = longestSide(points);
  const { place, places } = mergePoints(nodes.places(), SAME * side);
  const kept = polygons.flatMap((p) => {
    const short = p.nodes.filter((n, k) => place[n] !== place[p.nodes[(k + 1) % p.nodes.length]]);
    return areaOf(short, places, place, axis) > NOTHING * side * side ? [{ cell: p.cell, nodes: short }] : [];
  });
  if (!kept.length) {
    const { low, high } = extentOf(points);
    throw new NoCut(
      `The plane at ${AXES[axis]} ${at} cuts no cell; the cells reach from ${low[axis]} to ${high[axis]} in the file's unit of length.`,
    );
  }
  return assembled(
    grid,
    kept,
    nodes,
    place,
    places,
    `Cut at ${AXES[axis]} ${at} of the file's unit of length: ${kept.length} of ${kinds.length} cells lie there.`,
  );
}

/** Places where edges go through the plane, each known by the two points of its edge. */
class CutNodes {
  /** points of node n: ends[2n] below the plane, ends[2n + 1] above it */
  readonly ends: number[] = [];
  private readonly known = new Map<number, number>();

  constructor(
    private readonly points: Float64Array,
    private readonly axis: number,
    private readonly at: number,
  ) {}

  above(q: number): boolean {
    return this.points[3 * q + this.axis] >= this.at;
  }

  on(p: number, q: number): number {
    const [low, high] = this.above(p) ? [q, p] : [p, q];
    const key = low * (this.points.length / 3) + high;
    let n = this.known.get(key);
    if (n === undefined) {
      n = this.ends.length / 2;
      this.ends.push(low, high);
      this.known.set(key, n);
    }
    return n;
  }

  /** share of the upper point at a node */
  share(n: number): number {
    const [low, high] = [0, 1].map((k) => this.points[3 * this.ends[2 * n + k] + this.axis]);
    return (this.at - low) / (high - low);
  }

  places(): Float64Array {
    const out = new Float64Array((3 * this.ends.length) / 2);
    for (let n = 0; n < this.ends.length / 2; n++) {
      const share = this.share(n);
      for (let d = 0; d < 3; d++)
        out[3 * n + d] =
          d === this.axis ? this.at : (1 - share) * this.points[3 * this.ends[2 * n] + d] + share * this.points[3 * this.ends[2 * n + 1] + d];
    }
    return out;
  }
}

/** Each face of a cell gives a stretch where it is cut; stretches that meet make a polygon, of a hollow cell several. */
function loopsOf(faces: readonly (readonly number[])[], nodes: CutNodes): number[][] {
  const beside = new Map<number, number[]>();
  const join = (a: number, b: number) => {
    for (const [from, to] of [
      [a, b],
      [b, a],
    ]) {
      const own = beside.get(from);
      if (own) own.push(to);
      else beside.set(from, [to]);
    }
  };
  for (const face of faces) {
    const crossed: number[] = [];
    face.forEach((q, k) => {
      const next = face[(k + 1) % face.length];
      if (nodes.above(q) !== nodes.above(next)) crossed.push(nodes.on(q, next));
    });
    for (let k = 0; k + 1 < crossed.length; k += 2) join(crossed[k], crossed[k + 1]);
  }
  const loops: number[][] = [];
  while (beside.size) {
    const [first] = beside.keys();
    const loop = [first];
    for (let n = first; ; ) {
      const next = take(beside, n);
      if (next === undefined || next === first) break;
      loop.push(next);
      n = next;
    }
    beside.delete(first);
    if (loop.length > 2) loops.push(loop);
  }
  return loops;
}

/** A node beside another; the stretch between them is used up. */
function take(beside: Map<number, number[]>, n: number): number | undefined {
  const next = beside.get(n)?.pop();
  if (next === undefined) {
    beside.delete(n);
    return undefined;
  }
  const back = beside.get(next);
  const at = back?.indexOf(n) ?? -1;
  if (back && at >= 0) back.splice(at, 1);
  for (const k of [n, next]) if (!beside.get(k)?.length) beside.delete(k);
  return next;
}

function areaOf(nodes: readonly number[], places: Float64Array, place: Int32Array, axis: number): number {
  const [u, v] = [(axis + 1) % 3, (axis + 2) % 3];
  let twice = 0;
  nodes.forEach((n, k) => {
    const [p, q] = [3 * place[n], 3 * place[nodes[(k + 1) % nodes.length]]];
    twice += places[p + u] * places[q + v] - places[q + u] * places[p + v];
  });
  return Math.abs(twice) / 2;
}

function assembled(
  grid: Grid,
  kept: readonly { readonly cell: number; readonly nodes: readonly number[] }[],
  nodes: CutNodes,
  place: Int32Array,
  places: Float64Array,
  note: string,
): Grid {
  const start = new Int32Array(kept.length + 1);
  kept.forEach((p, k) => {
    start[k + 1] = start[k] + p.nodes.length;
  });
  const first = new Int32Array(places.length / 3).fill(-1);
  place.forEach((at, n) => {
    if (first[at] < 0) first[at] = n;
  });
  const onPoints = grid.onPoints.map(({ name, components, values }): GridArray => {
    const out = new Float64Array(components * first.length);
    first.forEach((n, at) => {
      const share = nodes.share(n);
      for (let d = 0; d < components; d++)
        out[components * at + d] = (1 - share) * values[components * nodes.ends[2 * n] + d] + share * values[components * nodes.ends[2 * n + 1] + d];
    });
    return { name, components, values: out };
  });
  const onCells = grid.onCells.map(({ name, components, values }): GridArray => {
    const out = new Float64Array(components * kept.length);
    kept.forEach(({ cell }, k) => {
      for (let d = 0; d < components; d++) out[components * k + d] = values[components * cell + d];
    });
    return { name, components, values: out };
  });
  return {
    points: places,
    kinds: new Uint8Array(kept.length).fill(POLYGON),
    cellStart: start,
    corners: Int32Array.from(kept.flatMap((p) => p.nodes.map((n) => place[n]))),
    polyhedra: new Map(),
    onPoints,
    onCells,
    notes: [...grid.notes, note],
  };
}
