import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { rectangleMesh } from "../../mesh/rectangle.ts";
import type { FlowGeometry } from "../discrete/flowGeometry.ts";
import { faceGeometry, flowGeometry, leastSquaresFactors } from "../discrete/flowGeometry.ts";
import { addSymmetric } from "../discrete/sparse.ts";
import { multiplyDot, subtractProduct } from "../kernels/plain.ts";
import { relaxMomentum } from "../kernels/plainRows.ts";
import { AggregationMultigrid } from "./aggregationMultigrid.ts";
import { Anderson } from "./anderson.ts";

const graded = { kind: "both-ends", strength: 2 } as const;
const geometry = (n: number, periodicX = false) =>
  flowGeometry(rectangleMesh({ lengthM: 1.3, heightM: 1, nx: n, ny: n, gradingX: graded, gradingY: graded, periodicX }));

/** Negative Laplacian of a mesh; `hold` fixes the value at the bottom wall. */
function laplacian(g: FlowGeometry, hold: boolean): Float64Array {
  const { diagonal, column } = g.pattern;
  const a = new Float64Array(column.length);
  addSymmetric(g, g.conductance, a);
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
      multiplyDot(g.pattern, a, truth, b);
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
    multiplyDot(g.pattern, a, truth, b);
    const x = new Float64Array(g.cells);
    solver.solve(b, x, 1e-12, 60);
    for (let i = 0; i < g.cells; i++) expect(x[i]).toBeCloseTo(truth[i], 7);
  });
});

test("relaxing two systems at once leaves their solutions where they are, and brings anything else nearer every time", () => {
  const g = geometry(10);
  const truth = [Math.sin, Math.cos].map((of) => Float64Array.from({ length: g.cells }, (_, i) => of(i)));
  const right = truth.map((x) => {
    const b = new Float64Array(g.cells);
    multiplyDot(g.pattern, laplacian(g, true), x, b);
    return b;
  });
  const relaxed = (from: readonly [Float64Array, Float64Array]) => {
    const a = laplacian(g, true);
    const left = from.map((x, k) => {
      const r = right[k].slice();
      subtractProduct(g.pattern, a, x, r);
      return r;
    }) as [Float64Array, Float64Array];
    const cell = () => new Float64Array(g.cells);
    const diagonal = Float64Array.from(g.pattern.diagonal, (k) => a[k]);
    relaxMomentum(g.pattern, { values: a, diagonal, relaxation: 1, volume: cell(), mobility: cell() }, left, [cell(), cell()], from);
    return from;
  };
  const off = (x: readonly Float64Array[]) => Math.max(...x.map((q, k) => q.reduce((m, v, i) => Math.max(m, Math.abs(v - truth[k][i])), 0)));
  expect(off(relaxed([truth[0].slice(), truth[1].slice()]))).toBeLessThan(1e-11);
  const x = [new Float64Array(g.cells), new Float64Array(g.cells)] as const;
  let before = off(x);
  for (let k = 0; k < 20; k++) {
    const now = off(relaxed(x));
    expect(now).toBeLessThan(before);
    before = now;
  }
  expect(before).toBeLessThan(0.5);
});

test("least-squares gradients are exact for linear fields on graded meshes, boundary cells included", () => {
  fc.assert(
    fc.property(fc.double({ min: -3, max: 3, noNaN: true }), fc.double({ min: -3, max: 3, noNaN: true }), (a, b) => {
      const g = geometry(6);
      const { centroidM, faceCentreM } = g.mesh;
      const factors = leastSquaresFactors(faceGeometry(g.mesh), () => true);
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

  const mixed = (x: Float64Array, window: number, steps: number, check: () => void = () => undefined) => {
    const mixer = new Anderson([{ values: x, weighed: true }], window);
    for (let k = 0; k < steps; k++) {
      const from = x.slice();
      x.set(step(x));
      mixer.mix([from]);
      check();
    }
  };

  test("reaches a linear fixed point of four modes in about five steps, where the plain iteration needs hundreds", () => {
    const x = new Float64Array(4);
    mixed(x, 6, 8);
    x.forEach((v, i) => {
      expect(v).toBeCloseTo(truth[i], 6);
    });
  });

  test("never hands out a value that is not finite, even when nothing changes any more", () => {
    const x = Float64Array.from(truth);
    mixed(x, 3, 6, () => expect(x.every(Number.isFinite)).toBe(true));
  });

  test("goes on from a state that was kept, to the last bit; one of another shape begins a new window", () => {
    const whole = new Float64Array(4);
    mixed(whole, 3, 9);
    const [x, follows] = [new Float64Array(4), Float64Array.of(5)];
    const make = () =>
      new Anderson(
        [
          { values: x, weighed: true },
          { values: follows, weighed: false },
        ],
        3,
      );
    const on = (mixer: Anderson, steps: number) => {
      for (let k = 0; k < steps; k++) {
        const from = [x.slice(), follows.slice()];
        x.set(step(x));
        follows[0] = 0.5 * follows[0];
        mixer.mix(from);
      }
    };
    const first = make();
    on(first, 5);
    const second = make();
    second.restore(first.save());
    on(second, 4);
    expect(x).toEqual(whole);
    const third = make();
    third.restore({ dF: [], dG: [], lastF: new Float64Array(5), lastG: new Float64Array(5), gram: [], started: true });
    on(third, 8);
    x.forEach((v, i) => {
      expect(v).toBeCloseTo(truth[i], 6);
    });
  });
});
