import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { besselJ, scaledBesselI, zeroOfJ0, zeroOfJ1 } from "./bessel.ts";
import { divided, times } from "./complex.ts";
import { slopeOf } from "./differences.ts";
import { erfc } from "./errorFunction.ts";
import { extent } from "./extent.ts";
import { integrate } from "./ode.ts";
import { pchip, pchipOf } from "./pchip.ts";
import { normalsOf, randomFrom } from "./random.ts";
import { secant } from "./secant.ts";
import { thinned } from "./thinned.ts";

describe("Bessel functions", () => {
  // Abramowitz & Stegun, tables 9.1 and 9.5.
  test.each([
    [0, 0, 1],
    [0, 1, 0.765197686557967],
    [0, 10, -0.245935764451348],
    [1, 1, 0.440050585744934],
    [1, 10, 0.043472746168861],
  ])("J%d(%d) to fifteen digits", (order, x, value) => {
    expect(besselJ(order, x)).toBeCloseTo(value, 14);
  });
  test("zeros as tabled, and they are zeros far out", () => {
    expect([zeroOfJ0(1), zeroOfJ0(5), zeroOfJ1(1), zeroOfJ1(5)]).toEqual([
      expect.closeTo(2.404825557695773, 12),
      expect.closeTo(14.930917708487787, 12),
      expect.closeTo(3.831705970207512, 12),
      expect.closeTo(16.470630050877634, 12),
    ]);
    expect(Math.abs(besselJ(0, zeroOfJ0(40)))).toBeLessThan(1e-13);
  });
  test("J0' = -J1 at any place", () => {
    for (const x of [0.3, 4, 22]) expect(slopeOf((s) => besselJ(0, s), x, 1e-2)).toBeCloseTo(-besselJ(1, x), 11);
  });
  test("I of a turned argument is J, and nothing overflows where the function does", () => {
    const [re, im] = scaledBesselI(0, [0, 3.7]);
    expect([re, im]).toEqual([expect.closeTo(besselJ(0, 3.7), 13), expect.closeTo(0, 13)]);
    // I0(x) e^-x goes to 1 / sqrt(2 pi x) (1 + 1 / 8x + 9 / 128 x^2).
    const [far] = scaledBesselI(0, [900, 0]);
    expect(far * Math.sqrt(2 * Math.PI * 900)).toBeCloseTo(1 + 1 / 7200 + 9 / (128 * 900 ** 2), 8);
    expect(scaledBesselI(1, [1, 0])[0] * Math.E).toBeCloseTo(0.565159103992485, 13);
  });
});

describe("complementary error function", () => {
  test.each([
    [0, 1],
    [0.5, 0.479500122186953],
    [2, 0.004677734981047],
    [2.5, 0.000406952017445],
    [4, 1.541725790028e-8],
  ])("erfc(%d)", (x, value) => {
    expect(erfc(x) / value).toBeCloseTo(1, 11);
  });
  test("mirrored, and its slope is the bell on both sides of where the two ways meet", () => {
    for (const x of [0.2, 1.7, 3]) expect(erfc(x) + erfc(-x)).toBeCloseTo(2, 14);
    for (const x of [0.4, 2.499, 2.501, 3.3]) expect(slopeOf(erfc, x, 1e-2) / ((-2 / Math.sqrt(Math.PI)) * Math.exp(-x * x))).toBeCloseTo(1, 7);
  });
});

describe("equations solved step by step", () => {
  test("a swing comes back after ten periods, forwards and backwards in time", () => {
    const swing = (_: number, y: Float64Array, out: Float64Array) => {
      out[0] = y[1];
      out[1] = -y[0];
    };
    const [end] = integrate(swing, 0, [1, 0], [20 * Math.PI]);
    expect([end[0], end[1]]).toEqual([expect.closeTo(1, 9), expect.closeTo(0, 9)]);
    const [back] = integrate(swing, 20 * Math.PI, [...end], [0]);
    expect([back[0], back[1]]).toEqual([expect.closeTo(1, 9), expect.closeTo(0, 9)]);
  });
  test("every place that was asked for is answered in order, the first of them the beginning itself", () => {
    const found = integrate((x, _, out) => (out[0] = 3 * x * x), 1, [1], [1, 2, 3]);
    expect(found.map((y) => y[0])).toEqual([1, expect.closeTo(8, 9), expect.closeTo(27, 8)]);
    expect(integrate((_, y, out) => (out[0] = y[0]), 0, [1], [])).toEqual([]);
  });
  test("what runs away is refused, not answered", () => {
    expect(() => integrate((_, y, out) => (out[0] = y[0] ** 2), 0, [1], [2])).toThrow("runs away near");
  });
});

describe("roots and complex numbers", () => {
  test("the secant rule goes down to rounding, and says where it does not settle", () => {
    expect(secant(Math.cos, 1, 2)).toBeCloseTo(Math.PI / 2, 14);
    expect(() => secant((x) => 1 + x * x, 3, 3.1)).toThrow(RangeError);
    expect(() => secant(() => Number.NaN, 3, 3.1)).toThrow("No root was found near 3.");
  });
  test("a product divided by one of its parts is the other", () => {
    const part = fc.double({ min: -9, max: 9, noNaN: true });
    const any = fc.tuple(part, part);
    fc.assert(
      fc.property(any, any, (a, b) => {
        fc.pre(Math.hypot(...b) > 1e-3);
        const [re, im] = divided(times(a, b), b);
        expect(re).toBeCloseTo(a[0], 9);
        expect(im).toBeCloseTo(a[1], 9);
      }),
      { seed: 8 },
    );
  });
});

describe("many numbers", () => {
  test("a curve asked at many places is the curve asked at each, in any order, ends included", () => {
    const xs = [0, 0.3, 1, 1.1, 2.5, 4];
    const ys = [1, 3, 2.5, 2.6, 0, -1];
    const read = pchipOf(xs, ys);
    const next = randomFrom(3);
    for (const x of [0, 4, ...xs, ...Array.from({ length: 200 }, () => 4 * next())]) expect(read(x)).toBeCloseTo(pchip(xs, ys, x), 13);
    expect(() => read(4.001)).toThrow(RangeError);
    expect(() => read(Number.NaN)).toThrow(RangeError);
  });
  test("extent passes over what is no number, and does not choke on a long list", () => {
    expect(extent([2, Number.NaN, -1])).toEqual([-1, 2]);
    expect(extent([])).toEqual([Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY]);
    expect(extent(Float64Array.from({ length: 300_000 }, (_, i) => i))).toEqual([0, 299_999]);
  });
  test("thinned keeps a short list as it is, and of a long one the ends", () => {
    const short = [1, 2, 3];
    expect(thinned(short, 3)).toBe(short);
    const long = thinned(
      Array.from({ length: 1001 }, (_, i) => i),
      100,
    );
    expect([long[0], long.at(-1)]).toEqual([0, 1000]);
    expect(long.length).toBeLessThanOrEqual(101);
  });
  test("normal deviates have mean nought, variance one and the fourth moment of a bell", () => {
    const normal = normalsOf(randomFrom(12));
    const list = Array.from({ length: 40_000 }, normal);
    const moment = (k: number) => list.reduce((s, v) => s + v ** k, 0) / list.length;
    expect(Math.abs(moment(1))).toBeLessThan(0.015);
    expect(Math.abs(moment(2) - 1)).toBeLessThan(0.03);
    expect(Math.abs(moment(4) - 3)).toBeLessThan(0.2);
  });
});
