import { describe, expect, test } from "vitest";
import { normalsOf, randomFrom } from "../../numeric/random.ts";
import { ownUnit } from "../../records/take.ts";
import { statistic } from "./statistic.ts";

const normal = (seed: number) => {
  const random = randomFrom(seed);
  return normalsOf(random);
};
const shedding = (seed: number, noise: number) => {
  const g = normal(seed);
  return Float64Array.from({ length: 4000 }, (_, i) => 3 + 0.4 * Math.sin(2 * Math.PI * 1.7 * 0.01 * i + seed) + noise * g());
};
const scale = { lengthM: 0.05, velocityMS: 2 };

describe("what of a record stands for the value", () => {
  test("mean, root mean square, amplitude, frequency and Strouhal number of a wave in noise, each within its uncertainty", () => {
    const y = shedding(2, 0.05);
    const within = (take: Parameters<typeof statistic>[2], truth: number, least: number) => {
      const s = statistic(y, 0.01, take, scale);
      expect(Math.abs((s?.value ?? Number.NaN) - truth), take).toBeLessThanOrEqual((s?.expanded ?? 0) + least);
      expect(s?.expanded, take).toBeLessThan(0.1 * truth);
    };
    within("mean", 3, 0);
    within("rms", Math.hypot(0.4 / Math.SQRT2, 0.05), 1e-3);
    within("amplitude", 0.4, 2e-3);
    within("frequency", 1.7, 0);
    within("strouhal", (1.7 * 0.05) / 2, 0);
  });
  test("the frequency's interval covers the truth in nine of ten noisy records", () => {
    let covered = 0;
    for (let s = 1; s <= 60; s++) {
      const f = statistic(shedding(s, 0.4), 0.01, "frequency", scale);
      if (f && Math.abs(f.value - 1.7) <= f.expanded) covered++;
    }
    expect(covered).toBeGreaterThanOrEqual(54);
  });
  test("noise alone has no frequency and no amplitude", () => {
    const g = normal(5);
    const y = Float64Array.from({ length: 2000 }, g);
    expect(statistic(y, 1, "frequency", scale)).toBeUndefined();
    expect(statistic(y, 1, "amplitude", scale)).toBeUndefined();
  });
  test("frequencies are in a unit of their own", () =>
    expect(["mean", "rms", "frequency", "strouhal"].map((t) => ownUnit(t as "mean"))).toEqual([true, true, false, false]));
});
