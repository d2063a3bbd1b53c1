import { describe, expect, test } from "vitest";
import { domainUncertainty } from "./alongDomain.ts";

describe("uncertainty for the extent of the domain", () => {
  test("three times the last change, for either of the two largest domains", () => {
    expect(domainUncertainty([10, 10.1], 0)).toBeCloseTo(0.3, 12);
    expect(domainUncertainty([10, 10.1], 1)).toBeCloseTo(0.3, 12);
  });
  test("a smaller one adds what it differs from the largest", () => expect(domainUncertainty([10, 10.1, 9.5], 2)).toBeCloseTo(0.8, 12));
  test("fewer than two, or a place that is none, are refused", () => {
    expect(() => domainUncertainty([1], 0)).toThrow("Two domains are the fewest");
    expect(() => domainUncertainty([1, 2], 2)).toThrow("no domain number 3");
  });
  test.each([1, 2, 3])("a far field that fades as 1/L^%i lies within it from a ratio of one and a half on", (order) => {
    for (const ratio of [1.5, 2, 3]) {
      const value = (k: number) => 5 + 2 * ratio ** (order * k);
      const values = [value(0), value(1), value(2)];
      for (const own of [0, 1, 2]) expect(domainUncertainty(values, own)).toBeGreaterThanOrEqual(Math.abs(values[own] - 5) - 1e-9);
    }
  });
});
