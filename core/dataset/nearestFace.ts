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

/** The face nearest to a place, by the distance from the face itself, not from its middle: one face may be a whole side. */
export function nearestFace(surface: Surface, place: Vector): number {
  let [best, found] = [Number.POSITIVE_INFINITY, 0];
  const corner = (k: number) => at(surface.points, surface.corners[k]);
  for (let f = 0; f < faceCount(surface); f++)
    forTriangles(surface, f, (a, b, c) => {
      const d = fromTriangle(place, [corner(a), corner(b), corner(c)]);
      if (d < best) {
        best = d;
        found = f;
      }
    });
  return found;
}
