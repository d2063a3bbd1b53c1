import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { type Curve, refineCurve } from "./pointByPoint.ts";

const SPACING = [1, 2, 4] as const;
/** A curve f + e h^p on points that are the same on every mesh, so that nothing is interpolated. */
const curve = (h: number, value: (x: number, h: number) => number, points = 41, from = 0, to = 1): Curve => {
  const at = Array.from({ length: points }, (_, i) => from + ((to - from) * i) / (points - 1));
  return { at, value: at.map((x) => value(x, h)) };
};
const three = (value: (x: number, h: number) => number) => SPACING.map((h) => curve(h, value)) as unknown as [Curve, Curve, Curve];

describe("a curve on three meshes", () => {
  test("the order it was made with comes out at every point, and the band is 1.25 times the error where that is the formal one", () => {
    const r = refineCurve(
      three((x, h) => Math.sin(3 * x) + 0.01 * (1 + x) * h ** 2),
      SPACING,
      2,
    );
    expect(r?.averageOrder).toBeCloseTo(2, 8);
    expect(r?.shares).toEqual({ monotone: 1, oscillating: 0, diverging: 0, settled: 0 });
    expect(r?.orders).toEqual([0, 0, 0, expect.any(Number), expect.any(Number), 0, 0, 0, 0]);
    expect((r?.orders[3] ?? 0) + (r?.orders[4] ?? 0)).toBe(41);
    r?.at.forEach((x, i) => {
      expect(r.band[i]).toBeCloseTo(1.25 * 0.01 * (1 + x), 10);
    });
  });
  test("another order has a factor of three with the mean order; the band holds the truth on any monotone curve", () => {
    fc.assert(
      fc.property(fc.double({ min: 0.6, max: 3.5, noNaN: true }), fc.double({ min: 0.2, max: 3, noNaN: true }), (p, slope) => {
        const r = refineCurve(
          three((x, h) => x ** 2 + 0.01 * (1 + slope * x) * h ** p),
          SPACING,
          2,
        );
        expect(r?.averageOrder).toBeCloseTo(p, 6);
        r?.at.forEach((x, i) => {
          expect(r.band[i]).toBeGreaterThan(0.01 * (1 + slope * x));
        });
      }),
      { numRuns: 30 },
    );
  });
  test("points that swing, grow or stand still are told by their shares, and have bands of three times their changes", () => {
    const r = refineCurve(
      three((x, h) => {
        if (x < 0.25) return 1 + 0.01 * h ** 2;
        if (x < 0.5) return 1 + 0.01 * (h === 1 ? 0 : h === 2 ? -1 : 2);
        return x < 0.75 ? 1 + 0.01 * (h === 1 ? 0 : h === 2 ? 2 : 3) : 1;
      }),
      SPACING,
      2,
    );
    expect(r?.shares).toEqual({
      monotone: expect.closeTo(10 / 41, 12),
      oscillating: expect.closeTo(10 / 41, 12),
      diverging: expect.closeTo(10 / 41, 12),
      settled: expect.closeTo(11 / 41, 12),
    });
    expect(r?.band[12]).toBeCloseTo(3 * 0.03, 12);
    expect(r?.band[22]).toBeCloseTo(3 * 0.02, 12);
    expect(r?.band[35]).toBe(0);
  });
  test("only places that all three reach are judged, and fewer than five are too few", () => {
    const curves = [curve(1, (x) => x, 21), curve(2, (x) => x + 0.04, 11, 0.1, 1), curve(4, (x) => x + 0.16, 6, 0, 0.9)] as const;
    const r = refineCurve(curves as unknown as [Curve, Curve, Curve], SPACING, 2);
    expect([r?.at[0], r?.at.at(-1)]).toEqual([expect.closeTo(0.1, 12), expect.closeTo(0.9, 12)]);
    // Straight curves are carried over exactly, however their points lie.
    expect(r?.averageOrder).toBeCloseTo(Math.log2(3), 6);
    const apart = [curve(1, (x) => x, 21), curve(2, (x) => x, 11, 0.9, 1), curve(4, (x) => x, 6, 0, 0.95)] as const;
    expect(refineCurve(apart as unknown as [Curve, Curve, Curve], SPACING, 2)).toBeUndefined();
  });
});
