import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { rectangleMesh } from "../../mesh/rectangle.ts";
import type { FlowGeometry } from "../discrete/flowGeometry.ts";
import { flowGeometry, leastSquaresFactors } from "../discrete/flowGeometry.ts";
import { multiply, sweepPair } from "../kernels/plain.ts";
import { AggregationMultigrid } from "./aggregationMultigrid.ts";
import { Anderson } from "./anderson.ts";

const graded = { kind: "both-ends", strength: 2 } as const;
const geometry = (n: number, periodicX = false) =>
  flowGeometry(rectangleMesh({ lengthM: 1.3, heightM: 1, nx: n, ny: n, gradingX: graded, gradingY: graded, periodicX }));

/** Negative Laplacian of a mesh; `hold` fixes the value at the bottom wall. */
function laplacian(g: FlowGeometry, hold: boolean): Float64Array {
  const { ownerEntry, neighbourEntry, diagonal, column } = g.pattern;
  const a = new Float64Array(column.length);
  for (let f = 0; f < g.joins; f++) {
    a[ownerEntry[f]] -= g.conductance[f];
    a[neighbourEntry[f]] -= g.conductance[f];
    a[diagonal[g.owner[f]]] += g.conductance[f];
    a[diagonal[g.neighbour[f]]] += g.conductance[f];
  }
  const bottom = g.mesh.boundaries.find((b) => b.name === "bottom");
  if (hold && bottom) for (let f = bottom.start; f < bottom.start + bottom.count; f++) a[diagonal[g.owner[f]]] += g.conductance[f];
  return a;
}

describe("pressure solver", () => {
  test.each([
    ["held at a wall", true, false],
    ["up to a constant", false, false],
    ["periodic, up to a constant", false, true],
  ])("finds a known field, %s, in iterations that hardly grow with the mesh", (_name, hold, periodic) => {
    const used = [16, 64].map((n) => {
      const g = geometry(n, periodic);
      const a = laplacian(g, hold);
      const truth = Float64Array.from({ length: g.cells }, (_, i) => Math.sin(i * 0.7) + Math.cos(i * 0.013));
      const b = new Float64Array(g.cells);
      multiply(g.pattern, a, truth, b);
      const x = new Float64Array(g.cells);
      const iterations = new AggregationMultigrid(g.pattern, a, !hold).solve(b, x, 1e-11, 80);
      const shift = hold ? 0 : truth[0] - x[0];
      for (let i = 0; i < g.cells; i++) expect(x[i] + shift).toBeCloseTo(truth[i], 6);
      return iterations;
    });
    expect(used[1]).toBeLessThanOrEqual(used[0] + 14);
  });

  test("takes new values of the same pattern", () => {
    const g = geometry(12);
    const a = laplacian(g, true);
    const solver = new AggregationMultigrid(g.pattern, a, false);
    for (let k = 0; k < a.length; k++) a[k] *= 7;
    solver.refresh();
    const truth = Float64Array.from({ length: g.cells }, (_, i) => i % 5);
    const b = new Float64Array(g.cells);
    multiply(g.pattern, a, truth, b);
    const x = new Float64Array(g.cells);
    solver.solve(b, x, 1e-12, 60);
    for (let i = 0; i < g.cells; i++) expect(x[i]).toBeCloseTo(truth[i], 7);
  });
});

test("a sweep leaves the exact solution of both systems where it is", () => {
  const g = geometry(10);
  const a = laplacian(g, true);
  const x1 = Float64Array.from({ length: g.cells }, (_, i) => Math.sin(i));
  const x2 = Float64Array.from({ length: g.cells }, (_, i) => Math.cos(i));
  const b1 = new Float64Array(g.cells);
  const b2 = new Float64Array(g.cells);
  multiply(g.pattern, a, x1, b1);
  multiply(g.pattern, a, x2, b2);
  const [y1, y2] = [x1.slice(), x2.slice()];
  sweepPair(g.pattern, a, [b1, b2], [y1, y2]);
  for (let i = 0; i < g.cells; i++) {
    expect(y1[i]).toBeCloseTo(x1[i], 11);
    expect(y2[i]).toBeCloseTo(x2[i], 11);
  }
});

test("least-squares gradients are exact for linear fields on graded meshes, boundary cells included", () => {
  fc.assert(
    fc.property(fc.double({ min: -3, max: 3, noNaN: true }), fc.double({ min: -3, max: 3, noNaN: true }), (a, b) => {
      const g = geometry(6);
      const { centroidM, faceCentreM } = g.mesh;
      const factors = leastSquaresFactors(g, () => true);
      const gx = new Float64Array(g.cells);
      const gy = new Float64Array(g.cells);
      const value = (at: Float64Array, i: number) => a * at[2 * i] + b * at[2 * i + 1];
      for (let f = 0; f < g.faces; f++) {
        const here = value(centroidM, g.owner[f]);
        const d = (f < g.joins ? value(centroidM, g.neighbour[f]) : value(faceCentreM, f)) - here;
        gx[g.owner[f]] += factors[4 * f] * d;
        gy[g.owner[f]] += factors[4 * f + 1] * d;
        if (f < g.joins) {
          gx[g.neighbour[f]] += factors[4 * f + 2] * d;
          gy[g.neighbour[f]] += factors[4 * f + 3] * d;
        }
      }
      for (let c = 0; c < g.cells; c++) {
        expect(gx[c]).toBeCloseTo(a, 10);
        expect(gy[c]).toBeCloseTo(b, 10);
      }
    }),
    { numRuns: 20 },
  );
});

describe("Anderson acceleration", () => {
  /** x -> A x + b with a slow, known fixed point */
  const rates = [0.99, 0.95, -0.9, 0.8];
  const truth = [1, -2, 3, 0.5];
  const step = (x: Float64Array) => Float64Array.from(x, (v, i) => truth[i] + rates[i] * (v - truth[i]));

  test("reaches a linear fixed point of four modes in about five steps, where the plain iteration needs hundreds", () => {
    const mixer = new Anderson(4, 4, 6);
    let x = new Float64Array(4);
    for (let k = 0; k < 8; k++) {
      const g = step(x);
      mixer.mix(x, g);
      x = g;
    }
    x.forEach((v, i) => {
      expect(v).toBeCloseTo(truth[i], 6);
    });
  });

  test("never hands out a value that is not finite, even when nothing changes any more", () => {
    const mixer = new Anderson(4, 4, 3);
    const x = Float64Array.from(truth);
    for (let k = 0; k < 6; k++) {
      const g = step(x);
      mixer.mix(x, g);
      expect(g.every(Number.isFinite)).toBe(true);
    }
  });
});
