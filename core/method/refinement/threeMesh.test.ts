import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { nextMesh, observedOrder, threeMesh } from "./threeMesh.ts";

const monotone = (r: ReturnType<typeof threeMesh>) => {
  if (r.kind !== "monotone") throw new Error(`expected monotone, got ${r.kind}`);
  return r;
};

describe("published examples (Celik et al. 2008, table 1)", () => {
  // Published: p = 1.53, extrapolated 6.1685, index 2.2 %.
  test("reattachment length", () => {
    const r = monotone(threeMesh({ phi: [6.063, 5.972, 5.863], spacing: [1, 1.5, 1.5 * 1.333], formalOrder: 2, errors: [0, 0, 0] }));
    expect(r.order).toBeCloseTo(1.53, 1);
    expect(r.extrapolated).toBeCloseTo(6.1685, 2);
    // The published index of 2.2 % is made with the safety factor 1.25; an order that far from the formal one gets 3 here.
    expect((r.indexFine * 1.25) / 3 / 6.063).toBeCloseTo(0.022, 3);
  });

  test("axial velocity with swinging signs is named oscillating, with no value adopted", () => {
    // Published: p = 1.51, extrapolated 6.0269; the rounded values printed beside them give 1.62 and 6.024. The signs of the changes differ.
    const r = threeMesh({ phi: [6.0042, 5.9624, 6.0909], spacing: [1, 2, 4], formalOrder: 2, errors: [0, 0, 0] });
    expect(r.kind).toBe("oscillating");
    if (r.kind === "oscillating") {
      expect(r.order).toBeCloseTo(1.62, 2);
      expect(r.extrapolatedAsPublished).toBeCloseTo(6.0269, 2);
      expect(r.uncertainty).toBeCloseTo((3 * (6.0909 - 5.9624)) / 2, 10);
    }
  });
});

test("recovers any order from values made with it, also where the coarse ratio exceeds the square of the fine one", () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0.6, max: 3.5, noNaN: true }),
      fc.double({ min: 1.2, max: 3, noNaN: true }),
      fc.double({ min: 1.2, max: 9, noNaN: true }),
      fc.double({ min: -5, max: 5, noNaN: true }),
      (p, r21, r32, limit) => {
        const h = [1, r21, r21 * r32] as const;
        const phi = h.map((x) => limit + 0.01 * x ** p) as unknown as [number, number, number];
        const r = monotone(threeMesh({ phi, spacing: h, formalOrder: 2, errors: [0, 0, 0] }));
        expect(r.order).toBeCloseTo(p, 5);
        if (p <= 2.5 - 1e-6) expect(r.extrapolated).toBeCloseTo(limit, 8);
        else if (p > 2.5 + 1e-6) expect(r.extrapolated).toBeUndefined();
      },
    ),
  );
});

test("two terms of unlike signs that pass for a high order are covered: the guard is 1.25 times the way to their limit", () => {
  fc.assert(
    fc.property(fc.double({ min: 2.05, max: 2.95, noNaN: true }), (b) => {
      // 1 + h^2 - b h on 1, 2, 4: the fine difference is 3 - b, the true error |1 - b|, the order above 3.
      const phi = [1, 2, 4].map((h) => 1 + h * h - b * h) as [number, number, number];
      const r = monotone(threeMesh({ phi, spacing: [1, 2, 4], formalOrder: 2, errors: [0, 0, 0] }));
      expect(r.order).toBeGreaterThan(3);
      expect(r.guard).toBeCloseTo(1.25 * (b - 1), 9);
      expect(r.uncertainty).toBeGreaterThanOrEqual(b - 1);
      expect(r.uncertainty).toBe(Math.max(r.indexFine, r.guard ?? 0));
    }),
  );
  // Within a tenth of the formal order nothing is guarded.
  expect(monotone(threeMesh({ phi: [1, 4, 16], spacing: [1, 2, 4], formalOrder: 2, errors: [0, 0, 0] })).guard).toBeUndefined();
  expect(monotone(threeMesh({ phi: [1, 8, 64], spacing: [1, 2, 4], formalOrder: 2, errors: [0, 0, 0] })).uncertainty).toBeCloseTo(8.75, 10);
});

test("another unit changes neither class nor, but for its scale, the uncertainty", () => {
  fc.assert(
    fc.property(
      fc.tuple(fc.double({ min: -1, max: 1, noNaN: true }), fc.double({ min: -1, max: 1, noNaN: true }), fc.double({ min: -1, max: 1, noNaN: true })),
      // Powers of two scale without rounding: the result must scale to the last bit, also on the boundary between two classes.
      fc.integer({ min: 0, max: 6 }),
      (phi, exponent) => {
        const factor = 2 ** exponent;
        const base = threeMesh({ phi, spacing: [1, 2, 4], formalOrder: 2, errors: [1e-6, 1e-6, 1e-6] });
        const scaled = threeMesh({
          phi: phi.map((v) => v * factor) as [number, number, number],
          spacing: [0.1, 0.2, 0.4],
          formalOrder: 2,
          errors: [1e-6 * factor, 1e-6 * factor, 1e-6 * factor],
        });
        expect(scaled.kind).toBe(base.kind);
        expect(scaled.uncertainty).toBe(base.uncertainty * factor);
      },
    ),
  );
});

describe("classes", () => {
  const at = (phi: [number, number, number], spacing: [number, number, number] = [1, 2, 4], noise = 0) =>
    threeMesh({ phi, spacing, formalOrder: 2, errors: [noise, noise, noise] });
  test("growing changes diverge and never print an order", () => expect(at([1, 3, 4]).kind).toBe("diverging"));
  test("growing swings diverge", () => expect(at([1, 3, 2]).kind).toBe("diverging"));
  test("unequal ratios move the limit between monotone and diverging", () => {
    // r21 = 2, r32 = 1.3: a ratio of 1.5 still has a positive order, for equal ratios it has none.
    expect(at([1, 2.5, 3.5], [1, 2, 2.6]).kind).toBe("monotone");
    expect(at([1, 2.5, 3.5]).kind).toBe("diverging");
  });
  test("equal values are degenerate, at round-off as at the iteration error", () => {
    expect(at([2, 2, 2]).kind).toBe("degenerate");
    expect(at([2, 2 + 1e-15, 2 - 1e-15]).kind).toBe("degenerate");
    expect(at([2, 2.001, 2.002], [1, 2, 4], 0.01).kind).toBe("degenerate");
  });
  test("too high an order is held to the formal one with a factor of 3", () => {
    const r = monotone(at([1, 1.001, 1.1]));
    expect(r.order).toBeGreaterThan(2.5);
    expect([r.orderUsed, r.safety, r.agrees, r.extrapolated]).toEqual([2, 3, false, undefined]);
  });
  const made = (p: number, formalOrder = 2) =>
    monotone(threeMesh({ phi: [10 + 0.01, 10 + 0.01 * 2 ** p, 10 + 0.01 * 4 ** p], spacing: [1, 2, 4], formalOrder, errors: [0, 0, 0] }));
  test.each([
    [1.81, 1.25, 2, true],
    [2.19, 1.25, 2, true],
    [1.79, 3, 1.79, false],
    [2.21, 3, 2, false],
    [0.3, 3, 0.5, false],
  ])("order %d: safety %d, order used %d", (p, safety, used, agrees) => {
    const r = made(p);
    expect(r.safety).toBe(safety);
    expect(r.orderUsed).toBeCloseTo(used, 6);
    expect(r.agrees).toBe(agrees);
    expect(r.uncertainty).toBeCloseTo((safety * 0.01 * (2 ** p - 1)) / (2 ** used - 1), 9);
  });
  test.each([
    [0.49, false],
    [0.51, true],
    [2.49, true],
    [2.51, false],
  ])("at order %d an extrapolated value is given: %s", (p, given) => expect(made(p).extrapolated !== undefined).toBe(given));
  test("errors of the values widen the uncertainty, amplified as the extrapolation does, and give the order a range", () => {
    const phi = [10 + 0.01, 10 + 0.04, 10 + 0.16] as const;
    const at = (errors: [number, number, number]) => monotone(threeMesh({ phi, spacing: [1, 2, 4], formalOrder: 2, errors }));
    const clean = at([0, 0, 0]);
    const rough = at([0.003, 0.004, 0]);
    expect(clean.uncertainty).toBeCloseTo((1.25 * 0.03) / 3, 10);
    expect(rough.fromErrors).toBeCloseTo(0.005 / 3, 12);
    expect(rough.uncertainty).toBeCloseTo(Math.hypot(clean.uncertainty, 0.005 / 3), 10);
    const [low, high] = rough.orderRange ?? [0, 0];
    // Differences of 0.03 +- 0.005 and 0.12 +- 0.004 allow orders between log2(116/35) and log2(124/25).
    expect(low).toBeCloseTo(Math.log2(116 / 35), 6);
    expect(high).toBeCloseTo(Math.log2(124 / 25), 6);
  });
  test("refuses what is no mesh set", () => {
    expect(() => at([1, Number.NaN, 2])).toThrow(RangeError);
    expect(() => at([1, 2, 3], [2, 1, 4])).toThrow(RangeError);
  });
});

describe("at the boundaries of the classes", () => {
  const at = (phi: [number, number, number], errors: [number, number, number] = [0, 0, 0], spacing: [number, number, number] = [1, 2, 4]) =>
    threeMesh({ phi, spacing, formalOrder: 2, errors });
  test("equal changes have no order: diverging; a hair smaller fine change has one", () => {
    // The parabola through 0, 1, 2 at 1, 2, 4 meets no spacing at -4/3: 1.25 times that is less than three changes.
    expect(at([0, 1, 2])).toEqual({ kind: "diverging", uncertainty: 3, guard: expect.closeTo(5 / 3, 12) });
    expect(at([0, 1, 2 + 1e-9]).kind).toBe("monotone");
  });
  test("swings of equal size diverge by three times their size; a hair smaller fine swing oscillates", () => {
    expect(at([1, 0, 1])).toMatchObject({ kind: "diverging", uncertainty: 3 });
    expect(at([1, 0, 1 + 1e-9]).kind).toBe("oscillating");
  });
  test("the uncertainty of growing changes is three times the larger of them, whichever it is", () => {
    expect(at([0, 5, 7]).uncertainty).toBe(15);
    expect(at([0, -5, -3]).uncertainty).toBe(15);
    expect(threeMesh({ phi: [0, 3, 7], spacing: [1, 4, 5], formalOrder: 2, errors: [0, 0, 0] }).kind).toBe("monotone");
  });
  test("a difference of exactly the larger of its two errors is none", () => {
    expect(at([0, 1, 9], [1, 0.5, 0]).kind).toBe("degenerate");
    expect(at([0, 1, 9], [0.5, 1, 0]).kind).toBe("degenerate");
    expect(at([0, 1, 9], [0.99, 0.99, 0]).kind).toBe("monotone");
    expect(at([0, 1, 9], [0, 0, 8]).kind).toBe("degenerate");
    expect(at([0, 1, 9], [0, 0, 7.9]).kind).toBe("monotone");
  });
  test("which of the two differences is lost is said; the uncertainty holds both the range and the noise", () => {
    expect(at([0, 1, 9], [1, 0, 0])).toMatchObject({ uncertainty: 9, reason: "one difference is no larger than iteration error and round-off" });
    expect(at([0, 1, 2], [0, 3, 0])).toMatchObject({ uncertainty: 3, reason: "the three values agree to within iteration error and round-off" });
  });
  test("errors without a number or with a sign count by their size", () => {
    expect(at([0, 1, 9], [Number.NaN, 0, 0]).kind).toBe("monotone");
    expect(at([0, 1, 9], [-1, 0, 0]).kind).toBe("degenerate");
  });
  test("round-off is 64 last digits of the largest value, of whichever mesh", () => {
    const digit = 64 * Number.EPSILON * 1000;
    for (const shift of [
      [0, 0.9 * digit, 4 * digit],
      [0, 4 * digit, 4.9 * digit],
    ])
      expect(at([1000, 1000 + shift[1], 1000 + shift[2]]).kind).toBe("degenerate");
    expect(at([1000, 1000 + 1.5 * digit, 1000 + 6 * digit]).kind).toBe("monotone");
    expect(at([1e-3, 1e-3 + 2e-13, 1000]).kind).toBe("degenerate");
  });
  test("indices of both meshes, each by its own change and ratio", () => {
    const r = monotone(at([10.01, 10.04, 10.16]));
    expect(r.indexFine).toBeCloseTo((1.25 * 0.03) / 3, 12);
    expect(r.indexMedium).toBeCloseTo((1.25 * 0.12) / 3, 12);
    const uneven = monotone(at([10.01, 10.04, 10.36], [0, 0, 0], [1, 2, 6]));
    expect(uneven.order).toBeCloseTo(2, 8);
    expect(uneven.indexMedium).toBeCloseTo((1.25 * 0.32) / (9 - 1), 10);
  });
  test("the order's range is open where a difference may vanish", () => {
    const coarse = monotone(at([0, 1, 4], [0, 0, 2.9]));
    expect(coarse.orderRange?.[0]).toBe(0);
    const fine = monotone(at([0, 1, 4], [0.8, 0.8, 0]));
    expect(fine.orderRange?.[1]).toBe(Number.POSITIVE_INFINITY);
    const known = monotone(at([0, 1, 4]));
    expect(known.orderRange?.map((x) => Number(x.toFixed(9)))).toEqual([1.584962501, 1.584962501]);
  });
  test("the order of a swinging set is the root of the published equation, also for unequal ratios; where there is none it is left out", () => {
    for (const [phi, spacing] of [
      [
        [6.0042, 5.9624, 6.0909],
        [1, 2, 4],
      ],
      [
        [1, 0.9, 1.2],
        [1, 1.5, 2.4],
      ],
      [
        [1, 0.9, 1.2],
        [1, 2.2, 3.3],
      ],
    ] as [[number, number, number], [number, number, number]][]) {
      const r = at(phi, [0, 0, 0], spacing);
      if (r.kind !== "oscillating" || r.order === undefined) throw new Error(r.kind);
      const [r21, r32] = [spacing[1] / spacing[0], spacing[2] / spacing[1]];
      const right = Math.abs(Math.log(Math.abs((phi[2] - phi[1]) / (phi[1] - phi[0]))) + Math.log((r21 ** r.order + 1) / (r32 ** r.order + 1)));
      expect(r.order).toBeCloseTo(right / Math.log(r21), 8);
      expect(r.extrapolatedAsPublished).toBeCloseTo((r21 ** r.order * phi[0] - phi[1]) / (r21 ** r.order - 1), 10);
      const [a, b, c] = spacing;
      const atNone = (phi[0] * b * c) / ((a - b) * (a - c)) + (phi[1] * a * c) / ((b - a) * (b - c)) + (phi[2] * a * b) / ((c - a) * (c - b));
      expect(r.guard).toBeCloseTo(1.25 * Math.abs(phi[0] - atNone), 10);
      expect(r.uncertainty).toBeCloseTo(Math.max(1.5 * (Math.max(...phi) - Math.min(...phi)), r.guard), 12);
    }
    // The published iteration does not come to rest here.
    expect(at([1, 0.9, 1.7], [0, 0, 0], [1, 1.5, 3.3])).toMatchObject({ kind: "oscillating", order: undefined, extrapolatedAsPublished: undefined });
  });
  test.each<[string, Partial<Parameters<typeof threeMesh>[0]>]>([
    ["a spacing of zero", { spacing: [0, 1, 2] }],
    ["medium and fine alike", { spacing: [1, 1, 2] }],
    ["coarse and medium alike", { spacing: [1, 2, 2] }],
    ["a spacing without a number", { spacing: [1, Number.NaN, 2] }],
    ["formal order zero", { formalOrder: 0 }],
    ["no formal order", { formalOrder: Number.NaN }],
    ["an infinite value", { phi: [1, 2, Number.POSITIVE_INFINITY] }],
  ])("refuses %s", (_name, change) =>
    expect(() => threeMesh({ phi: [1, 2, 4], spacing: [1, 2, 4], formalOrder: 2, errors: [0, 0, 0], ...change })).toThrow(RangeError),
  );
  test("orders far above any scheme's are found too", () => {
    for (const p of [0.01, 0.5, 7, 40]) {
      const r = 2 ** -p;
      expect(observedOrder(r, 2, 2) / p).toBeCloseTo(1, 6);
    }
  });
});

describe("next mesh", () => {
  test("in space the cells grow with the cube; part of a cell is a cell", () => {
    const next = nextMesh({ uncertainty: 0.02, limit: 0.01, spacing: 0.1, orderUsed: 1, cells: 1000, dimension: 3 });
    expect(next).toEqual({ spacing: 0.05, cells: 8000 });
    expect(nextMesh({ uncertainty: 0.021, limit: 0.01, spacing: 0.1, orderUsed: 1, cells: 1000, dimension: 2 }).cells).toBe(
      Math.ceil(1000 * 2.1 ** 2),
    );
  });
  test.each([
    [0, 0.01, 2],
    [0.04, 0, 2],
    [0.04, 0.01, 0],
    [-0.04, 0.01, 2],
    [0.04, -0.01, 2],
    [Number.NaN, 0.01, 2],
  ])("uncertainty %d, limit %d and order %d are refused where one is not positive", (u, limit, order) =>
    expect(() => nextMesh({ uncertainty: u, limit, spacing: 0.1, orderUsed: order, cells: 1000, dimension: 2 })).toThrow(RangeError),
  );
});

test("next mesh: a quarter of the uncertainty at order 2 halves the spacing", () => {
  const next = nextMesh({ uncertainty: 0.04, limit: 0.01, spacing: 0.1, orderUsed: 2, cells: 1000, dimension: 2 });
  expect(next.spacing).toBeCloseTo(0.05, 12);
  expect(next.cells).toBe(4000);
});

test("the observed order is found however steep: up to 512, where the search ends", () => {
  // With both ratios 2 the changes are in the ratio of 2 to the minus p.
  for (const p of [0.01, 60, 300]) expect(observedOrder(2 ** -p, 2, 2) / p).toBeCloseTo(1, 9);
  expect(observedOrder(2 ** -1000, 2, 2)).toBeCloseTo(512, 6);
});
