import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { boxFaces, polygons } from "./made.ts";
import { stitch } from "./stitch.ts";
import { faceCount, type Surface } from "./surface.ts";
import { type OnSurface, type PatchForces, sum, surfaceForces } from "./surfaceForces.ts";
import { at, cross, dot, minus, plus, size, times, type Vector } from "./vector.ts";

/** Values at the corners of a surface, by place. */
const atCorners = (s: Surface, of: (x: Vector) => number): OnSurface => ({
  on: "corners",
  components: 1,
  values: Float64Array.from(s.corners, (q) => of(at(s.points, q))),
});

const number = fc.double({ min: -2, max: 2, noNaN: true });
const vector = fc.tuple(number, number, number) as fc.Arbitrary<Vector>;
const whole = (s: ReturnType<typeof stitch>, more: Parameters<typeof surfaceForces>[1]): PatchForces =>
  surfaceForces(s.surface, more, new Int32Array(faceCount(s.surface)), 1)[0];

describe("forces over a closed surface", () => {
  // A box pulled about by a matrix: slanted parallelograms.
  const skewed = (m: readonly Vector[]) =>
    boxFaces([-1, -0.5, -0.25], [2, 1, 0.5], 3).map((f) => f.map((x): Vector => [dot(m[0], x), dot(m[1], x), dot(m[2], x)]));
  const matrix = fc.tuple(vector, vector, vector).map(([a, b, c]): Vector[] => [plus(a, [4, 0, 0]), plus(b, [0, 4, 0]), plus(c, [0, 0, 4])]);

  test("by the divergence theorem: a pressure that rises evenly lifts with volume times slope, at the middle of the volume; whatever the shape", () => {
    fc.assert(
      fc.property(matrix, vector, vector, number, (m, slope, about, level) => {
        const s = stitch(polygons(skewed(m)));
        const volume = Math.abs(dot(m[0], cross(m[1], m[2])));
        fc.pre(volume > 1);
        const force = times(slope, -volume);
        const found = whole(s, { pressure: atCorners(s.surface, (x) => level + dot(slope, x)), referencePa: level, about, sign: s.sign });
        const scale = volume * size(slope) + found.area * 1e-3;
        expect(size(minus(found.pressureForce, force)) / scale).toBeLessThan(1e-10);
        // The middle of the box is the origin.
        expect(size(minus(found.pressureMoment, cross(times(about, -1), force))) / (scale * 10)).toBeLessThan(1e-10);
        expect(size(found.areaVector) / found.area).toBeLessThan(1e-10);
        expect(found.meanPressure).toBeDefined();
      }),
      { numRuns: 60 },
    );
  });
  test("values on faces, which are their middles where the pressure rises evenly, give the same force", () => {
    const s = stitch(polygons(boxFaces([0, 0, 0], [2, 1, 3], 2)));
    const values = Float64Array.from({ length: faceCount(s.surface) }, (_, f) => 7 + dot([1, -2, 0.5], at(s.geometry.middle, f)));
    const found = whole(s, { pressure: { on: "faces", components: 1, values }, referencePa: 100, about: [0, 0, 0], sign: s.sign });
    expect(found.pressureForce.map((v) => v + 0)).toEqual([-6, 12, -3].map((v) => expect.closeTo(v, 11)));
  });
  test("a reference taken off changes nothing of a closed one, and of an open one its area vector times it", () => {
    const faces = boxFaces([0, 0, 0], [1, 1, 1], 2);
    const at0 = (f: typeof faces, referencePa: number) => {
      const s = stitch(polygons(f));
      return whole(s, { pressure: atCorners(s.surface, ([x]) => 101_325 + x), referencePa, about: [0, 0, 0], sign: s.sign });
    };
    expect(size(minus(at0(faces, 0).pressureForce, at0(faces, 101_325).pressureForce))).toBeLessThan(1e-9);
    const [absolute, gauge] = [at0(faces.slice(4), 0), at0(faces.slice(4), 101_325)];
    expect(minus(gauge.pressureForce, absolute.pressureForce)[0]).toBeCloseTo(101_325, 6);
    expect(gauge.areaVector).toEqual([1, 0, 0]);
  });
});

describe("shear", () => {
  test("on a plate: stress times area, and its moment where it rises evenly along it", () => {
    const plate = stitch(polygons(boxFaces([0, 0, 0], [3, 2, 1], 4).slice(80)));
    const values = Float64Array.from([...plate.surface.corners].flatMap((q) => [2 + at(plate.surface.points, q)[1], 0, 0]));
    const found = whole(plate, { shear: { on: "corners", components: 3, values }, referencePa: 0, about: [0, 0, 1], sign: plate.sign });
    // Over y from 0 to 2 and x to 3: (2 + y) dA is 18, its moment about z is -int y (2 + y) dA.
    expect(found.shearForce).toEqual([expect.closeTo(18, 12), 0, 0]);
    expect(found.shearMoment).toEqual([0, 0, expect.closeTo(-3 * (4 + 8 / 3), 11)]);
    expect(found.pressureForce).toEqual([0, 0, 0]);
    expect(found.meanPressure).toBeUndefined();
  });
  test("patches add up to the whole, faces without a name are a part of their own", () => {
    const s = stitch(polygons(boxFaces([0, 0, 0], [1, 2, 3], 3)));
    const patchOf = Int32Array.from({ length: faceCount(s.surface) }, (_, f) => (f % 3) - 1);
    const inputs = { pressure: atCorners(s.surface, ([x, y, z]) => x * y + z * z), referencePa: 1, about: [1, 1, 1] as const, sign: s.sign };
    const parts = surfaceForces(s.surface, inputs, patchOf, 2);
    expect(parts.map((p) => p.faces)).toEqual([18, 18, 18]);
    const [all, added] = [whole(s, inputs), parts.reduce(sum)];
    expect(size(minus(all.pressureForce, added.pressureForce))).toBeLessThan(1e-12);
    expect(size(minus(all.pressureMoment, added.pressureMoment))).toBeLessThan(1e-12);
    expect(added.meanPressure).toBeCloseTo(all.meanPressure as number, 12);
  });
  test("a face turned over counts as its neighbours do", () => {
    const faces = boxFaces([0, 0, 0], [1, 1, 1], 2);
    const s = stitch(polygons(faces.map((f, k) => (k < 4 ? [...f].reverse() : f))));
    const of = (sign: Int8Array) =>
      whole(s, { pressure: atCorners(s.surface, ([x]) => 1 + x), referencePa: 0, about: [0, 0, 0], sign }).pressureForce[0];
    expect(of(s.sign)).toBeCloseTo(-1, 12);
    expect(of(new Int8Array(24).fill(1))).toBeCloseTo(-3, 12);
  });
});
