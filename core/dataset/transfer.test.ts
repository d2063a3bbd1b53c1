import fc from "fast-check";
import { describe, expect, test } from "vitest";
import type { FaceMesh } from "../mesh/faceMesh.ts";
import { rectangleMesh } from "../mesh/rectangle.ts";
import { revolved } from "../mesh/revolved.ts";
import { shapedRectangle } from "../mesh/shaped.ts";
import { CELL_SHAPES, type CellShape } from "../mesh/shapes.ts";
import { quadratics, secondMoments } from "./quadratics.ts";
import { transfer } from "./transfer.ts";

const uniform = { kind: "uniform" } as const;
const box = (nx: number, ny: number, strength?: number) => {
  const grading = strength ? ({ kind: "both-ends", strength } as const) : uniform;
  return { lengthM: 1.2, heightM: 0.8, nx, ny, gradingX: grading, gradingY: uniform, periodicX: false };
};
const shaped = (shape: CellShape, n: number) => shapedRectangle(box(n, n), shape);

/** Exact cell averages of a + b x + c y + d x^2 + e x y + f y^2. */
function averagesOf(mesh: FaceMesh, [a, b, c, d, e, f]: readonly number[]): Float64Array {
  const moments = secondMoments(mesh);
  return Float64Array.from({ length: mesh.cellCount }, (_, k) => {
    const [x, y] = [mesh.centroidM[2 * k], mesh.centroidM[2 * k + 1]];
    const [xx, xy, yy] = [moments[3 * k] + x * x, moments[3 * k + 1] + x * y, moments[3 * k + 2] + y * y];
    return a + b * x + c * y + d * xx + e * xy + f * yy;
  });
}

const integral = (mesh: FaceMesh, values: Float64Array) => values.reduce((s, v, c) => s + v * mesh.volumeM2[c], 0);
const worst = (a: Float64Array, b: Float64Array) => a.reduce((m, v, i) => Math.max(m, Math.abs(v - b[i])), 0);

test("second moments of a rectangle are a twelfth of its sides squared", () => {
  const mesh = rectangleMesh(box(3, 4));
  const moments = secondMoments(mesh);
  for (let c = 0; c < mesh.cellCount; c++) {
    expect(moments[3 * c]).toBeCloseTo(0.4 ** 2 / 12, 14);
    expect(moments[3 * c + 1]).toBeCloseTo(0, 14);
    expect(moments[3 * c + 2]).toBeCloseTo(0.2 ** 2 / 12, 14);
  }
});

describe.each(CELL_SHAPES.map((shape) => [shape] as const))("cells that are %s", (shape) => {
  test("a quadratic is found from its averages in every cell, corners of the mesh included", () => {
    const mesh = shaped(shape, 8);
    const [, b, c, d, e, f] = [1, -2, 3, 4, -5, 6];
    const [found] = quadratics(mesh, [averagesOf(mesh, [1, b, c, d, e, f])]);
    for (let k = 0; k < mesh.cellCount; k++) {
      const [x, y] = [mesh.centroidM[2 * k], mesh.centroidM[2 * k + 1]];
      const expected = [b + 2 * d * x + e * y, c + e * x + 2 * f * y, 2 * d, e, 2 * f];
      expected.forEach((v, i) => {
        expect(found[5 * k + i]).toBeCloseTo(v, 5);
      });
    }
  });

  test("a quadratic arrives on any other mesh exactly, by averages and by points", () => {
    const coefficients = [0.3, -1, 2, 1.5, -0.7, 0.9];
    const source = shaped(shape, 11);
    const target = rectangleMesh(box(7, 6, 1.8));
    const sent = transfer(source, averagesOf(source, coefficients), target, "averages");
    expect(worst(sent.values, averagesOf(target, coefficients))).toBeLessThan(1e-8);
    expect([sent.missing, sent.leastCovered]).toEqual([0, expect.closeTo(1, 10)]);
    const at = (mesh: FaceMesh) => {
      const [a, b, c, d, e, f] = coefficients;
      return Float64Array.from({ length: mesh.cellCount }, (_, k) => {
        const [x, y] = [mesh.centroidM[2 * k], mesh.centroidM[2 * k + 1]];
        return a + b * x + c * y + d * x * x + e * x * y + f * y * y;
      });
    };
    expect(worst(transfer(source, at(source), target, "points").values, at(target))).toBeLessThan(1e-8);
  });
});

test("whatever the values: the integral over the target is that of the source, and a value that is the same everywhere stays", () => {
  const counts = fc.integer({ min: 2, max: 14 });
  fc.assert(
    fc.property(
      counts,
      counts,
      counts,
      fc.constantFrom(...CELL_SHAPES),
      fc.infiniteStream(fc.double({ min: -5, max: 5, noNaN: true })),
      (...given) => {
        const [nx, ny, n, shape, stream] = given;
        const source = shaped(shape, Math.max(4, n));
        const target = rectangleMesh(box(nx, ny));
        const values = Float64Array.from({ length: source.cellCount }, () => stream.next().value as number);
        const sent = transfer(source, values, target, "averages");
        expect(integral(target, sent.values)).toBeCloseTo(integral(source, values), 10);
        expect(
          worst(
            transfer(
              source,
              values.map(() => 3.5),
              target,
              "averages",
            ).values,
            sent.values.map(() => 3.5),
          ),
        ).toBeLessThan(1e-11);
      },
    ),
    { numRuns: 60 },
  );
});

test.each(["averages", "points"] as const)("by %s a smooth field arrives with an error of third order", (way) => {
  const field = (x: number, y: number) => Math.sin(3 * x) * Math.cos(2 * y);
  // Means over rectangles are known in closed form.
  const mean = (mesh: FaceMesh, c: number) => {
    const corners = Array.from({ length: 4 }, (_, k) => mesh.cellPoints[mesh.cellStart[c] + k]);
    const [xs, ys] = [0, 1].map((i) => corners.map((p) => mesh.pointsM[2 * p + i]));
    const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
    return ((Math.cos(3 * x0) - Math.cos(3 * x1)) / 3 / (x1 - x0)) * ((Math.sin(2 * y1) - Math.sin(2 * y0)) / 2 / (y1 - y0));
  };
  const at = (mesh: FaceMesh) =>
    Float64Array.from({ length: mesh.cellCount }, (_, c) =>
      way === "averages" ? mean(mesh, c) : field(mesh.centroidM[2 * c], mesh.centroidM[2 * c + 1]),
    );
  const target = rectangleMesh(box(9, 7));
  const errors = [20, 40, 80].map((n) => {
    const source = rectangleMesh(box(n, n + 3, 1.5));
    const off = transfer(source, at(source), target, way).values.map((v, c) => (v - at(target)[c]) ** 2);
    return Math.sqrt(off.reduce((s, v) => s + v, 0) / off.length);
  });
  expect(Math.log2(errors[1] / errors[2])).toBeGreaterThan(2.7);
  expect(errors[2]).toBeLessThan(1e-5);
});

test("across a periodic pair the neighbours on the other side take part", () => {
  const mesh = rectangleMesh({ ...box(24, 6), periodicX: true });
  const k = (2 * Math.PI) / 1.2;
  const values = Float64Array.from({ length: mesh.cellCount }, (_, c) => Math.sin(k * mesh.centroidM[2 * c]));
  const [found] = quadratics(mesh, [values]);
  const slopes = Array.from({ length: mesh.cellCount }, (_, c) => found[5 * c] / (k * Math.cos(k * mesh.centroidM[2 * c])));
  // Every column is as good as every other: none sees an end. Both ends have the same slope.
  for (const s of slopes) expect(s).toBeCloseTo(slopes[0], 1);
  expect(found[0]).toBeCloseTo(found[5 * 23], 6);
});

test("target cells that the source covers to less than half have no value, and are counted", () => {
  const source = rectangleMesh({ ...box(10, 10), lengthM: 0.64 });
  const target = rectangleMesh(box(12, 4));
  const sent = transfer(source, new Float64Array(100).fill(2), target, "averages");
  // Columns are 0.1 m wide: six are whole, of the seventh four tenths.
  expect(sent.missing).toBe(24);
  expect(sent.values[5]).toBeCloseTo(2, 12);
  expect(sent.values[6]).toBeNaN();
});

test("averages of revolved meshes are refused in words; what stops the work is thrown", () => {
  const mesh = revolved(rectangleMesh(box(4, 4)));
  expect(() => transfer(mesh, new Float64Array(16), mesh, "averages")).toThrow("On revolved meshes values are brought over by points only.");
  const stop = () => {
    throw new Error("given up");
  };
  expect(() => transfer(rectangleMesh(box(4, 4)), new Float64Array(16), rectangleMesh(box(3, 3)), "averages", stop)).toThrow("given up");
});
