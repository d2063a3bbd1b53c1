import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { shapedRectangle } from "../../mesh/shaped.ts";
import { randomFrom } from "../../numeric/random.ts";
import { flowGeometry } from "../discrete/flowGeometry.ts";
import { AggregationMultigrid } from "../multigrid/aggregationMultigrid.ts";
import { type Arena, kernelArena, plainArena } from "./arena.ts";
import type { FlowKernels } from "./kernels.ts";
import { SCHEMES } from "./schemes.ts";

const even = { kind: "uniform" } as const;
const box = { lengthM: 1.3, heightM: 1, nx: 9, ny: 7, gradingX: even, gradingY: even, periodicX: false };

/** The same arrays, filled with the same numbers, in a room. */
function stage(arena: Arena, shape: "jittered" | "hexagons", seed: number) {
  const g = flowGeometry(shapedRectangle(box, shape, seed), false, arena);
  const random = randomFrom(seed);
  const fill = (length: number, from = -1, to = 1) => {
    const a = arena.float64(length);
    for (let i = 0; i < length; i++) a[i] = from + (to - from) * random();
    return a;
  };
  const cell = () => fill(g.cells);
  const pair = () => [cell(), cell()] as const;
  const matrix = fill(g.pattern.column.length);
  for (let i = 0; i < g.cells; i++) matrix[g.pattern.diagonal[i]] = 9;
  const aggregate = arena.int32(g.cells);
  for (let i = 0; i < g.cells; i++) aggregate[i] = i >> 2;
  const entry = arena.int32(matrix.length);
  for (let k = 0; k < entry.length; k++) entry[k] = k % 40;
  return { g, cell, pair, matrix, aggregate, entry, face: () => fill(g.faces), positive: () => fill(g.cells, 0.5, 2), fill };
}

type Stage = ReturnType<typeof stage>;

/** Every loop, as what it leaves behind. */
const LOOPS: Record<keyof FlowKernels, (k: FlowKernels, s: Stage) => Float64Array | number | readonly Float64Array[]> = {
  multiply: (k, s) => into(s.cell(), (y) => k.multiply(s.g.pattern, s.matrix, s.cell(), y)),
  subtractProduct: (k, s) => into(s.cell(), (r) => k.subtractProduct(s.g.pattern, s.matrix, s.cell(), r)),
  subtractProductPair: (k, s) => into(s.pair(), (r) => k.subtractProductPair(s.g.pattern, s.matrix, s.pair(), r)),
  sweepPair: (k, s) => into(s.pair(), (x) => k.sweepPair(s.g.pattern, s.matrix, s.pair(), x)),
  sweep: (k, s) => into(s.cell(), (x) => k.sweep(s.g.pattern, s.matrix, s.cell(), x)),
  smoothDown: (k, s) => {
    const x = s.cell();
    const coarse = s.fill(20);
    k.smoothDown({ ...s.g.pattern, values: s.matrix, inverse: s.positive(), x, b: s.cell() }, s.aggregate, coarse);
    return [x, coarse];
  },
  smoothUp: (k, s) =>
    into(s.cell(), (x) => k.smoothUp({ ...s.g.pattern, values: s.matrix, inverse: s.positive(), x, b: s.cell() }, s.aggregate, s.fill(20))),
  sumEntries: (k, s) => into(s.fill(40), (coarse) => k.sumEntries(s.matrix, s.entry, coarse)),
  dot: (k, s) => k.dot(s.cell(), s.cell()),
  addScaled: (k, s) => into(s.cell(), (y) => k.addScaled(0.3, s.cell(), y)),
  scaleAndAdd: (k, s) => into(s.cell(), (y) => k.scaleAndAdd(s.cell(), 0.3, y)),
  gradientOverJoins: (k, s) => into(s.pair(), (out) => k.gradientOverJoins(s.g, s.g.gradientAll, s.cell(), out)),
  assembleUpwind: (k, s) => into(s.matrix, (a) => k.assembleUpwind(s.g, s.face(), 0.02, a)),
  assembleSymmetric: (k, s) => into(s.matrix, (a) => k.assembleSymmetric(s.g, s.face(), a)),
  subtractDeferred: (k, s) => SCHEMES.map((scheme) => into(s.cell(), (r) => k.subtractDeferred(s.g, scheme, s.face(), 0.02, s.cell(), s.pair(), r))),
  pressureFaces: (k, s) => into(s.pair(), (sum) => k.pressureFaces(s.g, s.cell(), s.pair(), sum)),
  velocityFaces: (k, s) => into(s.face(), (out) => k.velocityFaces(s.g, s.pair(), s.pair(), s.pair(), out)),
  pressureFluxes: (k, s) => into(s.face(), (flux) => k.pressureFluxes(s.g, s.cell(), s.pair(), s.positive(), flux)),
  faceMobilities: (k, s) => into(s.face(), (out) => k.faceMobilities(s.g, s.positive(), out)),
  subtractOutflow: (k, s) => into(s.cell(), (r) => k.subtractOutflow(s.g, s.face(), r)),
  correctFluxes: (k, s) => into(s.face(), (flux) => k.correctFluxes(s.g, s.face(), s.cell(), flux)),
};

function into<T>(target: T, work: (target: T) => void): T {
  work(target);
  return target;
}

describe("compiled loops give the same bits as their plain twins", () => {
  test.each(Object.entries(LOOPS))("%s", (_, run) => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), fc.constantFrom("jittered", "hexagons"), (seed, shape) => {
        const arena = kernelArena(2 ** 21);
        expect(arena.memory).toBeDefined();
        const plain = plainArena();
        expect(run(arena.kernels, stage(arena, shape, seed))).toEqual(run(plain.kernels, stage(plain, shape, seed)));
      }),
      { numRuns: 8 },
    );
  });

  test("arrays from elsewhere, or beyond the arena's end, are worked on all the same", () => {
    const tight = kernelArena(4096);
    const ample = kernelArena(2 ** 21);
    const elsewhere = stage(plainArena(), "jittered", 3);
    for (const run of Object.values(LOOPS)) {
      const expected = run(plainArena().kernels, stage(plainArena(), "jittered", 3));
      expect(run(tight.kernels, stage(tight, "jittered", 3))).toEqual(expected);
      expect(run(ample.kernels, stage(plainArena(), "jittered", 3))).toEqual(expected);
    }
    expect(elsewhere.g.arena.memory).toBeUndefined();
  });
});

test("the pressure solver takes the same path in either arena", () => {
  const solved = [kernelArena(2 ** 22), plainArena()].map((arena) => {
    const { g, cell } = stage(arena, "hexagons", 11);
    const a = arena.float64(g.pattern.column.length);
    arena.kernels.assembleSymmetric(g, g.conductance, a);
    for (let i = 0; i < g.cells; i++) a[g.pattern.diagonal[i]] += 0.01;
    const x = cell();
    return { iterations: new AggregationMultigrid(g.pattern, a, false, arena).solve(cell(), x, 1e-10, 40), x };
  });
  expect(solved[0].iterations).toBeLessThan(20);
  expect(solved[0]).toEqual(solved[1]);
});
