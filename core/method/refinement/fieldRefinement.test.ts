import fc from "fast-check";
import { expect, test } from "vitest";
import { differenceNorms, refineField } from "./fieldRefinement.ts";
import { refinePoints } from "./pointByPoint.ts";
import { threeMesh } from "./threeMesh.ts";

const N = 50;
const limit = (i: number) => 2 + Math.sin(i);
const slope = (i: number) => 1 + 0.5 * Math.cos(i);
const set = (h: number, p: number) => Float64Array.from({ length: N }, (_, i) => limit(i) + slope(i) * h ** p);
const area = Float64Array.from({ length: N }, (_, i) => 1 + (i % 3));

test("on three meshes of any ratios: the order everywhere, and the true error in every cell", () => {
  const ratios = fc.double({ min: 1.2, max: 2.5, noNaN: true });
  fc.assert(
    fc.property(ratios, ratios, fc.constantFrom(1, 2), (r21, r32, p) => {
      const spacing = [0.02, 0.02 * r21, 0.02 * r21 * r32];
      const found = refineField({ values: spacing.map((h) => set(h, p)), spacing, formalOrder: p, area });
      found.points?.order.forEach((order, i) => {
        expect(order).toBeCloseTo(p, 4);
        expect(found.error[i]).toBeCloseTo(slope(i) * 0.02 ** p, 9);
        expect(found.points?.band[i]).toBeCloseTo(1.25 * slope(i) * 0.02 ** p, 9);
      });
      expect(found.normOrder).toBeCloseTo(p, 6);
      expect(found.points?.shares.monotone).toBe(1);
    }),
    { numRuns: 40 },
  );
});

test("every place is judged as the three-mesh procedure judges it", () => {
  const value = fc.double({ min: -1, max: 1, noNaN: true });
  const ratios = fc.double({ min: 1.1, max: 2.5, noNaN: true });
  fc.assert(
    fc.property(value, value, value, ratios, ratios, (phi1, phi2, phi3, r21, r32) => {
      const spacing = [1, r21, r21 * r32] as const;
      // A second place sets the range, so that the first is not all there is.
      const values = [
        [phi1, 0],
        [phi2, 0],
        [phi3, 0],
      ] as const;
      const found = refinePoints({ values, spacing, formalOrder: 2 });
      const noise = 1e-9 * (Math.max(phi1, phi2, phi3, 0) - Math.min(phi1, phi2, phi3, 0));
      const known = threeMesh({ phi: [phi1, phi2, phi3], spacing, formalOrder: 2, errors: [noise, noise, noise] });
      expect(found.shares[known.kind === "degenerate" ? "settled" : known.kind]).toBeGreaterThanOrEqual(0.5);
      if (known.kind === "monotone") expect(found.order[0]).toBeCloseTo(Math.min(8, known.order), 6);
      else expect(found.order[0]).toBeNaN();
    }),
    { numRuns: 400 },
  );
});

test("shares and mean order are by area; cells without a value on one mesh are left out", () => {
  const values = [
    [0, 0, 0, 0],
    [1, 1, 0, Number.NaN],
    [5, -3, 0, 1],
  ].map((v) => Float64Array.from(v));
  const found = refineField({ values, spacing: [1, 2, 4], formalOrder: 2, area: Float64Array.of(2, 1, 1, 7) });
  expect(found.points?.shares).toEqual({ monotone: 0.5, oscillating: 0.25, diverging: 0, settled: 0.25 });
  expect(found.points?.averageOrder).toBeCloseTo(2, 6);
  expect(found.error[3]).toBeNaN();
  expect(found.error[0]).toBeCloseTo(1 / 3, 9);
  expect(found.error[1]).toBe(4);
  expect(found.norms[0]).toEqual({ l1: 3 / 4, l2: Math.sqrt(3 / 4), largest: 1 });
});

test("two meshes: the formal order is taken for granted, no order is claimed", () => {
  const found = refineField({ values: [0.1, 0.2].map((h) => set(h, 2)), spacing: [0.1, 0.2], formalOrder: 2, area });
  expect(found.points).toBeUndefined();
  expect(found.normOrder).toBeUndefined();
  expect(found.error[7]).toBeCloseTo(slope(7) * 0.01, 12);
});

test("what cannot be judged is refused", () => {
  expect(() => refineField({ values: [set(1, 2)], spacing: [1], formalOrder: 2, area })).toThrow("two meshes at least");
  expect(() => refineField({ values: [set(1, 2), set(2, 2)], spacing: [2, 1], formalOrder: 2, area })).toThrow("increase from fine to coarse");
  expect(() => differenceNorms(Float64Array.of(Number.NaN), Float64Array.of(1), Float64Array.of(1))).toThrow("share no place");
});
