/** share of a box's side in which a point is looked for in the neighbouring boxes too */
const SIDE = 1024;

/**
 * Finds which points of a list lie in the same place.
 * @param points [x0, y0, z0, ...], finite
 * @param tolerance points nearer than this to one that was met before are the same; 0 for equal coordinates
 * @returns of each point the number of its place, and the places in the order they were met
 */
export function mergePoints(points: Float64Array, tolerance: number): { readonly place: Int32Array; readonly places: Float64Array } {
  const count = points.length / 3;
  const boxes = new Boxes(points, tolerance * SIDE, count);
  const place = new Int32Array(count);
  const kept = new Int32Array(count);
  let n = 0;
  for (let q = 0; q < count; q++) {
    const known = boxes.near(q, tolerance);
    if (known >= 0) {
      place[q] = place[known];
      continue;
    }
    boxes.add(q);
    kept[n] = q;
    place[q] = n++;
  }
  const places = new Float64Array(3 * n);
  for (let k = 0; k < n; k++) places.set(points.subarray(3 * kept[k], 3 * kept[k] + 3), 3 * k);
  return { place, places };
}

const WRAP = 2_147_483_647;
const DOUBLE = new Float64Array(1);
const HALVES = new Int32Array(DOUBLE.buffer);

/** Points by the box they lie in. With no tolerance, equal coordinates make the box. */
class Boxes {
  private readonly heads: Int32Array;
  private readonly next: Int32Array;
  private readonly mask: number;

  constructor(
    private readonly points: Float64Array,
    private readonly side: number,
    count: number,
  ) {
    let slots = 1024;
    while (slots < 2 * count) slots *= 2;
    this.heads = new Int32Array(slots).fill(-1);
    this.next = new Int32Array(count);
    this.mask = slots - 1;
  }

  add(q: number): void {
    const [i, j, k] = [0, 1, 2].map((d) => this.box(this.points[3 * q + d]));
    const slot = this.slot(i, j, k);
    this.next[q] = this.heads[slot];
    this.heads[slot] = q;
  }

  /** A point within the tolerance that was added before, or -1. */
  near(q: number, tolerance: number): number {
    // Most points lie inside one box with all that is near them; the tolerance is far less than a box, so two are the most along an axis.
    const [is, js, ks] = [0, 1, 2].map((d) => this.boxesOf(this.points[3 * q + d], tolerance));
    for (const i of is)
      for (const j of js)
        for (const k of ks) for (let p = this.heads[this.slot(i, j, k)]; p >= 0; p = this.next[p]) if (this.apart(p, q) <= tolerance) return p;
    return -1;
  }

  private boxesOf(v: number, tolerance: number): readonly number[] {
    if (tolerance === 0) return [this.box(v)];
    const [low, high] = [this.box(v - tolerance), this.box(v + tolerance)];
    return low === high ? [low] : [low, high];
  }

  private box(v: number): number {
    if (this.side > 0) return Math.floor(v / this.side);
    // Plus 0, so that the two zeros are one.
    DOUBLE[0] = v + 0;
    return HALVES[0] ^ Math.imul(HALVES[1], 31);
  }

  private slot(i: number, j: number, k: number): number {
    return (Math.imul(i % WRAP, 73_856_093) ^ Math.imul(j % WRAP, 19_349_663) ^ Math.imul(k % WRAP, 83_492_791)) & this.mask;
  }

  private apart(p: number, q: number): number {
    const { points } = this;
    return Math.hypot(points[3 * p] - points[3 * q], points[3 * p + 1] - points[3 * q + 1], points[3 * p + 2] - points[3 * q + 2]);
  }
}
