import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { spaceTimeFit } from "./spaceTime.ts";

const at = (pairs: readonly (readonly [number, number])[], value: (h: number, t: number) => number) =>
  pairs.map(([spacing, step]) => ({ spacing, step, value: value(spacing, step) }));
const CROSS = [
  [1, 0.1],
  [2, 0.1],
  [4, 0.1],
  [1, 0.2],
  [1, 0.4],
] as const;

describe("space and time at once", () => {
  test("both errors of the finest value come out, whatever their signs and unit", () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1, max: 1, noNaN: true }),
        fc.double({ min: -1, max: 1, noNaN: true }),
        fc.constantFrom(1e-6, 1, 1e6),
        (a, b, unit) => {
          const fit = spaceTimeFit(
            at(CROSS, (h, t) => unit * (3 + a * h ** 2 + b * (t / 0.1) ** 2)),
            [2, 2],
          );
          if (!fit.ok) throw new Error(fit.sentence);
          expect(fit.limit / unit).toBeCloseTo(3, 9);
          expect(fit.space / unit).toBeCloseTo(a, 9);
          expect(fit.time / unit).toBeCloseTo(b, 9);
          expect((fit.deviation ?? 1) / unit).toBeLessThan(1e-9);
        },
      ),
    );
  });
  test("different orders in space and time are kept apart; what neither explains is left over", () => {
    const noise = [0.01, -0.01, 0, 0, 0];
    const values = at(CROSS, (h, t) => 1 + 0.1 * h ** 2 + 2 * t).map((v, i) => ({ ...v, value: v.value + noise[i] }));
    const fit = spaceTimeFit(values, [2, 1]);
    expect(fit).toMatchObject({ ok: true, space: expect.closeTo(0.1, 2), time: expect.closeTo(0.2, 1) });
    expect(fit.ok && fit.deviation).toBeGreaterThan(0.001);
    expect(fit.ok && fit.deviation).toBeLessThan(0.02);
  });
  test.each([
    ["three runs", CROSS.slice(0, 3), "needs four runs; there are 3"],
    [
      "one mesh",
      [
        [1, 0.1],
        [1, 0.2],
        [1, 0.4],
        [1, 0.8],
      ],
      "one mesh: the error in space",
    ],
    [
      "one step",
      [
        [1, 0.1],
        [2, 0.1],
        [4, 0.1],
        [8, 0.1],
      ],
      "one time step: the error in time",
    ],
    [
      "both refined together",
      [
        [1, 0.1],
        [2, 0.2],
        [4, 0.4],
        [8, 0.8],
      ],
      "change together in all runs",
    ],
  ] as const)("%s cannot tell them apart, and says why", (_, pairs, words) => {
    const fit = spaceTimeFit(
      at(pairs, (h, t) => 1 + h + t),
      [2, 2],
    );
    expect(fit.ok ? "" : fit.sentence).toContain(words);
  });
});
