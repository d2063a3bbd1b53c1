import { select } from "../numeric/select.ts";
import { CELL_KINDS, type Grid } from "./grid.ts";
import { type GridFaces, gridFaces } from "./gridFaces.ts";
import { cross, dot, minus, size, type Vector } from "./vector.ts";

export const METRIC_KEYS = ["nonOrthogonality", "skewness", "equiangle", "aspect", "volumeRatio", "areaRatio", "warpage"] as const;
export type Metric = (typeof METRIC_KEYS)[number];

/** What each metric is, and from where on a cell is looked at. @source method, section 10 */
export const METRICS: Readonly<Record<Metric, { readonly name: string; readonly unit: string; readonly limit: number }>> = {
  nonOrthogonality: { name: "non-orthogonality", unit: "deg", limit: 70 },
  skewness: { name: "face skewness", unit: "1", limit: 0.5 },
  equiangle: { name: "equiangle skewness", unit: "1", limit: 0.85 },
  aspect: { name: "aspect ratio", unit: "1", limit: 100 },
  volumeRatio: { name: "volume ratio of neighbours", unit: "1", limit: 5 },
  areaRatio: { name: "ratio of a cell's face areas", unit: "1", limit: 100 },
  warpage: { name: "warp of a face", unit: "deg", limit: 20 },
};

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
  readonly metrics: readonly MetricFound[];
}

const WORST = 5;
const BINS = 10;
/** what a closed cell's area vectors leave, over their sizes */
const CLOSED = 1e-9;

const degrees = (cosine: number): number => (180 / Math.PI) * Math.acos(Math.min(1, Math.max(-1, cosine)));

/** Limits of metrics, where they are other than the usual ones. */
export type MetricLimits = Readonly<Partial<Record<Metric, number>>>;

/**
 * Quality of the cells of a grid in space, metric by metric, with the worst cells and where they are.
 * @throws {RangeError} The grid has no cell in space.
 */
export function gridQuality(grid: Grid, limits: MetricLimits = {}): GridQuality {
  const faces = gridFaces(grid);
  const shapes = new Shapes(grid, faces);
  const own = shapes.cells();
  const values = METRIC_KEYS.map((metric) => [metric, own.values[metric]] as const);
  return {
    cells: own.list.length,
    faces: faces.owner.length,
    outside: faces.neighbour.reduce((n, c) => n + (c < 0 ? 1 : 0), 0),
    volume: own.list.reduce((s, c) => s + own.volume[c], 0),
    inverted: own.list.filter((c) => !(own.volume[c] > 0)),
    open: own.list.filter((c) => own.gap[c] > CLOSED),
    crowded: faces.crowded.length,
    metrics: values.map(([metric, of]) =>
      metricOf(
        metric,
        own.list.map((c) => of[c]),
        own.list,
        own.centre,
        limits[metric] ?? METRICS[metric].limit,
      ),
    ),
  };
}

function metricOf(metric: Metric, values: readonly number[], cells: readonly number[], centre: Float64Array, limit: number): MetricFound {
  const least = values.reduce((a, b) => Math.min(a, b), Number.POSITIVE_INFINITY);
  const worst = values.reduce((a, b) => Math.max(a, b), Number.NEGATIVE_INFINITY);
  const counts = new Array<number>(BINS).fill(0);
  for (const v of values) counts[worst > least ? Math.min(BINS - 1, Math.floor((BINS * (v - least)) / (worst - least))) : 0]++;
  return {
    metric,
    limit,
    worst,
    least,
    median: select(Float64Array.from(values), Math.floor(values.length / 2)),
    beyond: values.filter((v) => v > limit).length,
    counts,
    cells: greatest(values, WORST).map((k) => {
      const c = cells[k];
      return { cell: c, value: values[k], at: [centre[3 * c], centre[3 * c + 1], centre[3 * c + 2]] };
    }),
  };
}

/** Numbers of the greatest values, greatest first; the earlier of equal ones first. */
function greatest(values: readonly number[], count: number): number[] {
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

/** Geometry of faces and cells. */
class Shapes {
  private readonly area: Float64Array;
  private readonly middle: Float64Array;
  private readonly warp: Float64Array;
  private readonly angle: Float64Array;
  /** area vectors of one face's pieces, while they are summed */
  private readonly piece: Float64Array;

  constructor(
    private readonly grid: Grid,
    private readonly faces: GridFaces,
  ) {
    const n = faces.owner.length;
    this.area = new Float64Array(3 * n);
    this.middle = new Float64Array(3 * n);
    this.warp = new Float64Array(n);
    this.angle = new Float64Array(n);
    let most = 0;
    for (let f = 0; f < n; f++) most = Math.max(most, faces.start[f + 1] - faces.start[f]);
    this.piece = new Float64Array(3 * most);
    for (let f = 0; f < n; f++) this.face(f);
  }

  private point(q: number): Vector {
    const { points } = this.grid;
    return [points[3 * q], points[3 * q + 1], points[3 * q + 2]];
  }

  private at(list: Float64Array, k: number): Vector {
    return [list[3 * k], list[3 * k + 1], list[3 * k + 2]];
  }

  /** Area vector and middle of a face by triangles about the mean of its corners; how bent it is, and how far its angles are from equal ones. */
  private face(f: number): void {
    const { start, corners } = this.faces;
    const { points } = this.grid;
    const [from, n] = [start[f], start[f + 1] - start[f]];
    // In numbers alone: a mesh has millions of faces.
    const coordinate = (k: number, d: number) => points[3 * corners[from + (k < n ? k : 0)] + d];
    const mean = [0, 0, 0];
    for (let k = 0; k < n; k++) for (let d = 0; d < 3; d++) mean[d] += coordinate(k, d) / n;
    const [own, total] = [this.piece, [0, 0, 0]];
    for (let k = 0; k < n; k++) {
      const [px, py, pz] = [coordinate(k, 0) - mean[0], coordinate(k, 1) - mean[1], coordinate(k, 2) - mean[2]];
      const [qx, qy, qz] = [coordinate(k + 1, 0) - mean[0], coordinate(k + 1, 1) - mean[1], coordinate(k + 1, 2) - mean[2]];
      own[3 * k] = (py * qz - pz * qy) / 2;
      own[3 * k + 1] = (pz * qx - px * qz) / 2;
      own[3 * k + 2] = (px * qy - py * qx) / 2;
      for (let d = 0; d < 3; d++) total[d] += own[3 * k + d];
    }
    this.area.set(total, 3 * f);
    const length = size(total as unknown as Vector);
    const middle = [0, 0, 0];
    let [whole, warp] = [0, 0];
    for (let k = 0; k < n; k++) {
      const [x, y, z] = [own[3 * k], own[3 * k + 1], own[3 * k + 2]];
      const piece = Math.sqrt(x * x + y * y + z * z);
      const along = x * total[0] + y * total[1] + z * total[2];
      // Weighed by what each piece adds along the face's own direction: of a bent face the folds count for less.
      const weight = length > 0 ? along / length : piece;
      whole += weight;
      for (let d = 0; d < 3; d++) middle[d] += (weight * (coordinate(k, d) + coordinate(k + 1, d) + mean[d])) / 3;
      if (piece > 0) warp = Math.max(warp, degrees(along / (piece * length)));
    }
    this.middle.set(whole > 0 ? middle.map((v) => v / whole) : mean, 3 * f);
    this.warp[f] = warp;
    const places: Vector[] = [];
    for (let k = 0; k < n; k++) places.push([coordinate(k, 0), coordinate(k, 1), coordinate(k, 2)]);
    this.angle[f] = equiangle(places);
  }

  /** Every metric of every cell, its volume, its middle, and what its faces leave open. */
  cells() {
    const { kinds } = this.grid;
    const { owner, neighbour } = this.faces;
    const n = kinds.length;
    const list = [...kinds.keys()].filter((c) => CELL_KINDS[kinds[c]].dimension === 3);
    const sides: number[][] = Array.from({ length: n }, () => []);
    owner.forEach((c, f) => {
      sides[c].push(f);
      if (neighbour[f] >= 0) sides[neighbour[f]].push(f);
    });
    const [volume, centre, gap] = [new Float64Array(n), new Float64Array(3 * n), new Float64Array(n)];
    for (const c of list) this.cell(c, sides[c], { volume, centre, gap });
    const values = Object.fromEntries(METRIC_KEYS.map((m) => [m, new Float64Array(n)])) as Record<Metric, Float64Array>;
    for (const c of list) {
      const own = sides[c];
      const areas = own.map((f) => size(this.at(this.area, f)));
      values.areaRatio[c] = Math.max(...areas) / Math.max(Math.min(...areas), Number.MIN_VALUE);
      values.warpage[c] = Math.max(...own.map((f) => this.warp[f]));
      values.equiangle[c] = Math.max(...own.map((f) => this.angle[f]));
      values.aspect[c] = this.aspect(own, volume[c], areas);
      values.volumeRatio[c] = 1;
    }
    owner.forEach((a, f) => {
      const b = neighbour[f];
      if (b < 0) return;
      const line = minus(this.at(centre, b), this.at(centre, a));
      const area = this.at(this.area, f);
      const along = dot(area, line);
      const angle = degrees(along / (size(area) * size(line)));
      // Where the line of the middles goes through the plane of the face, and how far that is from the middle of the face.
      const share = dot(area, minus(this.at(this.middle, f), this.at(centre, a))) / along;
      const through = [0, 1, 2].map((d) => centre[3 * a + d] + share * line[d]) as unknown as Vector;
      const skew = along === 0 ? Number.POSITIVE_INFINITY : size(minus(this.at(this.middle, f), through)) / size(line);
      const ratio = volume[a] > 0 && volume[b] > 0 ? Math.max(volume[a] / volume[b], volume[b] / volume[a]) : Number.POSITIVE_INFINITY;
      for (const c of [a, b]) {
        values.nonOrthogonality[c] = Math.max(values.nonOrthogonality[c], angle);
        values.skewness[c] = Math.max(values.skewness[c], skew);
        values.volumeRatio[c] = Math.max(values.volumeRatio[c], ratio);
      }
    });
    return { list, volume, centre, gap, values };
  }

  /** Volume and middle of a cell by pyramids from the mean of its faces' middles. */
  private cell(c: number, sides: readonly number[], to: { volume: Float64Array; centre: Float64Array; gap: Float64Array }): void {
    const tip = [0, 1, 2].map((d) => sides.reduce((s, f) => s + this.middle[3 * f + d], 0) / sides.length) as unknown as Vector;
    let [volume, whole] = [0, 0];
    const first = [0, 0, 0];
    const left = [0, 0, 0];
    for (const f of sides) {
      const sign = this.faces.owner[f] === c ? 1 : -1;
      const area = this.at(this.area, f);
      const middle = this.at(this.middle, f);
      const piece = (sign * dot(area, minus(middle, tip))) / 3;
      volume += piece;
      whole += size(area);
      for (let d = 0; d < 3; d++) {
        first[d] += piece * (0.75 * middle[d] + 0.25 * tip[d]);
        left[d] += sign * area[d];
      }
    }
    to.volume[c] = volume;
    for (let d = 0; d < 3; d++) to.centre[3 * c + d] = volume > 0 ? first[d] / volume : tip[d];
    to.gap[c] = whole > 0 ? Math.hypot(...left) / whole : 0;
  }

  /** Longest over shortest edge; of a tetrahedron its circumradius over three times its inradius. */
  private aspect(sides: readonly number[], volume: number, areas: readonly number[]): number {
    const { start, corners } = this.faces;
    const tetrahedron = sides.length === 4 && sides.every((f) => start[f + 1] - start[f] === 3);
    if (tetrahedron) {
      const own = [...new Set(sides.flatMap((f) => Array.from(corners.subarray(start[f], start[f + 1]))))];
      const [p, q, r, s] = own.map((k) => this.point(k));
      const [a, b, d] = [minus(q, p), minus(r, p), minus(s, p)];
      const [bc, ca, ab] = [cross(b, d), cross(d, a), cross(a, b)];
      const top = [0, 1, 2].map((k) => dot(a, a) * bc[k] + dot(b, b) * ca[k] + dot(d, d) * ab[k]) as unknown as Vector;
      const circumradius = size(top) / (12 * Math.max(Math.abs(volume), Number.MIN_VALUE));
      const inradius = (3 * Math.abs(volume)) / areas.reduce((x, y) => x + y, 0);
      return circumradius / (3 * Math.max(inradius, Number.MIN_VALUE));
    }
    let [shortest, longest] = [Number.POSITIVE_INFINITY, 0];
    for (const f of sides)
      for (let k = start[f]; k < start[f + 1]; k++) {
        const next = k + 1 < start[f + 1] ? k + 1 : start[f];
        const edge = size(minus(this.point(corners[k]), this.point(corners[next])));
        shortest = Math.min(shortest, edge);
        longest = Math.max(longest, edge);
      }
    return longest / Math.max(shortest, Number.MIN_VALUE);
  }
}

/** How far a polygon's angles are from those of the regular one: 0 where they are equal, 1 where one is nought or flat. */
export function equiangle(corners: readonly Vector[]): number {
  const n = corners.length;
  const ideal = 180 - 360 / n;
  let worst = 0;
  corners.forEach((p, k) => {
    const [a, b] = [minus(corners[(k + n - 1) % n], p), minus(corners[(k + 1) % n], p)];
    const angle = size(a) > 0 && size(b) > 0 ? degrees(dot(a, b) / (size(a) * size(b))) : 0;
    worst = Math.max(worst, (angle - ideal) / (180 - ideal), (ideal - angle) / ideal);
  });
  return worst;
}
