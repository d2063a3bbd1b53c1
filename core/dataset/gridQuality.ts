import { select } from "../numeric/select.ts";
import { CELL_KINDS, type Grid } from "./grid.ts";
import { type GridFaces, gridFaces, sidesOf } from "./gridFaces.ts";
import { gridLayers, type LayersAlong } from "./gridLayers.ts";
import { type GridInterfaces, gridInterfaces } from "./interfaces.ts";
import { METRIC_KEYS, METRICS, type Metric, type MetricLimits } from "./metrics.ts";
import { cross, dot, minus, size, type Vector } from "./vector.ts";

/** One metric over all cells in space. */
export interface MetricFound {
  readonly metric: Metric;
  /** from where on a cell is looked at */
  readonly limit: number;
  readonly worst: number;
  readonly median: number;
  /** cells beyond its limit */
  readonly beyond: number;
  /** counts in ten equal bins from the least to the greatest */
  readonly least: number;
  readonly counts: readonly number[];
  /** the worst cells, worst first, with their middles */
  readonly cells: readonly { readonly cell: number; readonly value: number; readonly at: readonly [number, number, number] }[];
}

export interface GridQuality {
  readonly cells: number;
  readonly faces: number;
  readonly outside: number;
  /** in the cube of the grid's unit of length */
  readonly volume: number;
  /** cells whose volume is not positive: their corners run the wrong way round */
  readonly inverted: readonly number[];
  /** cells whose faces do not close: their area vectors do not add up to nothing */
  readonly open: readonly number[];
  /** faces that three cells claim */
  readonly crowded: number;
  /** where meshes that were made apart meet, if they do */
  readonly interfaces?: GridInterfaces;
  /** layers of cells along the outside, by the parts the file names */
  readonly layers: readonly LayersAlong[];
  readonly metrics: readonly MetricFound[];
}

const WORST = 5;
const BINS = 10;
/** what a closed cell's area vectors leave, over their sizes */
const CLOSED = 1e-9;

const degrees = (cosine: number): number => (180 / Math.PI) * Math.acos(Math.min(1, Math.max(-1, cosine)));

/**
 * Quality of the cells of a grid in space, metric by metric, with the worst cells and where they are.
 * @throws {RangeError} The grid has no cell in space.
 */
export function gridQuality(grid: Grid, limits: MetricLimits = {}): GridQuality {
  const faces = gridFaces(grid);
  const shapes = new Shapes(grid, faces);
  const own = shapes.cells();
  const interfaces = gridInterfaces(grid, faces);
  const values = METRIC_KEYS.map((metric) => [metric, own.values[metric]] as const);
  return {
    cells: own.list.length,
    faces: faces.owner.length,
    outside: faces.neighbour.reduce((n, c) => n + (c < 0 ? 1 : 0), 0),
    volume: own.list.reduce((s, c) => s + own.volume[c], 0),
    inverted: Array.from(own.list.filter((c) => !(own.volume[c] > 0))),
    open: Array.from(own.list.filter((c) => own.gap[c] > CLOSED)),
    crowded: faces.crowded.length,
    ...(interfaces ? { interfaces } : {}),
    layers: gridLayers(grid, faces, own.centre),
    metrics: values.map(([metric, of]) => metricOf(metric, picked(of, own.list), own.list, own.centre, limits[metric] ?? METRICS[metric].limit)),
  };
}

/** Values of a metric, and the volume, of every cell in space; NaN of the others. */
export function cellMetrics(grid: Grid, faces: GridFaces): Readonly<Record<Metric | "volume", Float64Array>> {
  const own = new Shapes(grid, faces).cells();
  const solid = new Uint8Array(grid.kinds.length);
  for (const c of own.list) solid[c] = 1;
  const known = (values: Float64Array) => values.map((v, c) => (solid[c] ? v : Number.NaN));
  return { ...(Object.fromEntries(METRIC_KEYS.map((m) => [m, known(own.values[m])])) as Record<Metric, Float64Array>), volume: known(own.volume) };
}

/** Values at some places of a list: the list itself where it is all of them. */
function picked(values: Float64Array, places: Int32Array): Float64Array {
  if (places.length === values.length) return values;
  const out = new Float64Array(places.length);
  for (let k = 0; k < places.length; k++) out[k] = values[places[k]];
  return out;
}

function metricOf(metric: Metric, values: Float64Array, cells: Int32Array, centre: Float64Array, limit: number): MetricFound {
  let [least, worst, beyond] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY, 0];
  for (const v of values) {
    least = Math.min(least, v);
    worst = Math.max(worst, v);
    if (v > limit) beyond++;
  }
  const counts = new Array<number>(BINS).fill(0);
  for (const v of values) counts[worst > least ? Math.min(BINS - 1, Math.floor((BINS * (v - least)) / (worst - least))) : 0]++;
  return {
    metric,
    limit,
    worst,
    least,
    median: select(values.slice(), Math.floor(values.length / 2)),
    beyond,
    counts,
    cells: greatest(values, WORST).map((k) => {
      const c = cells[k];
      return { cell: c, value: values[k], at: [centre[3 * c], centre[3 * c + 1], centre[3 * c + 2]] };
    }),
  };
}

/** Numbers of the greatest values, greatest first; the earlier of equal ones first. */
function greatest(values: Float64Array, count: number): number[] {
  const out: number[] = [];
  values.forEach((v, k) => {
    if (out.length === count && !(v > values[out[count - 1]])) return;
    let at = out.length;
    while (at > 0 && v > values[out[at - 1]]) at--;
    out.splice(at, 0, k);
    if (out.length > count) out.pop();
  });
  return out;
}

/** Geometry of faces and cells, in numbers alone: a mesh has millions of them. */
class Shapes {
  private readonly area: Float64Array;
  private readonly middle: Float64Array;
  private readonly size: Float64Array;
  private readonly warp: Float64Array;
  private readonly angle: Float64Array;
  /** [x0, y0, z0, ...] of the corners of the face at hand, the first one again at the end, and area vectors of its pieces */
  private readonly corner: Float64Array;
  private readonly piece: Float64Array;

  constructor(
    private readonly grid: Grid,
    private readonly faces: GridFaces,
  ) {
    const n = faces.owner.length;
    this.area = new Float64Array(3 * n);
    this.middle = new Float64Array(3 * n);
    this.size = new Float64Array(n);
    this.warp = new Float64Array(n);
    this.angle = new Float64Array(n);
    let most = 0;
    for (let f = 0; f < n; f++) most = Math.max(most, faces.start[f + 1] - faces.start[f]);
    this.corner = new Float64Array(3 * most + 3);
    this.piece = new Float64Array(3 * most);
    for (let f = 0; f < n; f++) this.face(f);
  }

  private point(q: number): Vector {
    const { points } = this.grid;
    return [points[3 * q], points[3 * q + 1], points[3 * q + 2]];
  }

  /** Area vector and middle of a face by triangles about the mean of its corners; how bent it is, and how far its angles are from equal ones. */
  private face(f: number): void {
    const { start, corners } = this.faces;
    const { points } = this.grid;
    const { corner, piece } = this;
    const from = start[f];
    const n = start[f + 1] - from;
    let [mx, my, mz] = [0, 0, 0];
    for (let k = 0; k <= n; k++) {
      const q = 3 * corners[from + (k < n ? k : 0)];
      corner[3 * k] = points[q];
      corner[3 * k + 1] = points[q + 1];
      corner[3 * k + 2] = points[q + 2];
      if (k === n) break;
      mx += points[q];
      my += points[q + 1];
      mz += points[q + 2];
    }
    mx /= n;
    my /= n;
    mz /= n;
    let [ax, ay, az] = [0, 0, 0];
    for (let k = 0; k < 3 * n; k += 3) {
      const px = corner[k] - mx;
      const py = corner[k + 1] - my;
      const pz = corner[k + 2] - mz;
      const qx = corner[k + 3] - mx;
      const qy = corner[k + 4] - my;
      const qz = corner[k + 5] - mz;
      piece[k] = (py * qz - pz * qy) / 2;
      piece[k + 1] = (pz * qx - px * qz) / 2;
      piece[k + 2] = (px * qy - py * qx) / 2;
      ax += piece[k];
      ay += piece[k + 1];
      az += piece[k + 2];
    }
    const length = Math.sqrt(ax * ax + ay * ay + az * az);
    let [x, y, z, whole, straightest] = [0, 0, 0, 0, 1];
    for (let k = 0; k < 3 * n; k += 3) {
      const own = Math.sqrt(piece[k] * piece[k] + piece[k + 1] * piece[k + 1] + piece[k + 2] * piece[k + 2]);
      const along = piece[k] * ax + piece[k + 1] * ay + piece[k + 2] * az;
      // Weighed by what each piece adds along the face's own direction: of a bent face the folds count for less.
      const weight = length > 0 ? along / length : own;
      whole += weight;
      x += (weight * (corner[k] + corner[k + 3] + mx)) / 3;
      y += (weight * (corner[k + 1] + corner[k + 4] + my)) / 3;
      z += (weight * (corner[k + 2] + corner[k + 5] + mz)) / 3;
      if (own > 0 && !(along / (own * length) >= straightest)) straightest = along / (own * length);
    }
    const known = whole > 0;
    this.area[3 * f] = ax;
    this.area[3 * f + 1] = ay;
    this.area[3 * f + 2] = az;
    this.middle[3 * f] = known ? x / whole : mx;
    this.middle[3 * f + 1] = known ? y / whole : my;
    this.middle[3 * f + 2] = known ? z / whole : mz;
    this.size[f] = length;
    this.warp[f] = degrees(straightest);
    this.angle[f] = angleOf(corner, n);
  }

  /** Every metric of every cell, its volume, its middle, and what its faces leave open. */
  cells() {
    const { kinds } = this.grid;
    const n = kinds.length;
    const solid = new Int32Array(n);
    let count = 0;
    for (let c = 0; c < n; c++) if (CELL_KINDS[kinds[c]].dimension === 3) solid[count++] = c;
    const list = solid.slice(0, count);
    const sides = sidesOf(n, this.faces);
    const [volume, centre, gap] = [new Float64Array(n), new Float64Array(3 * n), new Float64Array(n)];
    const values = Object.fromEntries(METRIC_KEYS.map((m) => [m, new Float64Array(n)])) as Record<Metric, Float64Array>;
    for (const c of list) {
      const own = sides.faces.subarray(sides.start[c], sides.start[c + 1]);
      this.cell(c, own, { volume, centre, gap });
      let [least, most] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
      let [warp, angle] = [0, 0];
      for (let k = 0; k < own.length; k++) {
        const f = own[k];
        least = Math.min(least, this.size[f]);
        most = Math.max(most, this.size[f]);
        warp = Math.max(warp, this.warp[f]);
        angle = Math.max(angle, this.angle[f]);
      }
      values.areaRatio[c] = most / Math.max(least, Number.MIN_VALUE);
      values.warpage[c] = warp;
      values.equiangle[c] = angle;
      values.aspect[c] = this.aspect(own, volume[c]);
      values.volumeRatio[c] = 1;
    }
    for (let f = 0; f < this.faces.owner.length; f++) if (this.faces.neighbour[f] >= 0) this.between(f, centre, volume, values);
    return { list, volume, centre, gap, values };
  }

  /** What a face says of the two cells it lies between. */
  private between(f: number, centre: Float64Array, volume: Float64Array, values: Readonly<Record<Metric, Float64Array>>): void {
    const { area, middle } = this;
    const [a, b] = [this.faces.owner[f], this.faces.neighbour[f]];
    const x = centre[3 * b] - centre[3 * a];
    const y = centre[3 * b + 1] - centre[3 * a + 1];
    const z = centre[3 * b + 2] - centre[3 * a + 2];
    const length = Math.sqrt(x * x + y * y + z * z);
    const along = area[3 * f] * x + area[3 * f + 1] * y + area[3 * f + 2] * z;
    const angle = degrees(along / (this.size[f] * length));
    // Where the line of the middles goes through the plane of the face, and how far that is from the middle of the face.
    const dx = middle[3 * f] - centre[3 * a];
    const dy = middle[3 * f + 1] - centre[3 * a + 1];
    const dz = middle[3 * f + 2] - centre[3 * a + 2];
    const share = (area[3 * f] * dx + area[3 * f + 1] * dy + area[3 * f + 2] * dz) / along;
    const [sx, sy, sz] = [dx - share * x, dy - share * y, dz - share * z];
    const skew = along === 0 ? Number.POSITIVE_INFINITY : Math.sqrt(sx * sx + sy * sy + sz * sz) / length;
    const ratio = volume[a] > 0 && volume[b] > 0 ? Math.max(volume[a] / volume[b], volume[b] / volume[a]) : Number.POSITIVE_INFINITY;
    const { nonOrthogonality, skewness, volumeRatio } = values;
    for (let c = a; ; c = b) {
      nonOrthogonality[c] = Math.max(nonOrthogonality[c], angle);
      skewness[c] = Math.max(skewness[c], skew);
      volumeRatio[c] = Math.max(volumeRatio[c], ratio);
      if (c === b) return;
    }
  }

  /** Volume and middle of a cell by pyramids from the mean of its faces' middles. */
  private cell(c: number, sides: Int32Array, to: { volume: Float64Array; centre: Float64Array; gap: Float64Array }): void {
    const { area, middle } = this;
    const { owner } = this.faces;
    let [tx, ty, tz] = [0, 0, 0];
    for (let k = 0; k < sides.length; k++) {
      tx += middle[3 * sides[k]];
      ty += middle[3 * sides[k] + 1];
      tz += middle[3 * sides[k] + 2];
    }
    tx /= sides.length;
    ty /= sides.length;
    tz /= sides.length;
    let [volume, whole, x, y, z, gx, gy, gz] = [0, 0, 0, 0, 0, 0, 0, 0];
    for (let k = 0; k < sides.length; k++) {
      const f = sides[k];
      const sign = owner[f] === c ? 1 : -1;
      const [px, py, pz] = [middle[3 * f], middle[3 * f + 1], middle[3 * f + 2]];
      const piece = (sign * (area[3 * f] * (px - tx) + area[3 * f + 1] * (py - ty) + area[3 * f + 2] * (pz - tz))) / 3;
      volume += piece;
      whole += this.size[f];
      x += piece * (0.75 * px + 0.25 * tx);
      y += piece * (0.75 * py + 0.25 * ty);
      z += piece * (0.75 * pz + 0.25 * tz);
      gx += sign * area[3 * f];
      gy += sign * area[3 * f + 1];
      gz += sign * area[3 * f + 2];
    }
    const known = volume > 0;
    to.volume[c] = volume;
    to.centre[3 * c] = known ? x / volume : tx;
    to.centre[3 * c + 1] = known ? y / volume : ty;
    to.centre[3 * c + 2] = known ? z / volume : tz;
    to.gap[c] = whole > 0 ? Math.sqrt(gx * gx + gy * gy + gz * gz) / whole : 0;
  }

  /** Longest over shortest edge; of a tetrahedron its circumradius over three times its inradius. */
  private aspect(sides: Int32Array, volume: number): number {
    const { start, corners } = this.faces;
    const { points } = this.grid;
    if (sides.length === 4 && sides.every((f) => start[f + 1] - start[f] === 3)) return this.tetrahedron(sides, volume);
    let [shortest, longest] = [Number.POSITIVE_INFINITY, 0];
    for (let s = 0; s < sides.length; s++) {
      const [from, to] = [start[sides[s]], start[sides[s] + 1]];
      let p = 3 * corners[to - 1];
      for (let k = from; k < to; k++) {
        const q = 3 * corners[k];
        const [x, y, z] = [points[q] - points[p], points[q + 1] - points[p + 1], points[q + 2] - points[p + 2]];
        const edge = x * x + y * y + z * z;
        if (edge < shortest) shortest = edge;
        if (edge > longest) longest = edge;
        p = q;
      }
    }
    return Math.sqrt(longest) / Math.max(Math.sqrt(shortest), Number.MIN_VALUE);
  }

  private tetrahedron(sides: Int32Array, volume: number): number {
    const { start, corners } = this.faces;
    const own = [...new Set(Array.from(sides).flatMap((f) => Array.from(corners.subarray(start[f], start[f + 1]))))];
    const [p, q, r, s] = own.map((k) => this.point(k));
    const [a, b, d] = [minus(q, p), minus(r, p), minus(s, p)];
    const [bc, ca, ab] = [cross(b, d), cross(d, a), cross(a, b)];
    const top = [0, 1, 2].map((k) => dot(a, a) * bc[k] + dot(b, b) * ca[k] + dot(d, d) * ab[k]) as unknown as Vector;
    const circumradius = size(top) / (12 * Math.max(Math.abs(volume), Number.MIN_VALUE));
    const inradius = (3 * Math.abs(volume)) / sides.reduce((sum, f) => sum + this.size[f], 0);
    return circumradius / (3 * Math.max(inradius, Number.MIN_VALUE));
  }
}

/**
 * How far a polygon's angles are from those of the regular one: 0 where they are equal, 1 where one is nought or flat.
 * @param corner [x0, y0, z0, ...] of its n corners and of the first one again
 */
function angleOf(corner: Float64Array, n: number): number {
  let [least, most] = [1, -1];
  let px = corner[0] - corner[3 * n - 3];
  let py = corner[1] - corner[3 * n - 2];
  let pz = corner[2] - corner[3 * n - 1];
  let before = Math.sqrt(px * px + py * py + pz * pz);
  for (let k = 0; k < 3 * n; k += 3) {
    const qx = corner[k + 3] - corner[k];
    const qy = corner[k + 4] - corner[k + 1];
    const qz = corner[k + 5] - corner[k + 2];
    const after = Math.sqrt(qx * qx + qy * qy + qz * qz);
    // A side of no length makes no angle.
    const cosine = before > 0 && after > 0 ? -(px * qx + py * qy + pz * qz) / (before * after) : 1;
    if (cosine < least) least = cosine;
    if (cosine > most) most = cosine;
    px = qx;
    py = qy;
    pz = qz;
    before = after;
  }
  const ideal = 180 - 360 / n;
  return Math.max(0, (degrees(least) - ideal) / (180 - ideal), (ideal - degrees(most)) / ideal);
}

/** How far a polygon's angles are from those of the regular one, see `angleOf`. */
export const equiangle = (corners: readonly Vector[]): number => angleOf(Float64Array.from([...corners, corners[0]].flat()), corners.length);
