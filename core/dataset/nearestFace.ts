import { faceCount, forTriangles, type Surface } from "./surface.ts";
import { at, cross, dot, minus, size, times, type Vector } from "./vector.ts";

/** Distance of a place from a stretch. */
function fromStretch(x: Vector, a: Vector, b: Vector): number {
  const [along, out] = [minus(b, a), minus(x, a)];
  const length = dot(along, along);
  const share = length > 0 ? Math.min(1, Math.max(0, dot(out, along) / length)) : 0;
  return size(minus(out, times(along, share)));
}

/** Distance of a place from a triangle, its edges and corners included; of one without an area from its longest edge. */
export function fromTriangle(x: Vector, [a, b, c]: readonly [Vector, Vector, Vector]): number {
  const normal = cross(minus(b, a), minus(c, a));
  const twice = dot(normal, normal);
  // The foot of the perpendicular lies inside where it is on the inner side of every edge.
  const inner = (p: Vector, q: Vector) => dot(cross(minus(q, p), minus(x, p)), normal) >= 0;
  if (twice > 0 && inner(a, b) && inner(b, c) && inner(c, a)) return Math.abs(dot(minus(x, a), normal)) / Math.sqrt(twice);
  return Math.min(fromStretch(x, a, b), fromStretch(x, b, c), fromStretch(x, c, a));
}

/** Where on a surface a place is nearest to. */
export interface Foot {
  readonly face: number;
  /** corners of the triangle, as places in `Surface.corners`, with what each counts at the foot */
  readonly corners: readonly [number, number, number];
  readonly weights: readonly [number, number, number];
  readonly apart: number;
}

/** Shares of the corners of a triangle at the point of it that is nearest to a place. */
function weightsOf(x: Vector, [a, b, c]: readonly [Vector, Vector, Vector]): [number, number, number] {
  const normal = cross(minus(b, a), minus(c, a));
  const twice = dot(normal, normal);
  const share = (p: Vector, q: Vector) => dot(cross(minus(q, p), minus(x, p)), normal) / twice;
  if (twice > 0) {
    const [wa, wb, wc] = [share(b, c), share(c, a), share(a, b)];
    if (wa >= 0 && wb >= 0 && wc >= 0) return [wa, wb, wc];
  }
  const edges = [
    [a, b, 0, 1],
    [b, c, 1, 2],
    [c, a, 2, 0],
  ] as const;
  const [p, q, i, j] = edges.reduce((best, e) => (fromStretch(x, e[0], e[1]) < fromStretch(x, best[0], best[1]) ? e : best));
  const along = minus(q, p);
  const length = dot(along, along);
  const s = length > 0 ? Math.min(1, Math.max(0, dot(minus(x, p), along) / length)) : 0;
  const out: [number, number, number] = [0, 0, 0];
  out[i] = 1 - s;
  out[j] = s;
  return out;
}

/** Finds feet on one surface for many places. */
export class Feet {
  /** middle of each face's corners and how far the farthest of them is */
  private readonly middle: Float64Array;
  private readonly reach: Float64Array;

  constructor(private readonly surface: Surface) {
    const n = faceCount(surface);
    this.middle = new Float64Array(3 * n);
    this.reach = new Float64Array(n);
    const { start, corners, points } = surface;
    for (let f = 0; f < n; f++) {
      const count = start[f + 1] - start[f];
      for (let k = start[f]; k < start[f + 1]; k++) for (let d = 0; d < 3; d++) this.middle[3 * f + d] += points[3 * corners[k] + d] / count;
      for (let k = start[f]; k < start[f + 1]; k++) this.reach[f] = Math.max(this.reach[f], size(minus(at(points, corners[k]), at(this.middle, f))));
    }
  }

  /** The nearest point of the surface, by the distance from the faces themselves, not from their middles: one face may be a whole side. */
  of(place: Vector): Foot {
    const { surface, middle, reach } = this;
    const corner = (k: number) => at(surface.points, surface.corners[k]);
    const [x, y, z] = place;
    let [best, face, found]: [number, number, [number, number, number]] = [Number.POSITIVE_INFINITY, 0, [0, 0, 0]];
    for (let f = 0; f < reach.length; f++) {
      const [dx, dy, dz] = [middle[3 * f] - x, middle[3 * f + 1] - y, middle[3 * f + 2] - z];
      const most = best + reach[f];
      // No point of the face is nearer than its farthest corner lets it be.
      if (dx * dx + dy * dy + dz * dz > most * most) continue;
      forTriangles(surface, f, (a, b, c) => {
        const d = fromTriangle(place, [corner(a), corner(b), corner(c)]);
        if (d < best) {
          best = d;
          face = f;
          found = [a, b, c];
        }
      });
    }
    const [a, b, c] = found;
    return { face, corners: found, weights: weightsOf(place, [corner(a), corner(b), corner(c)]), apart: best };
  }
}
