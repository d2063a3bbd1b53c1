import { NearestCell } from "../mesh/locate.ts";
import { type CellShapes, quadratics, secondMoments } from "./quadratics.ts";
import type { TransferWay } from "./ways.ts";

export interface Transferred {
  /** one a cell of the target; NaN where the source covers less than half of it */
  readonly values: Float64Array;
  /** least share of a target cell that the source covers, of those that have a value */
  readonly leastCovered: number;
  /** target cells without a value */
  readonly missing: number;
}

const LEAST_COVER = 0.5;
const MOST_CORNERS = 64;

/**
 * Cell averages of one mesh brought to the cells of another, of third order. By `averages` the quadratic of each cell is integrated over what the two
 * cells share, so that the integral over the target is that of the source; by `points` the values are taken for those at the middle of their cells,
 * and the quadratic through the nearest is read at the middle of the target's.
 * @param told share done, from 0 to 1; a thrown error ends the work
 * @throws {RangeError} Averages of a revolved mesh: its cells are weighed by their distance from the axis, which the overlaps are not.
 * @source Conservative remapping by exact overlaps after Grandy, J. Comput. Phys. 148 (1999) 433, in the plane.
 */
export function transfer(
  source: CellShapes,
  values: Float64Array,
  target: CellShapes,
  way: TransferWay,
  told: (share: number) => void = () => undefined,
): Transferred {
  if (way === "averages" && (source.hoopM2 || target.hoopM2)) throw new RangeError("On revolved meshes values are brought over by points only.");
  const moments = way === "points" ? new Float64Array(3 * source.cellCount) : secondMoments(source);
  const [shape] = quadratics(source, [values], moments);
  told(0.4);
  const field = { source, values, moments, shape };
  return way === "points" ? atPoints(field, target) : overOverlaps(field, target, (s) => told(0.4 + 0.6 * s));
}

interface Field {
  readonly source: CellShapes;
  readonly values: Float64Array;
  readonly moments: Float64Array;
  readonly shape: Float64Array;
}

function atPoints({ source, values, shape }: Field, target: CellShapes): Transferred {
  const nearest = new NearestCell(source);
  const out = new Float64Array(target.cellCount);
  for (let t = 0; t < target.cellCount; t++) {
    const [x, y] = [target.centroidM[2 * t], target.centroidM[2 * t + 1]];
    const c = nearest.find(x, y);
    const [dx, dy] = [x - source.centroidM[2 * c], y - source.centroidM[2 * c + 1]];
    const k = 5 * c;
    out[t] = values[c] + shape[k] * dx + shape[k + 1] * dy + (shape[k + 2] * dx * dx) / 2 + shape[k + 3] * dx * dy + (shape[k + 4] * dy * dy) / 2;
  }
  return { values: out, leastCovered: 1, missing: 0 };
}

function overOverlaps(field: Field, target: CellShapes, told: (share: number) => void): Transferred {
  const { source } = field;
  const bins = new Bins(source);
  const clip = new Clip();
  const out = new Float64Array(target.cellCount);
  const box = new Float64Array(4);
  let [leastCovered, missing] = [1, 0];
  for (let t = 0; t < target.cellCount; t++) {
    if (t % 4096 === 0) told(t / target.cellCount);
    boxOf(target, t, box);
    let [area, sum] = [0, 0];
    bins.touching(box, (c) => {
      clip.start(source, c);
      if (!clip.within(target, t)) return;
      const part = clip.integrate(field, c);
      area += part.area;
      sum += part.integral;
    });
    const covered = area / target.volumeM2[t];
    if (covered < LEAST_COVER) {
      out[t] = Number.NaN;
      missing++;
    } else {
      out[t] = sum / area;
      leastCovered = Math.min(leastCovered, covered);
    }
  }
  return { values: out, leastCovered: Math.min(1, leastCovered), missing };
}

/** [x0, y0, x1, y1] around a cell. */
function boxOf({ pointsM, cellStart, cellPoints }: CellShapes, c: number, box: Float64Array): void {
  box[0] = box[1] = Number.POSITIVE_INFINITY;
  box[2] = box[3] = Number.NEGATIVE_INFINITY;
  for (let k = cellStart[c]; k < cellStart[c + 1]; k++) {
    const [x, y] = [pointsM[2 * cellPoints[k]], pointsM[2 * cellPoints[k] + 1]];
    if (x < box[0]) box[0] = x;
    if (y < box[1]) box[1] = y;
    if (x > box[2]) box[2] = x;
    if (y > box[3]) box[3] = y;
  }
}

/** Cells of a mesh by the squares of a raster that their boxes touch. */
class Bins {
  private readonly columns: number;
  private readonly rows: number;
  private readonly origin: readonly [number, number];
  private readonly step: readonly [number, number];
  private readonly start: Int32Array;
  private readonly cell: Int32Array;
  private readonly boxes: Float64Array;
  private readonly seen: Int32Array;
  private turn = 0;

  constructor(mesh: CellShapes) {
    const n = mesh.cellCount;
    this.boxes = new Float64Array(4 * n);
    const all = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY, Number.NEGATIVE_INFINITY];
    for (let c = 0; c < n; c++) {
      const box = this.boxes.subarray(4 * c, 4 * c + 4);
      boxOf(mesh, c, box);
      for (const k of [0, 1]) {
        all[k] = Math.min(all[k], box[k]);
        all[k + 2] = Math.max(all[k + 2], box[k + 2]);
      }
    }
    const [width, height] = [all[2] - all[0] || 1, all[3] - all[1] || 1];
    this.columns = Math.max(1, Math.min(n, Math.round(Math.sqrt((n * width) / height))));
    this.rows = Math.max(1, Math.min(n, Math.ceil(n / this.columns)));
    this.origin = [all[0], all[1]];
    this.step = [width / this.columns, height / this.rows];
    this.start = new Int32Array(this.columns * this.rows + 1);
    this.eachBin((bin) => {
      this.start[bin + 1]++;
    });
    for (let b = 0; b < this.columns * this.rows; b++) this.start[b + 1] += this.start[b];
    this.cell = new Int32Array(this.start[this.start.length - 1]);
    const next = this.start.slice();
    this.eachBin((bin, c) => {
      this.cell[next[bin]++] = c;
    });
    this.seen = new Int32Array(n);
  }

  private place(v: number, k: 0 | 1): number {
    const i = Math.floor((v - this.origin[k]) / this.step[k]);
    return Math.max(0, Math.min((k === 0 ? this.columns : this.rows) - 1, i));
  }

  private eachBin(put: (bin: number, cell: number) => void): void {
    for (let c = 0; 4 * c < this.boxes.length; c++) {
      const [i0, i1] = [this.place(this.boxes[4 * c], 0), this.place(this.boxes[4 * c + 2], 0)];
      const [j0, j1] = [this.place(this.boxes[4 * c + 1], 1), this.place(this.boxes[4 * c + 3], 1)];
      for (let j = j0; j <= j1; j++) for (let i = i0; i <= i1; i++) put(j * this.columns + i, c);
    }
  }

  /** Every cell whose box overlaps another box, once. */
  touching(box: Float64Array, put: (cell: number) => void): void {
    const { boxes, seen, columns } = this;
    const turn = ++this.turn;
    const [i0, i1, j0, j1] = [this.place(box[0], 0), this.place(box[2], 0), this.place(box[1], 1), this.place(box[3], 1)];
    for (let j = j0; j <= j1; j++)
      for (let i = i0; i <= i1; i++) {
        const bin = j * columns + i;
        for (let k = this.start[bin]; k < this.start[bin + 1]; k++) {
          const c = this.cell[k];
          if (seen[c] === turn) continue;
          seen[c] = turn;
          if (boxes[4 * c] < box[2] && boxes[4 * c + 2] > box[0] && boxes[4 * c + 1] < box[3] && boxes[4 * c + 3] > box[1]) put(c);
        }
      }
  }
}

/** What two convex cells share, about the centroid of the first. */
class Clip {
  private now = new Float64Array(2 * MOST_CORNERS);
  private next = new Float64Array(2 * MOST_CORNERS);
  private count = 0;
  private x0 = 0;
  private y0 = 0;
  private readonly found = { area: 0, integral: 0 };

  start({ pointsM, cellStart, cellPoints, centroidM }: CellShapes, c: number): void {
    this.x0 = centroidM[2 * c];
    this.y0 = centroidM[2 * c + 1];
    this.count = 0;
    for (let k = cellStart[c]; k < cellStart[c + 1]; k++) {
      this.now[2 * this.count] = pointsM[2 * cellPoints[k]] - this.x0;
      this.now[2 * this.count + 1] = pointsM[2 * cellPoints[k] + 1] - this.y0;
      this.count++;
    }
  }

  /** Cuts by every edge of a counter-clockwise cell. @returns whether anything is left */
  within({ pointsM, cellStart, cellPoints }: CellShapes, t: number): boolean {
    const [from, to] = [cellStart[t], cellStart[t + 1]];
    for (let k = from; k < to; k++) {
      const a = 2 * cellPoints[k];
      const b = 2 * cellPoints[k + 1 < to ? k + 1 : from];
      this.cut(pointsM[a] - this.x0, pointsM[a + 1] - this.y0, pointsM[b] - pointsM[a], pointsM[b + 1] - pointsM[a + 1]);
      if (this.count < 3) return false;
    }
    return true;
  }

  /** Keeps what lies to the left of a line. */
  private cut(ax: number, ay: number, ex: number, ey: number): void {
    const { now, next, count } = this;
    let kept = 0;
    let [px, py] = [now[2 * count - 2], now[2 * count - 1]];
    let before = ex * (py - ay) - ey * (px - ax);
    for (let k = 0; k < count; k++) {
      const [x, y] = [now[2 * k], now[2 * k + 1]];
      const side = ex * (y - ay) - ey * (x - ax);
      if ((side > 0 && before < 0) || (side < 0 && before > 0)) {
        const s = before / (before - side);
        next[2 * kept] = px + s * (x - px);
        next[2 * kept + 1] = py + s * (y - py);
        kept++;
      }
      if (side >= 0) {
        next[2 * kept] = x;
        next[2 * kept + 1] = y;
        kept++;
      }
      [px, py, before] = [x, y, side];
    }
    [this.now, this.next, this.count] = [next, now, kept];
  }

  /** Area and integral of the quadratic of cell c over what is left. */
  integrate({ values, moments, shape }: Field, c: number): { readonly area: number; readonly integral: number } {
    const { now, count, found } = this;
    let [area, mx, my, xx, xy, yy] = [0, 0, 0, 0, 0, 0];
    let [ax, ay] = [now[2 * count - 2], now[2 * count - 1]];
    for (let k = 0; k < count; k++) {
      const [bx, by] = [now[2 * k], now[2 * k + 1]];
      const cross = ax * by - bx * ay;
      area += cross;
      mx += cross * (ax + bx);
      my += cross * (ay + by);
      xx += cross * (ax * ax + ax * bx + bx * bx);
      yy += cross * (ay * ay + ay * by + by * by);
      xy += cross * (2 * ax * ay + ax * by + bx * ay + 2 * bx * by);
      [ax, ay] = [bx, by];
    }
    found.area = area / 2;
    const k = 5 * c;
    const m = 3 * c;
    found.integral =
      values[c] * found.area +
      (shape[k] * mx + shape[k + 1] * my) / 6 +
      (shape[k + 2] * (xx / 12 - moments[m] * found.area)) / 2 +
      shape[k + 3] * (xy / 24 - moments[m + 1] * found.area) +
      (shape[k + 4] * (yy / 12 - moments[m + 2] * found.area)) / 2;
    return found;
  }
}
