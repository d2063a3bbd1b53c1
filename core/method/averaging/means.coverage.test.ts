import { describe, expect, test } from "vitest";
import { meanUncertainty } from "./meanUncertainty.ts";
import { averageRecord } from "./record.ts";
import { autoregressive, correlated } from "./seriesForTests.ts";

const index = (n: number) => Float64Array.from({ length: n }, (_, i) => i);
const iterations = { abscissa: "iterations" };

describe("what 95 in 100 means, counted over seeded series", () => {
  test.each([1, 2, 5, 10, 20, 50])("intervals of 95 in 100 cover the truth in 93 to 97 of 1,000 series, correlation time %d", (tau) => {
    let inside = 0;
    for (let s = 0; s < 1000; s++) {
      const m = meanUncertainty(correlated(2000, tau, 17 * s + 1000 * tau));
      if (Math.abs(m.mean) <= m.expanded) inside++;
    }
    expect(inside / 1000).toBeGreaterThanOrEqual(0.93);
    expect(inside / 1000).toBeLessThanOrEqual(0.97);
  });
  test.each([200, 1000])("so do those of alternating, white, nearly periodic and slow series of %d samples", (n) => {
    const series: readonly (readonly [string, readonly number[]])[] = [
      ...[-0.9, -0.6, -0.3, 0, 0.6, 0.9].map((phi) => [`AR(1) ${phi}`, [phi]] as const),
      ...[2.5, 3, 4, 8].map((period) => [`AR(2) of period ${period}`, [1.8 * Math.cos((2 * Math.PI) / period), -0.81]] as const),
    ];
    for (const [name, coefficients] of series) {
      let inside = 0;
      for (let s = 0; s < 400; s++) {
        const m = meanUncertainty(autoregressive(n, coefficients, 31 * s + n));
        if (Math.abs(m.mean) <= m.expanded) inside++;
      }
      // 400 series scatter by 2.2 in 100.
      expect(inside / 400, name).toBeGreaterThanOrEqual(0.92);
      expect(inside / 400, name).toBeLessThanOrEqual(0.98);
    }
  });
  test("the correlation time comes out near the truth", () => {
    for (const [tau, length] of [
      [2, 8000],
      [10, 8000],
      [40, 8000],
      [60, 40_000],
    ]) {
      let mean = 0;
      for (let s = 0; s < 60; s++) mean += meanUncertainty(correlated(length, tau, s + 5)).correlationSamples / 60;
      expect(Math.abs(mean / tau - 1)).toBeLessThan(0.08);
    }
  });
  test("a record twice as long is known better by the root of two", () => {
    let ratio = 0;
    for (let s = 0; s < 80; s++)
      ratio += meanUncertainty(correlated(8000, 8, s)).standard / meanUncertainty(correlated(16000, 8, s + 500)).standard / 80;
    expect(Math.abs(ratio / Math.SQRT2 - 1)).toBeLessThan(0.05);
  });
  test("a start-up too weak and slow to be cut outright does not pass for the mean", () => {
    let [covered, steady] = [0, 0];
    for (let s = 0; s < 100; s++) {
      const y = correlated(1000, 1, s);
      const slow = averageRecord(
        index(1000),
        y.map((v, i) => v + Math.exp(-i / 200)),
        iterations,
      );
      if (Math.abs(slow.mean) <= slow.expanded) covered++;
      const r = averageRecord(index(1000), y, iterations);
      if (Math.abs(r.mean) <= r.expanded) steady++;
    }
    expect(covered).toBeGreaterThanOrEqual(90);
    expect(steady).toBeGreaterThanOrEqual(90);
  });
});
