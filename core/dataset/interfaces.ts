import type { Grid } from "./grid.ts";
import type { GridFaces } from "./gridFaces.ts";
import { areaVector } from "./surface.ts";
import { cross, dot, minus, plus, size, times, type Vector } from "./vector.ts";

/** Where faces on the outside of a grid lie on others without being one with them, as meshes that were made apart meet. */
export interface GridInterfaces {
  /** faces that lie on others, at least in part, of both sides */
  readonly faces: number;
  /** their area, in the square of the grid's unit */
  readonly area: number;
  /** of it what faces nothing: it lies on no face of the other side */
  readonly open: number;
  /** middle of the face of which most faces nothing */
  readonly at: Vector;
}

interface Outer {
  readonly corners: readonly Vector[];
  readonly middle: Vector;
  readonly normal: Vector;
  readonly area: number;
}

/** cosine between normals from which on two faces look at one another */
const OPPOSITE = -0.98;
/** how far apart they may be, over the square root of the smaller area: chords of a curved interface */
const GAP = 0.1;
/** share of a face that has to be covered before it counts as one of an interface */
const LEAST = 0.02;
/** faces outside that are looked through in one go */
const MOST = 400_000;

/**
 * Finds faces outside that lie on others, and how much of them lies on none. Faces count as convex.
 * @returns nothing where there are none, or more faces than are looked through
 */
export function gridInterfaces(grid: Grid, faces: GridFaces): GridInterfaces | undefined {
  const outer = outerFaces(grid, faces);
  if (!outer.length || outer.length > MOST) return undefined;
  const near = new Near(outer);
  let [count, area, open, worst] = [0, 0, 0, -1];
  let at: Vector = [0, 0, 0];
  outer.forEach((f, k) => {
    let covered = 0;
    for (const other of near.round(k)) covered += overlap(f, outer[other]);
    if (covered < LEAST * f.area) return;
    const bare = Math.max(0, f.area - covered);
    count++;
    area += f.area;
    open += bare;
    if (bare > worst) {
      worst = bare;
      at = f.middle;
    }
  });
  // What round-off leaves is nothing.
  return count ? { faces: count, area, open: open < 1e-9 * area ? 0 : open, at } : undefined;
}

function outerFaces({ points }: Grid, { start, corners, owner, neighbour }: GridFaces): Outer[] {
  const out: Outer[] = [];
  for (let f = 0; f < owner.length; f++) {
    if (neighbour[f] >= 0) continue;
    const own = Array.from(corners.subarray(start[f], start[f + 1]), (q): Vector => [points[3 * q], points[3 * q + 1], points[3 * q + 2]]);
    const vector = areaVector(own);
    const area = size(vector);
    if (!(area > 0)) continue;
    out.push({ corners: own, middle: times(own.reduce(plus), 1 / own.length), normal: times(vector, 1 / area), area });
  }
  return out;
}

/** Faces by the boxes of a raster they reach into. */
class Near {
  private readonly side: number;
  private readonly boxes = new Map<string, number[]>();

  constructor(private readonly faces: readonly Outer[]) {
    const sizes = faces.map((f) => Math.sqrt(f.area)).sort((a, b) => a - b);
    this.side = 2 * sizes[Math.floor(sizes.length / 2)];
    faces.forEach((_, k) => {
      this.each(k, (key) => {
        const own = this.boxes.get(key);
        if (own) own.push(k);
        else this.boxes.set(key, [k]);
      });
    });
  }

  /** Faces that may lie on one. */
  round(k: number): Set<number> {
    const found = new Set<number>();
    this.each(k, (key) => {
      for (const other of this.boxes.get(key) ?? []) if (other !== k && facing(this.faces[k], this.faces[other])) found.add(other);
    });
    return found;
  }

  private each(k: number, use: (key: string) => void): void {
    const { corners, area } = this.faces[k];
    const by = GAP * Math.sqrt(area);
    const [low, high] = [0, 1, 2]
      .map((d) => corners.map((c) => c[d]))
      .reduce<[number[], number[]]>(
        ([l, h], v) => [
          [...l, Math.floor((Math.min(...v) - by) / this.side)],
          [...h, Math.floor((Math.max(...v) + by) / this.side)],
        ],
        [[], []],
      );
    for (let x = low[0]; x <= high[0]; x++) for (let y = low[1]; y <= high[1]; y++) for (let z = low[2]; z <= high[2]; z++) use(`${x} ${y} ${z}`);
  }
}

/** Whether two faces look at one another, one close on the other. */
function facing(a: Outer, b: Outer): boolean {
  if (dot(a.normal, b.normal) > OPPOSITE) return false;
  return Math.abs(dot(minus(b.middle, a.middle), a.normal)) <= GAP * Math.sqrt(Math.min(a.area, b.area));
}

type Flat = readonly [number, number];

/** Area of the part of a face another one lies on, seen along its own normal. */
function overlap(face: Outer, other: Outer): number {
  const along = minus(face.corners[1], face.corners[0]);
  const e = times(along, 1 / (size(along) || 1));
  const n = cross(face.normal, e);
  const flat = (p: Vector): Flat => [dot(minus(p, face.middle), e), dot(minus(p, face.middle), n)];
  const own = face.corners.map(flat);
  // Seen along the normal of the one the other goes round the other way.
  let left: readonly Flat[] = other.corners.map(flat).reverse();
  for (let k = 0; k < own.length && left.length; k++) left = leftOf(left, own[k], own[(k + 1) % own.length]);
  let twice = 0;
  left.forEach(([x, y], k) => {
    const [u, v] = left[(k + 1) % left.length];
    twice += x * v - u * y;
  });
  return Math.abs(twice) / 2;
}

/** What of a polygon lies to the left of a line. */
function leftOf(polygon: readonly Flat[], [ax, ay]: Flat, [bx, by]: Flat): Flat[] {
  const side = ([x, y]: Flat) => (bx - ax) * (y - ay) - (by - ay) * (x - ax);
  return polygon.flatMap((p, k): Flat[] => {
    const next = polygon[(k + 1) % polygon.length];
    const [s, t] = [side(p), side(next)];
    const kept: Flat[] = s >= 0 ? [p] : [];
    if (s >= 0 === t >= 0) return kept;
    const share = s / (s - t);
    return [...kept, [p[0] + share * (next[0] - p[0]), p[1] + share * (next[1] - p[1])]];
  });
}
