import fc from "fast-check";
import { expect, test } from "vitest";
import { randomFrom } from "../../numeric/random.ts";
import { strongestLine } from "./decayFit.ts";
import { assessResidual } from "./residuals.ts";

const wave = (n: number, of: (i: number) => number) => Float64Array.from({ length: n }, (_, i) => of(i));

test("the angle of an oscillation on a trend is found to half a step of the search, whatever its phase", () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0.3, max: 2.8, noNaN: true }),
      fc.double({ min: 0, max: 6, noNaN: true }),
      fc.integer({ min: 60, max: 160 }),
      (angle, phase, n) => {
        const found = strongestLine(wave(n, (i) => 40 - 0.3 * i + Math.sin(angle * i + phase)));
        // A step of the search, and what the ends of the stretch shift the peak by.
        expect(Math.abs((found ?? Number.NaN) - angle)).toBeLessThan(Math.PI / (2 * n) + 1 / n);
      },
    ),
  );
});

test("of two the stronger is named, also in noise", () => {
  const random = randomFrom(7);
  const mixed = (a: number, b: number) => strongestLine(wave(120, (i) => a * Math.sin(0.6 * i) + b * Math.cos(1.9 * i) + 0.2 * (random() - 0.5)));
  expect(mixed(1, 0.7)).toBeCloseTo(0.6, 1);
  expect(mixed(0.7, 1)).toBeCloseTo(1.9, 1);
});

test("of a long record every so many-th entry is looked at; rates are an entry of the record all the same", () => {
  for (const n of [300, 1300, 5000]) {
    const rate = 10 ** (-8 / n);
    const r = assessResidual(
      "mass",
      wave(n, (i) => rate ** i),
      { dropTarget: 10, stretchFrom: 1 },
    );
    expect(r.factor).toBeCloseTo(rate, 9);
    expect(r.state).toBe("still-falling");
    // Two orders of ten are left, a fifth of what was done for eight.
    expect((r.iterationsLeft ?? Number.NaN) / n).toBeCloseTo(2 / 8, 1);
  }
});
