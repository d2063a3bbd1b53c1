import fc from "fast-check";
import { expect, test } from "vitest";
import { arcLength, cutSurface } from "./cutSurface.ts";
import { boxFaces, polygons } from "./made.ts";
import { stitch } from "./stitch.ts";
import { faceCount } from "./surface.ts";
import type { OnSurface } from "./surfaceForces.ts";
import { at, dot, minus, type Vector } from "./vector.ts";

const { surface, geometry } = stitch(polygons(boxFaces([0, 0, 0], [2, 1, 0.5], 4)));
const corners = (of: (x: Vector) => number): OnSurface => ({
  on: "corners",
  components: 1,
  values: Float64Array.from(surface.corners, (q) => of(at(surface.points, q))),
});
const round = (lines: ReturnType<typeof cutSurface>) => lines.map((l) => arcLength(l.closed ? [...l.places, l.places[0]] : l.places).at(-1));

test("a box cut across is one line round it, as long as its sides; a linear field is found exactly along it", () => {
  const lines = cutSurface(
    surface,
    [0.7, 0, 0],
    [3, 0, 0],
    corners(([x, y, z]) => x + 10 * y + 100 * z),
  );
  expect(lines).toHaveLength(1);
  expect(lines[0].closed).toBe(true);
  expect(round(lines)[0]).toBeCloseTo(3, 12);
  lines[0].places.forEach(([x, y, z], k) => {
    expect(x).toBeCloseTo(0.7, 12);
    expect(lines[0].values[k]).toBeCloseTo(x + 10 * y + 100 * z, 10);
  });
});

test("through points of the mesh as well: whatever the plane, the line is closed, lies in it, and is as long as the section's rim", () => {
  const number = fc.double({ min: -1, max: 1, noNaN: true });
  fc.assert(
    fc.property(number, number, number, fc.integer({ min: 1, max: 7 }), (a, b, c, k) => {
      const normal: Vector = [1 + Math.abs(a), 0.3 * b, 0.3 * c];
      // The middle of the box, and places where the plane x = ... goes through points.
      const place: Vector = k === 4 ? [1, 0.5, 0.25] : [k / 4, 0.5, 0.25];
      const lines = cutSurface(
        surface,
        place,
        normal,
        corners(([x]) => x),
      );
      expect(lines.every((l) => l.closed)).toBe(true);
      for (const l of lines) for (const p of l.places) expect(Math.abs(dot(minus(p, place), normal))).toBeLessThan(1e-12);
      const slant = Math.hypot(normal[0], normal[1], normal[2]) / normal[0];
      expect(round(lines).reduce((s: number, v) => s + (v as number), 0)).toBeGreaterThanOrEqual(3 - 1e-9);
      expect(round(lines).reduce((s: number, v) => s + (v as number), 0)).toBeLessThan(3 * slant + 1e-9 + 2);
    }),
  );
});

test("values on faces stand at the middle of each face's stretch, once a polygon", () => {
  const values = Float64Array.from({ length: faceCount(surface) }, (_, f) => f);
  const [line] = cutSurface(surface, [0.7, 0, 0], [1, 0, 0], { on: "faces", components: 1, values });
  expect(line.values).toHaveLength(16);
  line.places.forEach((p, k) => {
    const middle = at(geometry.middle, line.values[k]);
    expect([p[1], p[2]].map((v) => Math.round(v * 1e9))).toEqual([middle[1], middle[2]].map((v) => Math.round(v * 1e9)));
  });
});

test("of a vector the part along a direction; an open surface gives a line with two ends; beside it there is none", () => {
  const open = stitch(polygons(boxFaces([0, 0, 0], [2, 1, 0.5], 4).slice(80))).surface;
  const field: OnSurface = {
    on: "corners",
    components: 3,
    values: Float64Array.from([...open.corners].flatMap((q) => [1, at(open.points, q)[1], 9])),
  };
  const [line] = cutSurface(open, [0.7, 0, 0], [1, 0, 0], field, [0, 2, 0]);
  expect(line.closed).toBe(false);
  line.places.forEach((p, k) => {
    expect(line.values[k]).toBeCloseTo(p[1], 12);
  });
  expect(cutSurface(open, [5, 0, 0], [1, 0, 0], field)).toEqual([]);
});
