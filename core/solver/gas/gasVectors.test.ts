import fc from "fast-check";
import { expect, test } from "vitest";
import { randomFrom } from "../../numeric/random.ts";
import { type Arena, kernelArena, plainArena } from "../kernels/arena.ts";
import { compiledTwins } from "../kernels/compiledCells.ts";
import type { KernelMemory } from "../kernels/engine.ts";
import { GAS_VECTORS_WASM } from "../kernels/gasVectors.wasm.ts";
import * as plain from "./gasVectors.ts";

const WEIGHTS = [0.8, 1e-3, 1e-3, 1e-6] as const;
const CELLS = 12;

/** A ring of cells, each joined with the next by one face, with a state and vectors by chance. */
function ring(arena: Arena, seed: number) {
  const random = randomFrom(seed);
  const fill = (length: number, from: number, to: number) => {
    const a = arena.float64(length);
    for (let i = 0; i < length; i++) a[i] = from + (to - from) * random();
    return a;
  };
  const ints = (list: readonly number[]) => {
    const a = arena.int32(list.length);
    a.set(list);
    return a;
  };
  const cells = Array.from({ length: CELLS }, (_, c) => c);
  const w = fill(4 * CELLS, -50, 50);
  for (let i = 0; i < w.length; i += 4) [w[i], w[i + 3]] = [1 + random(), 9e4 + 2e4 * random()];
  return {
    w,
    vector: () => fill(4 * CELLS, -1, 1),
    one: (from = 0.5) => fill(CELLS, from, 2),
    normal: fill(3 * CELLS, 0.1, 1),
    start: ints([...cells, CELLS].map((c) => 2 * c)),
    // Face c leads from cell c to cell c + 1.
    faces: ints(cells.flatMap((c) => [c + 1, -(((c + CELLS - 1) % CELLS) + 1)])),
    others: ints(cells.flatMap((c) => [(c + 1) % CELLS, (c + CELLS - 1) % CELLS])),
  };
}

type Ring = ReturnType<typeof ring>;
type Vectors = typeof plain;

function into<T>(target: T, work: (target: T) => void): T {
  work(target);
  return target;
}

const LOOPS: Record<keyof Vectors, (k: Vectors, r: Ring) => unknown> = {
  soundSpeeds: (k, r) => into(r.one(), (out) => k.soundSpeeds(out, r.w, 1.4)),
  symmetricSweep: (k, r) =>
    into(r.vector(), (x) => k.symmetricSweep(r.one(), r.start, r.faces, r.others, r.normal, r.w, r.one(300), 1.4, 1.05, r.vector(), x)),
  inverseDiagonal: (k, r) => into(r.one(), (out) => k.inverseDiagonal(out, r.one(), r.one(), 0.525)),
  sizes: (k, r) => into(r.vector(), (out) => k.sizes(r.w, r.vector(), r.one(), 1.4, out)),
  heldBack: (k, r) => {
    const [u, w] = [r.vector(), r.vector()];
    for (let i = 0; i < u.length; i += 4) [u[i], u[i + 3]] = [1, 2];
    k.primitives(u, 1.4, w);
    // Little is let through, much of it not.
    return [0.1, 1, 20].map((by) => {
      const change = r.vector();
      for (let i = 0; i < change.length; i++) change[i] *= by;
      return k.heldBack(u, change, w, 1.4, 0.3, 1e-3);
    });
  },
  primitives: (k, r) => {
    const [u, w] = [r.vector(), r.vector()];
    for (let i = 0; i < u.length; i += 4) [u[i], u[i + 3]] = [1, 2];
    return [k.primitives(u, 1.4, w), w, k.primitives(r.vector(), 1.4, w), w.slice()];
  },
  scaledSquare: (k, r) => k.scaledSquare(r.vector(), ...WEIGHTS),
  scaledDot: (k, r) => k.scaledDot(r.vector(), r.vector(), ...WEIGHTS),
  addScaled: (k, r) => into(r.vector(), (x) => k.addScaled(x, -0.3, r.vector())),
  divideBy: (k, r) => into(r.vector(), (x) => k.divideBy(r.vector(), 0.3, x)),
  moved: (k, r) => into(r.vector(), (x) => k.moved(r.vector(), 0.3, r.vector(), x)),
  operated: (k, r) => into(r.vector(), (x) => k.operated(x, r.one(), r.vector(), r.vector(), r.vector(), 1e-7)),
};

test.each(Object.entries(LOOPS))("%s: compiled gives the same bits as plain", (_, run) => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 1e6 }), (seed) => {
      const arena = kernelArena(2 ** 18);
      const compiled = compiledTwins(GAS_VECTORS_WASM, arena.memory as KernelMemory, plain);
      expect(run(compiled, ring(arena, seed))).toEqual(run(plain, ring(plainArena(), seed)));
      // Arrays from elsewhere are worked on all the same.
      expect(run(compiled, ring(plainArena(), seed))).toEqual(run(plain, ring(plainArena(), seed)));
    }),
    { numRuns: 10 },
  );
});

test("without neighbours a sweep is the right-hand side times the inverse diagonal; a still gas hands pressure on along the normal", () => {
  const alone = new Float64Array(4);
  plain.symmetricSweep(
    Float64Array.of(0.5),
    Int32Array.of(0, 0),
    new Int32Array(0),
    new Int32Array(0),
    new Float64Array(3),
    Float64Array.of(1, 0, 0, 1),
    Float64Array.of(1),
    1.4,
    1,
    Float64Array.of(2, 4, 6, 8),
    alone,
  );
  expect([...alone]).toEqual([1, 2, 3, 4]);
  // Across a face of area 2 along x lies a still cell that holds a change of energy alone, which is (gamma - 1) times as much pressure.
  const still = Float64Array.of(1, 0, 0, 1, 1, 0, 0, 1);
  const once = Float64Array.of(0, 0, 0, 0, 0, 0, 0, 1);
  plain.symmetricSweep(
    Float64Array.of(1),
    Int32Array.of(0, 1),
    Int32Array.of(1),
    Int32Array.of(1),
    Float64Array.of(1, 0, 2),
    still,
    Float64Array.of(3, 3),
    1.4,
    1,
    new Float64Array(8),
    once,
  );
  // Half the area times minus pressure's change in momentum, and the wave speed of three times the change in energy.
  expect(once[1]).toBeCloseTo(-0.4, 14);
  expect(once[3]).toBeCloseTo(3, 14);
});

test("density, velocity and pressure come back from what is conserved; the first cell that is no gas is named", () => {
  const w = new Float64Array(8);
  expect(plain.primitives(Float64Array.of(2, 4, 6, 23, 1, 0, 0, 5), 1.4, w)).toBe(-1);
  // Kinetic energy (4^2 + 6^2) / (2 * 2) = 13.
  expect([...w.subarray(0, 4)]).toEqual([2, 2, 3, expect.closeTo(4, 12)]);
  expect(plain.primitives(Float64Array.of(1, 0, 0, 1, 1, 2, 0, 1), 1.4, w)).toBe(1);
});

test("a change is held back until every cell keeps its share of density and pressure; none is where nothing would be lost", () => {
  // Pressures 0.4 (5 - 0) = 2, in two cells at rest.
  const u = Float64Array.of(1, 0, 0, 5, 1, 0, 0, 5);
  const w = Float64Array.of(1, 0, 0, 2, 1, 0, 0, 2);
  const back = (...change: number[]) => plain.heldBack(u, Float64Array.from(change), w, 1.4, 0.3, 1e-3);
  expect(back(1, 0, 0, 5, -0.1, 0, 0, -1)).toBe(1);
  // Of a fall by 1.4 the density may take half.
  expect(back(0, 0, 0, 0, -1.4, 0, 0, 0)).toBeCloseTo(0.5, 14);
  // A fall by 5 of the energy would leave no pressure: 0.7 of it leaves 0.3 of it, no more than that share, 0.49 leaves 0.51.
  expect(back(0, 0, 0, -5, 0, 0, 0, 0)).toBeCloseTo(0.49, 14);
  // Where no pressure can be kept, it is no longer asked for.
  expect(back(0, 0, 0, -1e6, 0, 0, 0, 0)).toBeLessThan(1e-3);
});

test("residuals are summed by kind, and what waves carry beside them", () => {
  const out = new Float64Array(7);
  // Sound travels at sqrt(1.4 * 2 / 0.7) = 2.
  plain.sizes(Float64Array.of(0.7, 1, 1, 2, 1.4, 0, 0, 4), Float64Array.of(1, -2, 3, -4, -5, 6, -7, 8), Float64Array.of(1, 10), 1.4, out);
  for (const [k, x] of [6, 8, 10, 12, 14.7, 29.4, 105].entries()) expect(out[k]).toBeCloseTo(x, 12);
  expect([...plainInverse(Float64Array.of(1, 3), Float64Array.of(2, 10), 0.5)]).toEqual([1 / 2, 1 / 8]);
});

function plainInverse(rate: Float64Array, waves: Float64Array, over: number): Float64Array {
  const out = new Float64Array(rate.length);
  plain.inverseDiagonal(out, rate, waves, over);
  return out;
}
