import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { normalsOf, randomFrom } from "../../numeric/random.ts";
import type { InputUncertainty } from "../../records/inputs.ts";
import { sharedInputs } from "./sharedInputs.ts";

const input = (key: string, value: number, uncertainty: number): InputUncertainty => ({
  key,
  label: key.toUpperCase(),
  value,
  unit: "",
  uncertainty,
  sensitivities: {},
});
const [v, rho] = [input("v", 2, 0.04), input("rho", 1.2, 0.012)];

describe("inputs that count in both", () => {
  test("what moves both alike drops out, and one that the yardstick does not know counts whole", () => {
    const answers = { v: 2, rho: 1 };
    expect(sharedInputs([v, rho], [], { value: 10, answers }, { value: 10, answers })?.uncertainty).toBe(0);
    const half = sharedInputs([v, rho], [], { value: 10, answers }, { value: 10, answers: { v: 2 } });
    expect(half?.uncertainty).toBeCloseTo(0.1, 12);
    expect(half?.alone).toBeCloseTo(Math.hypot(0.4, 0.1), 12);
    expect(half?.shared).toEqual(["V"]);
  });
  test("opposite answers add up; the difference of unequal values is not of equal percentages", () => {
    expect(sharedInputs([v], [], { value: 10, answers: { v: 1 } }, { value: 10, answers: { v: -1 } })?.uncertainty).toBeCloseTo(0.4, 12);
    expect(sharedInputs([v], [], { value: 11, answers: { v: 1 } }, { value: 10, answers: { v: 1 } })?.uncertainty).toBeCloseTo(0.02, 12);
  });
  test("correlated inputs, one in each: fully correlated equal parts make up for each other", () => {
    const same = [{ between: ["v", "rho"] as const, coefficient: 1 }] as never;
    // 2 % of 10 by v in the simulation alone, 1 % times 2 of 10 by rho in the yardstick alone.
    const found = sharedInputs([v, rho], same, { value: 10, answers: { v: 1 } }, { value: 10, answers: { rho: 2 } });
    expect(found?.uncertainty).toBeCloseTo(0, 7);
  });
  test("nothing is said where the yardstick answers to no input, or an input is zero", () => {
    expect(sharedInputs([v], [], { value: 1, answers: { v: 1 } }, { value: 1, answers: {} })).toBeUndefined();
    expect(sharedInputs([v], [], { value: 1, answers: { v: 1 } }, { value: 1, answers: { other: 1 } })).toBeUndefined();
    expect(sharedInputs([input("v", 0, 1)], [], { value: 1, answers: {} }, { value: 1, answers: { v: 1 } })).toBeUndefined();
  });
  test("independent of the yardstick's answers, the part of the simulated value alone is what it always was", () => {
    fc.assert(
      fc.property(fc.double({ min: -3, max: 3, noNaN: true }), fc.double({ min: 0.1, max: 3, noNaN: true }), (a, d) => {
        const found = sharedInputs([v, rho], [], { value: 5, answers: { v: a } }, { value: 4, answers: { v: d } });
        expect(found?.alone).toBeCloseTo(Math.abs(5 * a * 0.02), 12);
        expect(found?.uncertainty).toBeCloseTo(Math.abs(5 * a - 4 * d) * 0.02, 12);
      }),
    );
  });
  test("covers the difference of two formulas in their inputs as promised, where inputs are drawn at random", () => {
    const random = randomFrom(11);
    const S = (x: number, r: number) => 3 * x ** 1.5 * r;
    const D = (x: number, r: number) => (2.4 * x ** 2) / r ** 0.5;
    const found = sharedInputs([v, rho], [], { value: S(2, 1.2), answers: { v: 1.5, rho: 1 } }, { value: D(2, 1.2), answers: { v: 2, rho: -0.5 } });
    const nominal = S(2, 1.2) - D(2, 1.2);
    let inside = 0;
    const normal = normalsOf(random);
    for (let k = 0; k < 2000; k++) {
      const [x, r] = [2 + 0.02 * normal(), 1.2 + 0.006 * normal()];
      if (Math.abs(S(x, r) - D(x, r) - nominal) <= (found?.uncertainty ?? 0)) inside++;
    }
    // Twice the standard deviation holds 95.4 %.
    expect(inside / 2000).toBeGreaterThan(0.94);
    expect(inside / 2000).toBeLessThan(0.968);
  });
});
