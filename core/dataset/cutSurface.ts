import { faceCount, forTriangles, type Surface } from "./surface.ts";
import type { OnSurface } from "./surfaceForces.ts";
import { at, dot, minus, plus, size, times, type Vector } from "./vector.ts";

/** A line in which a plane cuts a surface, from end to end or round. */
export interface CutLine {
  /** places along it, in the surface's unit of length; of a line that goes round the first is not repeated */
  readonly places: readonly Vector[];
  /** value at each place */
  readonly values: readonly number[];
  readonly closed: boolean;
}

interface Stretch {
  readonly nodes: readonly [number, number];
  readonly face: number;
}

/** Number of a place on an edge of a triangle: by the two points it lies between. */
class Nodes {
  readonly places: Vector[] = [];
  readonly values: number[] = [];
  private readonly known = new Map<number, number>();

  constructor(private readonly points: number) {}

  on(p: number, q: number, make: () => { readonly place: Vector; readonly value: number }): number {
    const key = Math.min(p, q) * this.points + Math.max(p, q);
    const known = this.known.get(key);
    if (known !== undefined) return known;
    const { place, value } = make();
    this.places.push(place);
    this.values.push(value);
    this.known.set(key, this.places.length - 1);
    return this.places.length - 1;
  }
}

/**
 * Cuts a surface with a plane. Values at corners are taken linear along edges; values on faces stand at the middle of each face's stretch.
 * @param value of one component, or of a vector the part along `along`
 * @param normal of any length but none
 */
export function cutSurface(surface: Surface, place: Vector, normal: Vector, value: OnSurface, along: Vector = [1, 0, 0]): CutLine[] {
  const { points, corners } = surface;
  const above = Float64Array.from({ length: points.length / 3 }, (_, q) => dot(minus(at(points, q), place), normal));
  const scalar = (i: number): number => (value.components === 1 ? value.values[i] : dot(at(value.values, i), along) / size(along));
  const nodes = new Nodes(points.length / 3);
  const stretches: Stretch[] = [];
  for (let f = 0; f < faceCount(surface); f++)
    forTriangles(surface, f, (a, b, c) => {
      // A point in the plane counts as above it: a line through points is cut once.
      const side = [a, b, c].map((k) => above[corners[k]] >= 0);
      const crossed = (
        [
          [a, b, 0, 1],
          [b, c, 1, 2],
          [c, a, 2, 0],
        ] as const
      ).filter(([, , i, j]) => side[i] !== side[j]);
      if (crossed.length !== 2) return;
      const [m, n] = crossed.map(([k, l]) =>
        nodes.on(corners[k], corners[l], () => {
          const [h, g] = [above[corners[k]], above[corners[l]]];
          const share = h / (h - g);
          const mixed = value.on === "corners" ? (1 - share) * scalar(k) + share * scalar(l) : Number.NaN;
          return { place: plus(times(at(points, corners[k]), 1 - share), times(at(points, corners[l]), share)), value: mixed };
        }),
      );
      if (m !== n) stretches.push({ nodes: [m, n], face: f });
    });
  return chained(stretches).map((chain) => lineOf(chain, nodes, value.on === "faces" ? scalar : undefined));
}

interface Chain {
  readonly nodes: readonly number[];
  readonly faces: readonly number[];
  readonly closed: boolean;
}

/** Stretches that meet, one after the other; a place where three meet ends the lines there. */
function chained(stretches: readonly Stretch[]): Chain[] {
  const at = new Map<number, number[]>();
  stretches.forEach(({ nodes }, s) => {
    for (const n of nodes) at.set(n, [...(at.get(n) ?? []), s]);
  });
  const used = new Uint8Array(stretches.length);
  const walk = (from: number, first: number): Chain => {
    const nodes = [from];
    const faces: number[] = [];
    for (let [n, s] = [from, first]; ; ) {
      used[s] = 1;
      faces.push(stretches[s].face);
      n = stretches[s].nodes[0] === n ? stretches[s].nodes[1] : stretches[s].nodes[0];
      if (n === from) return { nodes, faces, closed: true };
      nodes.push(n);
      const here = at.get(n) as number[];
      const next = here.length === 2 ? here.find((x) => !used[x]) : undefined;
      if (next === undefined) return { nodes, faces, closed: false };
      s = next;
    }
  };
  const out: Chain[] = [];
  for (const [n, own] of at) if (own.length !== 2) for (const s of own) if (!used[s]) out.push(walk(n, s));
  stretches.forEach(({ nodes }, s) => {
    if (!used[s]) out.push(walk(nodes[0], s));
  });
  return out;
}

/** Stretches of one polygon, which its triangles cut into several, are one place where values lie on faces. */
function lineOf({ nodes, faces, closed }: Chain, { places, values }: Nodes, onFace: ((face: number) => number) | undefined): CutLine {
  if (!onFace) return { places: nodes.map((n) => places[n]), values: nodes.map((n) => values[n]), closed };
  const groups: { face: number; from: Vector; to: Vector }[] = [];
  faces.forEach((face, k) => {
    const [from, to] = [places[nodes[k]], places[nodes[(k + 1) % nodes.length]]];
    const last = groups[groups.length - 1];
    if (last?.face === face) last.to = to;
    else groups.push({ face, from, to });
  });
  return { places: groups.map((g) => times(plus(g.from, g.to), 0.5)), values: groups.map((g) => onFace(g.face)), closed };
}

/** Length along a line up to each of its places. */
export function arcLength(places: readonly Vector[]): number[] {
  let sum = 0;
  return places.map((p, k) => {
    if (k > 0) sum += size(minus(p, places[k - 1]));
    return sum;
  });
}
