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
  forces: (k, s) =>
    [undefined, s.pair()].flatMap((added) => into(s.pair(), (r) => k.forces(s.positive(), 0.3, -0.2, s.pair(), added?.[0], added?.[1], r))),
  addLift: (k, s) => into(s.pair(), (r) => k.addLift(s.positive(), s.cell(), 0.2, 0.3, -9.81, r)),
  addPair: (k, s) => into(s.pair(), (x) => k.addPair(s.pair(), x)),
  dividePair: (k, s) => into(s.pair(), (x) => k.dividePair(s.positive(), x)),
  takeDiagonal: (k, s) => into(s.cell(), (out) => k.takeDiagonal(s.g.pattern.diagonal, s.matrix, out)),
  invertDiagonal: (k, s) => into(s.cell(), (out) => k.invertDiagonal(s.g.pattern.diagonal, s.matrix, out)),
  divideDiagonal: (k, s) => into(s.matrix, (a) => k.divideDiagonal(s.g.pattern.diagonal, 0.8, a)),
  addRate: (k, s) => {
    const r = s.pair();
    k.addRate(s.g.pattern.diagonal, 3, s.positive(), s.pair(), s.matrix, r);
    return [s.matrix, ...r];
  },
  relaxRows: (k, s) =>
    [undefined, s.positive()].flatMap((around) => {
      const mobility = s.cell();
      k.relaxRows(s.g.pattern.diagonal, s.g.pattern.rowStart, s.matrix, s.positive(), around, 0.7, s.positive(), mobility);
      return [s.matrix.slice(), mobility];
    }),
  meanOf: (k, s) => k.meanOf(s.cell()),
  sumAbsolute: (k, s) => k.sumAbsolute(s.cell()),
  pairScale: (k, s) => k.pairScale(s.positive(), s.pair(), 0.1, -0.2),
  diagonalScale: (k, s) => k.diagonalScale(s.g.pattern.diagonal, s.matrix, s.cell(), 0.1),
  correctCells: (k, s) => {
    const [p, velocity] = [s.cell(), s.pair()];
    k.correctCells(s.cell(), s.positive(), s.pair(), p, velocity);
    return [p, ...velocity];
  },
  takeMean: (k, s) => into(s.cell(), (q) => k.takeMean(q, s.positive())),
  scale: (k, s) => into(s.cell(), (x) => k.scale(x, 0.3)),
  addVector: (k, s) => into(s.cell(), (x) => k.addVector(s.cell(), x)),
  subtractFrom: (k, s) => into(s.cell(), (x) => k.subtractFrom(s.cell(), x)),
  gatherMean: (k, s) => into(s.fill(20), (coarse) => k.gatherMean(s.aggregate, s.positive(), s.fill(20, 1, 2), s.cell(), coarse)),
  gatherSum: (k, s) => into(s.fill(20), (coarse) => k.gatherSum(s.aggregate, s.cell(), coarse)),
  gatherFluxes: (k, s) => {
    for (let f = 0; f < s.entry.length; f++) s.entry[f] = (f % 9) - 4;
    return into(s.fill(8), (coarse) => k.gatherFluxes(s.entry, s.fill(s.entry.length), coarse));
  },
  addLinear: (k, s) =>
    into(s.cell(), (out) => k.addLinear(s.aggregate, s.fill(20), [s.fill(20), s.fill(20)], s.fill(2 * s.g.cells), s.fill(40), out)),
  stepChanges: (k, s) => {
    const kept = [s.cell(), s.cell(), s.cell(), s.cell()] as const;
    k.stepChanges(s.cell(), s.cell(), ...kept);
    return kept;
  },
  twoDots: (k, s) => into(s.fill(2), (out) => k.twoDots(s.cell(), s.cell(), s.cell(), out)),
  subtractFour: (k, s) => into(s.cell(), (x) => k.subtractFour(x, 0.1, 0.2, -0.3, 0.4, s.cell(), s.cell(), s.cell(), s.cell())),
  addFaceFluxes: (k, { g, pair, face }) =>
    into(face(), (flux) => k.addFaceFluxes(g.owner.subarray(0, g.joins), g.neighbour, g.weight, g.sx, g.sy, pair(), flux)),
  subtractPast: (k, { g, positive, face }) =>
    into(face(), (flux) => k.subtractPast(g.owner.subarray(0, g.joins), g.neighbour, g.weight, g.volume, positive(), face(), flux)),
};

function into<T>(target: T, work: (target: T) => void): T {
  work(target);
  return target;
}

describe("compiled loops give the same bits as their plain twins", () => {
  test.each(Object.entries(LOOPS))("%s", (_, run) => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), fc.constantFrom("jittered", "hexagons"), (seed, shape) => {
        const arena = kernelArena(2 ** 22);
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
