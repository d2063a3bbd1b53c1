import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { correctionFactor, factorOfSafety } from "./crossChecks.ts";
import { fixedFit, powerFit, valueAt } from "./fits.ts";
import { leastSquares } from "./leastSquares.ts";
import { judgeLadder } from "./procedures.ts";

const SPACING = [1, 1.4, 2.1, 2.9, 4];
const on = (f: (h: number) => number, spacing: readonly number[] = SPACING) => ({ spacing, phi: spacing.map(f) });
const rungs = (f: (h: number) => number, spacing: readonly number[] = SPACING, error = 0) => spacing.map((h) => ({ spacing: h, value: f(h), error }));

describe("fits", () => {
  test("a power law is found again from values made with it, weighted or not, in any unit and order", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.3, max: 4, noNaN: true }),
        fc.double({ min: -3, max: 3, noNaN: true }),
        fc.constantFrom(1e-6, 1, 1e9),
        fc.boolean(),
        (p, limit, unit, weighted) => {
          const { spacing, phi } = on((h) => unit * (limit + 0.1 * h ** p));
          const fit = powerFit({ spacing: [...spacing].reverse().map((h) => 7 * h), phi: [...phi].reverse() }, weighted);
          expect(fit?.terms[0].exponent).toBeCloseTo(p, 4);
          expect((fit?.limit ?? 0) / unit).toBeCloseTo(limit, 4);
          expect((fit?.deviation ?? 1) / unit).toBeLessThan(1e-7);
          expect((valueAt(fit as NonNullable<typeof fit>, 2.5) - unit * limit) / unit).toBeCloseTo(0.1 * 2.5 ** p, 4);
        },
      ),
      { numRuns: 30 },
    );
  });
  test("fixed terms are found again; the deviation is that of what is left over, by the degrees of freedom", () => {
    const both = fixedFit(
      on((h) => 5 - 2 * h + 3 * h * h),
      "first-and-second",
      false,
    );
    expect(both).toMatchObject({ limit: expect.closeTo(5, 10), deviation: expect.closeTo(0, 10) });
    expect(both?.terms.map((t) => t.coefficient)).toEqual([expect.closeTo(-2, 9), expect.closeTo(3, 9)]);
    // Three values, a straight line: slope and limit by the textbook, one degree of freedom is left.
    const line = fixedFit({ spacing: [1, 2, 3], phi: [1, 2, 6] }, "first", false);
    expect(line).toMatchObject({ limit: expect.closeTo(-2, 12), deviation: expect.closeTo(Math.sqrt(1.5), 12) });
    expect(line?.terms).toEqual([{ coefficient: expect.closeTo(2.5, 12), exponent: 1 }]);
  });
  test("weights count the fine values for more", () => {
    // Two fine values agree and a coarse one is off: weighted, the parabola stays nearer to the fine ones.
    const fit = fixedFit({ spacing: [1, 1.0000001, 2, 4], phi: [0, 0, 4, 0] }, "second", true);
    const plain = fixedFit({ spacing: [1, 1.0000001, 2, 4], phi: [0, 0, 4, 0] }, "second", false);
    expect(Math.abs(valueAt(fit as NonNullable<typeof fit>, 1))).toBeLessThan(Math.abs(valueAt(plain as NonNullable<typeof plain>, 1)));
  });
  test("too few values, spacings that are one, and values without a best exponent have no fit", () => {
    expect(powerFit({ spacing: [1, 2], phi: [1, 2] }, false)).toBeUndefined();
    expect(fixedFit({ spacing: [1, 2], phi: [1, 2] }, "first-and-second", false)).toBeUndefined();
    expect(fixedFit({ spacing: [1, 1, 1], phi: [1, 2, 3] }, "first", false)).toBeUndefined();
    // Logarithmic in the spacing: the best exponent is as small as may be.
    expect(
      powerFit(
        on((h) => Math.log(h) - 0.5 / h),
        false,
      ),
    ).toBeUndefined();
  });
});

describe("least squares over four or more meshes", () => {
  test("inside the range of orders the power law is used with a factor of 1.25; what is left over is nothing", () => {
    const r = leastSquares(
      on((h) => 10 + 0.5 * h ** 1.5),
      2,
    );
    expect(r).toMatchObject({ safety: 1.25, scattered: false, observed: expect.closeTo(1.5, 4), error: expect.closeTo(0.5, 4) });
    expect(r.fit.model).toBe("power");
    expect(r.uncertainty).toBeCloseTo(0.625, 3);
    expect(r.dataRange).toBeCloseTo((0.5 * (4 ** 1.5 - 1)) / 4, 12);
  });
  test.each([
    [2.08, "second", 1.25],
    [2.15, "second", 3],
    [3.5, "second", 3],
    [0.4, "first-and-second", 3],
    [0.95, "power", 1.25],
  ] as const)("order %f: %s terms with a factor of %f", (p, model, safety) => {
    const r = leastSquares(
      on((h) => 1 + 0.01 * h ** p),
      2,
    );
    expect(r.fit.model).toBe(model);
    expect(r.safety).toBe(safety);
    expect(r.uncertainty).toBeCloseTo(safety * Math.abs(r.error) + r.fit.deviation + Math.abs(1.01 - valueAt(r.fit, 1)), 12);
  });
  test("where the values scatter more than they change, the uncertainty is three times their scatter and more", () => {
    const r = leastSquares({ spacing: [1, 1.3, 1.7, 2.2, 2.9], phi: [1, -1, 1, -1, 1] }, 2);
    expect(r).toMatchObject({ scattered: true, safety: 3, dataRange: 0.5 });
    expect(r.uncertainty).toBeCloseTo((3 * r.fit.deviation * (Math.abs(r.error) + r.fit.deviation + Math.abs(1 - valueAt(r.fit, 1)))) / 0.5, 12);
    expect(leastSquares({ spacing: [1, 2, 3, 4], phi: [2, 2, 2, 2] }, 2).uncertainty).toBe(0);
  });
  test("three values, twins among spacings and what is no number are refused", () => {
    expect(() => leastSquares({ spacing: [1, 2, 3], phi: [1, 2, 3] }, 2)).toThrow("there are 3");
    expect(() => leastSquares({ spacing: [1, 2, 2, 4], phi: [1, 2, 3, 4] }, 2)).toThrow("all different");
    expect(() => leastSquares({ spacing: [1, 2, 3, -4], phi: [1, 2, 3, 4] }, 2)).toThrow("positive");
    expect(() => leastSquares({ spacing: [1, 2, 3, 4], phi: [1, 2, Number.NaN, 4] }, 2)).toThrow("finite");
  });
});

describe("cross-checks", () => {
  test("factor of safety: 1.6 at the formal order, and the two published lines on its sides", () => {
    const at = (order: number) => factorOfSafety({ error: -2, order, formalOrder: 2 }).factor;
    expect([1, 2, 2.5].map(at)).toEqual([expect.closeTo(2.025, 12), expect.closeTo(1.6, 12), expect.closeTo(5.7, 12)]);
    expect(factorOfSafety({ error: -2, order: 2, formalOrder: 2 }).uncertainty).toBeCloseTo(3.2, 12);
  });
  test("correction factor: 1.1 and 0.1 at the formal order, quadratic near it, straight away from it", () => {
    const at = (order: number) => correctionFactor({ error: 1, order, formalOrder: 2 }, 2);
    expect(at(2)).toEqual({ factor: 1.1, uncertainty: 1.1, corrected: 0.1 });
    // (2^1.9 - 1) / 3 and (2^1 - 1) / 3.
    const near = 1 - (2 ** 1.9 - 1) / 3;
    expect(near).toBeLessThan(0.125);
    expect(at(1.9).factor).toBeCloseTo(9.6 * near ** 2 + 1.1, 12);
    expect(at(1.9).corrected).toBeCloseTo(2.4 * near ** 2 + 0.1, 12);
    expect(at(1)).toMatchObject({ factor: expect.closeTo(2 * (2 / 3) + 1, 12), corrected: expect.closeTo(2 / 3, 12) });
    const between = 1 - (2 ** 1.8 - 1) / 3;
    expect(at(1.8)).toMatchObject({ factor: expect.closeTo(2 * between + 1, 12), corrected: expect.closeTo(2.4 * between ** 2 + 0.1, 12) });
  });
});

describe("all procedures on a ladder", () => {
  test("three rungs allow the three-mesh index and what starts from its order; the index is adopted", () => {
    const j = judgeLadder(
      rungs((h) => 1 + 0.01 * h ** 2, [1, 2, 4]),
      2,
    );
    expect(j.procedures.map((p) => p.key)).toEqual(["three-mesh", "factor-of-safety", "correction-factor"]);
    expect(j.adopted).toMatchObject({ key: "three-mesh", uncertainty: expect.closeTo(0.0125, 12), factor: 1.25, limit: expect.closeTo(1, 12) });
    expect(j.procedures[1].uncertainty).toBeCloseTo(0.016, 12);
    expect(j.procedures[2].uncertainty).toBeCloseTo(0.011, 12);
    expect(j.because).toContain("three rungs");
  });
  test("of more rungs the larger of index and least squares is adopted, whichever it is", () => {
    const slow = judgeLadder(
      rungs((h) => 1 + 0.01 * h ** 1.5),
      2,
    );
    expect(slow.adopted.key).toBe("three-mesh");
    const fast = judgeLadder(
      rungs((h) => 1 + 0.01 * h ** 2.4),
      2,
    );
    expect(fast.adopted.key).toBe("least-squares");
    for (const j of [slow, fast]) expect(j.adopted.uncertainty).toBe(Math.max(j.procedures[0].uncertainty, j.procedures[1].uncertainty));
  });
  test("a person may adopt any that applies; one that does not apply leaves the rule its choice", () => {
    const j = judgeLadder(
      rungs((h) => 1 + 0.01 * h ** 2),
      2,
      "correction-factor",
    );
    expect(j).toMatchObject({ adopted: { key: "correction-factor" }, because: "chosen by hand" });
    const three = judgeLadder(
      rungs((h) => 1 + 0.01 * h ** 2, [1, 2, 4]),
      2,
      "least-squares",
    );
    expect(three).toMatchObject({ adopted: { key: "three-mesh" }, because: "three rungs allow no other" });
  });
  test("errors of the values enter every procedure by squares", () => {
    const told = judgeLadder(
      rungs((h) => 1 + 0.01 * h ** 2, SPACING, 0.004),
      2,
    );
    const sure = judgeLadder(
      rungs((h) => 1 + 0.01 * h ** 2),
      2,
    );
    told.procedures.forEach((p, k) => {
      const rest = p.key === "least-squares" ? 0.004 : (0.004 * Math.SQRT2) / (1.4 ** (p.key === "three-mesh" ? 2 : (p.order ?? 0)) - 1);
      expect(p.uncertainty).toBeCloseTo(Math.hypot(sure.procedures[k].uncertainty, rest), 6);
    });
  });
  test("a set without an order has no procedure that starts from one, nor a limit", () => {
    const j = judgeLadder(
      rungs((h) => Math.log(h)),
      2,
    );
    expect(j.procedures.map((p) => p.key)).toEqual(["three-mesh", "least-squares"]);
    expect(j.procedures[0].limit).toBeUndefined();
    expect(() =>
      judgeLadder(
        rungs((h) => h, [1, 2]),
        2,
      ),
    ).toThrow("there are 2");
  });
});
