import { CELL_KINDS, cornersOf, facesOf, type Grid, type GridArray } from "../dataset/grid.ts";
import { areaVector, extentOf } from "../dataset/surface.ts";
import { AXES, cross, dot, minus, plus, at as pointAt, size, times, type Vector } from "../dataset/vector.ts";
import { type FaceMesh, MeshError } from "../mesh/faceMesh.ts";
import { polygonMesh } from "../mesh/polygons.ts";

/** The cells of a grid as a plane mesh, each with the cell of the grid it comes from. */
export interface PlaneGrid {
  readonly mesh: FaceMesh;
  /** cell of the grid of each cell of the mesh */
  readonly cellOf: Int32Array;
  /** corners of each cell in the grid, counter-clockwise as in the mesh */
  readonly cornersOf: readonly (readonly number[])[];
  /** directions in the grid's space of the x and y of the plane, of length 1 */
  readonly along: readonly [Vector, Vector];
  readonly notes: readonly string[];
}

/** A grid that is no plane one, in a sentence. */
export class NotPlane extends Error {}

/** thinner than this over its widest side is plane */
const FLAT = 1e-6;
/** cosine to the z axis above which a plane lies level */
const NEARLY = 0.9;
/** points nearer than this over the widest side are one */
const SAME = 1e-9;
const STRIP = 6;

/**
 * A plane mesh of a grid: surfaces that lie in a plane, or one layer of cells in space, of which the lower side is taken. Where the plane stands
 * across an axis, the other two are the x and y of the mesh; where it lies askew, y is what z (or, where z stands nearly across it, y) is in it.
 * @param unitM metres of the grid's unit of length
 * @throws {NotPlane} it is bent, lies in space, has no cells, or its cells make no mesh
 */
export function planeGrid(grid: Grid, unitM = 1): PlaneGrid {
  const notes: string[] = [];
  const sides = sizeOf(grid);
  const widest = Math.max(...sides.map(([low, high]) => high - low));
  if (!(widest > 0)) throw new NotPlane("All points of the grid lie in one place.");
  const solid = countOf(grid, 3);
  const found = solid ? layerOf(grid, widest) : flatOf(grid, sides, widest);
  const along = directionsIn(found.across);
  const straight = [0, 1, 2].find((d) => found.across[d] === 1);
  const polygons = found.polygons;
  if (!polygons.length) throw new NotPlane("The grid has no cell that lies in a plane.");
  const left = grid.kinds.length - new Set(polygons.map((p) => p.cell)).size;
  if (left) notes.push(`${left} of ${grid.kinds.length} cells are points, lines or of no extent in the plane and were left out.`);
  if (solid) notes.push(`The grid is one layer of cells along ${AXES[straight ?? 2]}; its side at ${found.at} is taken for the plane.`);
  else if (straight === undefined)
    notes.push(
      `The grid lies askew: the x and y of the fields are its directions ${along.map((v) => `(${v.map((c) => Number(c.toFixed(4))).join(", ")})`).join(" and ")}.`,
    );
  else if (straight !== 2) {
    const [x, y] = [0, 1, 2].filter((d) => d !== straight);
    notes.push(`The grid lies across ${AXES[straight]}: its ${AXES[x]} and ${AXES[y]} are the x and y of the fields.`);
  }
  const { pointsM, places } = merged(grid, along, unitM, SAME * widest * unitM);
  const turned = polygons.map(({ corners }) => counterClockwise(corners, pointsM, places));
  const cells = turned.map((corners) => corners.map((q) => places[q]));
  try {
    const mesh = polygonMesh({ pointsM, cells, boundaryOf: () => "rim" });
    return { mesh, cellOf: Int32Array.from(polygons, (p) => p.cell), cornersOf: turned, along, notes };
  } catch (error) {
    if (error instanceof MeshError) throw new NotPlane(`The cells make no mesh: ${error.message}`);
    throw error;
  }
}

interface Polygon {
  readonly cell: number;
  readonly corners: readonly number[];
}

interface Found {
  readonly polygons: readonly Polygon[];
  /** direction across the plane, of length 1; of an axis exactly that axis */
  readonly across: Vector;
  /** where along it */
  readonly at: number;
}

const countOf = ({ kinds }: Grid, dimension: number): number => kinds.reduce((n, k) => n + (CELL_KINDS[k].dimension === dimension ? 1 : 0), 0);

/** Least and greatest along each axis. */
function sizeOf({ points }: Grid): [number, number][] {
  const { low, high } = extentOf(points);
  return low.map((v, d) => [v, high[d]]);
}

const axis = (d: number): Vector => [0, 1, 2].map((k) => (k === d ? 1 : 0)) as unknown as Vector;

/** The x and y of a plane: the axes in it where it stands across one. */
function directionsIn(across: Vector): [Vector, Vector] {
  const upright = Math.abs(across[2]) > NEARLY ? axis(1) : axis(2);
  const leaning = minus(upright, times(across, dot(upright, across)));
  const y = times(leaning, 1 / size(leaning));
  const x = cross(y, across);
  const greatest = x.reduce((a, v) => (Math.abs(v) > Math.abs(a) ? v : a), 0);
  // Plus 0, so that no coordinate is the negative zero.
  return [times(x, Math.sign(greatest)).map((v) => v + 0) as unknown as Vector, y];
}

function flatOf(grid: Grid, sides: readonly (readonly [number, number])[], widest: number): Found {
  const polygons: Polygon[] = [];
  for (let c = 0; c < grid.kinds.length; c++) {
    if (CELL_KINDS[grid.kinds[c]].dimension !== 2) continue;
    const own = cornersOf(grid, c);
    if (grid.kinds[c] !== STRIP) polygons.push({ cell: c, corners: own });
    else for (let k = 0; k + 2 < own.length; k++) polygons.push({ cell: c, corners: own.slice(k, k + 3) });
  }
  const straight = [2, 1, 0].find((d) => sides[d][1] - sides[d][0] <= FLAT * widest);
  if (straight !== undefined) return { polygons, across: axis(straight), at: sides[straight][0] };
  const across = normalOf(grid, polygons);
  const heights = polygons.flatMap(({ corners }) => corners.map((q) => dot(pointAt(grid.points, q), across)));
  const [low, high] = heights.reduce(([l, h], v) => [Math.min(l, v), Math.max(h, v)], [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY]);
  if (!(high - low <= FLAT * widest))
    throw new NotPlane(
      "The surface is bent: only results in a plane become fields of a run. Look at it as a surface, or cut the cells it belongs to.",
    );
  return { polygons, across, at: low };
}

/** Direction across faces that lie in one plane, by their areas; faces that go round the other way count turned. */
function normalOf(grid: Grid, polygons: readonly Polygon[]): Vector {
  let sum: Vector = [0, 0, 0];
  for (const { corners } of polygons) {
    const own = areaVector(corners.map((q) => pointAt(grid.points, q)));
    sum = plus(sum, times(own, dot(own, sum) < 0 ? -1 : 1));
  }
  const length = size(sum);
  return length > 0 ? times(sum, 1 / length) : axis(2);
}

/** One layer of cells: along one axis all points lie at two places. */
function layerOf(grid: Grid, widest: number): Found {
  const { points } = grid;
  for (const across of [2, 1, 0]) {
    const [low, high] = sizeOf(grid)[across];
    const near = (q: number, at: number) => Math.abs(points[3 * q + across] - at) <= FLAT * widest;
    let flat = high > low;
    for (let q = 0; flat && q < points.length / 3; q++) flat = near(q, low) || near(q, high);
    if (!flat) continue;
    const polygons: Polygon[] = [];
    for (let c = 0; c < grid.kinds.length; c++) {
      if (CELL_KINDS[grid.kinds[c]].dimension !== 3) continue;
      const face = facesOf(grid, c).find((f) => f.every((q) => near(q, low)));
      if (face) polygons.push({ cell: c, corners: face });
    }
    return { polygons, across: axis(across), at: low };
  }
  const solid = countOf(grid, 3);
  throw new NotPlane(
    `The grid lies in space, ${solid} cells with more than one layer: only results in a plane become fields of a run. Cut it with one.`,
  );
}

/** Points in the plane, those in one place made one, in metres. */
function merged({ points }: Grid, [a, b]: readonly [Vector, Vector], unitM: number, tolerance: number) {
  const known = new Map<string, number>();
  const list: number[] = [];
  const places = new Int32Array(points.length / 3);
  const step = Math.max(tolerance, Number.MIN_VALUE);
  for (let q = 0; q < places.length; q++) {
    const own = pointAt(points, q);
    const [x, y] = [dot(own, a) * unitM, dot(own, b) * unitM];
    const [i, j] = [Math.round(x / step), Math.round(y / step)];
    // What rounds to a neighbour is as near as what rounds alike.
    let at: number | undefined;
    for (let di = -1; di <= 1 && at === undefined; di++)
      for (let dj = -1; dj <= 1 && at === undefined; dj++) {
        const p = known.get(`${i + di},${j + dj}`);
        if (p !== undefined && Math.hypot(list[2 * p] - x, list[2 * p + 1] - y) <= step) at = p;
      }
    if (at === undefined) {
      at = list.length / 2;
      list.push(x, y);
      known.set(`${i},${j}`, at);
    }
    places[q] = at;
  }
  return { pointsM: Float64Array.from(list), places };
}

function counterClockwise(corners: readonly number[], pointsM: Float64Array, places: Int32Array): readonly number[] {
  let area = 0;
  corners.forEach((q, k) => {
    const [p, n] = [places[q], places[corners[(k + 1) % corners.length]]];
    area += pointsM[2 * p] * pointsM[2 * n + 1] - pointsM[2 * n] * pointsM[2 * p + 1];
  });
  return area < 0 ? [...corners].reverse() : corners;
}

/** One component of an array on the cells of the mesh; what lies on points is the mean of each cell's corners. */
export function onMeshCells(plane: PlaneGrid, array: GridArray, onPoints: boolean, component = 0): Float64Array {
  const { components: n, values } = array;
  if (!onPoints) return Float64Array.from(plane.cellOf, (c) => values[n * c + component]);
  return Float64Array.from(plane.cornersOf, (corners) => corners.reduce((s, q) => s + values[n * q + component], 0) / corners.length);
}
