import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { shapedRectangle } from "../../mesh/shaped.ts";
import { randomFrom } from "../../numeric/random.ts";
import { faceGeometry, flowGeometry } from "../discrete/flowGeometry.ts";
import { addSymmetric } from "../discrete/sparse.ts";
import { AggregationMultigrid } from "../multigrid/aggregationMultigrid.ts";
import { type Arena, kernelArena, plainArena } from "./arena.ts";
import type { FlowKernels, Hierarchy, HierarchyLevel } from "./kernels.ts";
import { SCHEMES } from "./schemes.ts";

const even = { kind: "uniform" } as const;
const box = { lengthM: 1.3, heightM: 1, nx: 9, ny: 7, gradingX: even, gradingY: even, periodicX: false };

/** The same arrays, filled with the same numbers, in a room. */
function stage(arena: Arena, shape: "rows" | "jittered" | "hexagons", seed: number) {
  const g = flowGeometry(shapedRectangle(box, shape, seed), false, arena);
  expect(g.oblique === undefined).toBe(shape === "rows");
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
  const single = (length: number) => {
    const a = arena.float32(length);
    for (let i = 0; i < length; i++) a[i] = random() - 0.5;
    return a;
  };
  /** three levels, each a quarter of the one before, cells in the order of their numbers */
  const hierarchy = (): Hierarchy => {
    const levels: HierarchyLevel[] = [];
    let { rowStart, column, diagonal } = g.pattern as Pick<HierarchyLevel, "rowStart" | "column" | "diagonal">;
    for (let l = 0; l < 3; l++) {
      const size = diagonal.length;
      const last = l === 2;
      const coarse = Math.ceil(size / 4);
      const work = l ? [0, 1, 2, 3].map(() => single(size)) : [];
      const [values, inverse, x, b] = [column, diagonal, diagonal, diagonal].map((like) => single(like.length));
      const own = { size, rowStart, column, diagonal, values, inverse, x, b, work };
      if (last) levels.push(own);
      else {
        // The coarser matrix is full: every entry then has its place.
        const [to, entry, starts, columns, diagonals] = [size, column.length, coarse + 1, coarse ** 2, coarse].map((n) => arena.int32(n));
        for (let i = 0; i < size; i++) to[i] = i >> 2;
        for (let i = 0; i < size; i++) for (let k = rowStart[i]; k < rowStart[i + 1]; k++) entry[k] = (i >> 2) * coarse + (column[k] >> 2);
        for (let c = 0; c <= coarse; c++) starts[c] = c * coarse;
        for (let k = 0; k < columns.length; k++) columns[k] = k % coarse;
        for (let c = 0; c < coarse; c++) diagonals[c] = c * coarse + c;
        levels.push({ ...own, aggregate: to, coarseEntry: entry });
        [rowStart, column, diagonal] = [starts, columns, diagonals];
      }
    }
    return { levels, factor: arena.float64(levels[2].size ** 2), singular: seed % 2 === 0 };
  };
  return { g, single, hierarchy, cell, pair, matrix, aggregate, entry, face: () => fill(g.faces), positive: () => fill(g.cells, 0.5, 2), fill };
}

type Stage = ReturnType<typeof stage>;

/** Every loop, as what it leaves behind. */
const LOOPS: Record<
  keyof FlowKernels,
  (k: FlowKernels, s: Stage) => Float64Array | Float32Array | number | readonly (Float64Array | Float32Array)[]
> = {
  multiplyDot: (k, s) => {
    const y = s.cell();
    return [y, Float64Array.of(k.multiplyDot(s.g.pattern, s.matrix, s.cell(), y))];
  },
  subtractProduct: (k, s) => into(s.cell(), (r) => k.subtractProduct(s.g.pattern, s.matrix, s.cell(), r)),
  dot: (k, s) => k.dot(s.cell(), s.cell()),
  addScaled: (k, s) => into(s.cell(), (y) => k.addScaled(0.3, s.cell(), y)),
  descend: (k, s) => {
    const kept = [s.cell(), s.cell(), s.cell()] as const;
    return [...kept, Float64Array.of(k.descend(0.3, s.cell(), s.cell(), ...kept))];
  },
  gradientOverJoins: (k, s) => into(s.pair(), (out) => k.gradientOverJoins(s.g, s.g.gradientAll, s.cell(), out)),
  carryOne: (k, s) =>
    SCHEMES.flatMap((scheme) => {
      const carried = { q: s.cell(), slope: s.pair(), residual: s.cell() };
      k.carryOne(s.g, scheme, s.face(), 0.02, s.matrix, carried);
      return [s.matrix.slice(), carried.residual];
    }),
  carryPair: (k, s) =>
    SCHEMES.flatMap((scheme) => {
      const [u, v] = [0, 1].map(() => ({ q: s.cell(), slope: s.pair(), residual: s.cell() }));
      k.carryPair(s.g, scheme, s.face(), 0.02, s.matrix, [u, v]);
      return [s.matrix.slice(), u.residual, v.residual];
    }),
  gradientPair: (k, s) => {
    const [gu, gv] = [s.pair(), s.pair()];
    k.gradientPair(s.g, s.g.gradientAll, s.pair(), gu, gv);
    return [...gu, ...gv];
  },
  pressureFaces: (k, s) => into(s.pair(), (sum) => k.pressureFaces(s.g, s.cell(), s.pair(), sum)),
  velocityFaces: (k, s) => into(s.face(), (out) => k.velocityFaces(s.g, s.pair(), s.pair(), s.pair(), out)),
  momentumFluxes: (k, s) => into(s.face(), (flux) => k.momentumFluxes(s.g, s.pair(), s.pair(), s.pair(), s.cell(), s.pair(), s.positive(), flux)),
  pressureMatrix: (k, s) => {
    const out = s.face();
    k.pressureMatrix(s.g, s.positive(), out, s.matrix);
    return [out, s.matrix];
  },
  obliqueFluxes: (k, s) => {
    const [flux, left] = [s.face(), s.cell()];
    k.obliqueFluxes(s.g, s.face(), s.pair(), flux, left);
    return [flux, left];
  },
  residualPair: (k, s) => {
    const [r, diagonal, sums] = [s.pair(), s.cell(), s.fill(3)];
    k.residualPair(s.g.pattern, s.matrix, s.pair(), r, 0.1, -0.2, diagonal, sums);
    return [...r, diagonal, sums];
  },
  residualOne: (k, s) => {
    const [r, sums] = [s.cell(), s.fill(3)];
    k.residualOne(s.g.pattern, s.matrix, s.cell(), r, 0.1, sums);
    return [r, sums];
  },
  relaxMomentum: (k, s) =>
    [undefined, s.positive()].flatMap((around) => {
      const [mobility, change, velocity] = [s.cell(), s.pair(), s.pair()];
      const rows = { values: s.matrix, diagonal: s.positive(), around, relaxation: 0.7, volume: s.positive(), mobility };
      k.relaxMomentum(s.g.pattern, rows, s.pair(), change, velocity);
      return [s.matrix.slice(), mobility, ...change, ...velocity];
    }),
  relaxQuantity: (k, s) => {
    const [change, q] = [s.cell(), s.cell()];
    k.relaxQuantity(s.g.pattern, s.matrix, 0.8, s.cell(), change, q);
    return [s.matrix, change, q];
  },
  toSingle: (k, s) => into(s.single(s.g.cells), (to) => k.toSingle(s.cell(), 0.3, to)),
  mixedDots: (k, s) => into(s.fill(2), (out) => k.mixedDots(s.single(s.g.cells), s.cell(), s.cell(), out)),
  turnDirection: (k, s) => into(s.cell(), (p) => k.turnDirection(s.single(s.g.cells), 0.3, p)),
  refresh: (k, s) => {
    const h = s.hierarchy();
    k.refresh(h, s.matrix);
    return [...h.levels.flatMap((l) => [l.values, l.inverse]), h.factor];
  },
  precondition: (k, s) => {
    const h = s.hierarchy();
    k.refresh(h, s.matrix);
    k.precondition(h);
    return h.levels.map((l) => l.x);
  },
  subtractOutflow: (k, s) => into(s.cell(), (r) => k.subtractOutflow(s.g, s.face(), r)),
  correctFluxes: (k, s) => into(s.face(), (flux) => k.correctFluxes(s.g, s.face(), s.cell(), flux)),
  forces: (k, s) =>
    [undefined, s.pair()].flatMap((added) => into(s.pair(), (r) => k.forces(s.positive(), 0.3, -0.2, s.pair(), added?.[0], added?.[1], r))),
  addLift: (k, s) => into(s.pair(), (r) => k.addLift(s.positive(), s.cell(), 0.2, 0.3, -9.81, r)),
  addPair: (k, s) => into(s.pair(), (x) => k.addPair(s.pair(), x)),
  dividePair: (k, s) => into(s.pair(), (x) => k.dividePair(s.positive(), x)),
  addRate: (k, s) => {
    const r = s.pair();
    k.addRate(s.g.pattern.diagonal, 3, s.positive(), s.pair(), s.matrix, r);
    return [s.matrix, ...r];
  },
  meanOf: (k, s) => k.meanOf(s.cell()),
  sumAbsolute: (k, s) => k.sumAbsolute(s.cell()),
  correctCells: (k, s) => {
    const [p, velocity] = [s.cell(), s.pair()];
    k.correctCells(s.cell(), s.positive(), s.pair(), p, velocity);
    return [p, ...velocity];
  },
  takeMean: (k, s) => into(s.cell(), (q) => k.takeMean(q, s.positive())),
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
    const [lastStep, last, dStep, dLast] = [s.cell(), s.cell(), s.single(s.g.cells), s.single(s.g.cells)];
    k.stepChanges(s.cell(), s.cell(), lastStep, last, dStep, dLast);
    return [lastStep, last, dStep, dLast];
  },
  changes: (k, s) => {
    const [last, dLast] = [s.cell(), s.single(s.g.cells)];
    k.changes(s.cell(), last, dLast);
    return [last, dLast];
  },
  twoDots: (k, s) => into(s.fill(2), (out) => k.twoDots(s.single(s.g.cells), s.single(s.g.cells), s.cell(), out)),
  subtractFour: (k, s) => {
    const [a, b, c, d] = [0, 1, 2, 3].map(() => s.single(s.g.cells));
    return into(s.cell(), (x) => k.subtractFour(x, 0.1, 0.2, -0.3, 0.4, a, b, c, d));
  },
  subtractOne: (k, s) => into(s.cell(), (x) => k.subtractOne(x, 0.3, s.single(s.g.cells))),
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
      fc.property(fc.integer({ min: 1, max: 1e6 }), fc.constantFrom("rows", "jittered", "hexagons"), (seed, shape) => {
        const arena = kernelArena(2 ** 22);
        expect(arena.memory).toBeDefined();
        const plain = plainArena();
        expect(run(arena.kernels, stage(arena, shape, seed))).toEqual(run(plain.kernels, stage(plain, shape, seed)));
      }),
      { numRuns: 8 },
    );
  });

  test("a first array of nothing is a loop of nothing, whatever is given besides", () => {
    const arena = kernelArena(2 ** 16);
    const { kernels } = arena;
    const [none, one] = [arena.float64(0), arena.float64(1)];
    one[0] = 5;
    kernels.addVector(none, one);
    kernels.addPair([none, none], [one, one]);
    kernels.gatherSum(arena.int32(0), one, one);
    kernels.addFaceFluxes(arena.int32(0), arena.int32(1), one, one, one, [one, one], one);
    expect(one[0]).toBe(5);
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
    addSymmetric(g, g.conductance, a);
    for (let i = 0; i < g.cells; i++) a[g.pattern.diagonal[i]] += 0.01;
    const x = cell();
    return { iterations: new AggregationMultigrid(g.pattern, a, false, arena).solve(cell(), x, 1e-10, 40), x };
  });
  expect(solved[0].iterations).toBeLessThan(20);
  expect(solved[0]).toEqual(solved[1]);
});

describe("on a straight mesh the loops that make use of it give what those for any mesh give", () => {
  const all = faceGeometry(shapedRectangle({ ...box, gradingX: { kind: "both-ends", strength: 1.5 } }, "rows", 1));
  const straight = flowGeometry(all.mesh);
  const { dx, dy, tx, ty, kx, ky, ox, oy, nx, ny } = all;
  const any = { ...straight, oblique: { dx, dy, tx, ty, kx, ky, ox, oy, nx, ny } };
  const { kernels } = plainArena();
  const random = randomFrom(5);
  const fill = (length: number, from = -1) => Float64Array.from({ length }, () => from + (1 - from) * random());
  const [u, v, p, gx, gy, hx, hy] = Array.from({ length: 7 }, () => fill(all.cells));
  const flux = fill(all.faces);
  const both = (run: (g: typeof straight, out: Float64Array) => void, length: number) => {
    const [a, b] = [straight, any].map((g) => into(new Float64Array(length), (out) => run(g, out)));
    for (let i = 0; i < length; i++) expect(a[i]).toBeCloseTo(b[i], 11);
    expect(a.some((x) => x !== 0)).toBe(true);
  };
  test.each(SCHEMES)("%s", (scheme) => {
    if (scheme === "upwind")
      return both(
        (g, a) => kernels.carryOne(g, scheme, flux, 0.02, a, { q: u, slope: [gx, gy], residual: fill(all.cells) }),
        straight.pattern.column.length,
      );
    both((g, residual) => {
      kernels.carryOne(g, scheme, flux, 0.02, new Float64Array(g.pattern.column.length), { q: u, slope: [gx, gy], residual });
    }, all.cells);
  });
  test("pressures and fluxes", () => {
    both((g, x) => kernels.pressureFaces(g, p, [hx, hy], [x, new Float64Array(all.cells)]), all.cells);
    both((g, out) => kernels.velocityFaces(g, [u, v], [gx, gy], [hx, hy], out), all.faces);
    const diagonal = fill(all.cells, 0.5);
    both((g, out) => kernels.momentumFluxes(g, [u, v], [gx, gy], [hx, hy], p, [gx, hy], diagonal, out), all.faces);
  });
});
