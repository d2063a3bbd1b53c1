import { describe, expect, test } from "vitest";
import { normalsOf, randomFrom } from "../../numeric/random.ts";
import { bestPoint } from "./bestPoint.ts";
import { compareProfile } from "./comparison.ts";
import { timeLag } from "./timeLag.ts";

const normalFrom = (seed: number) => {
  const next = randomFrom(seed);
  return normalsOf(next);
};

describe("best point of an operating curve", () => {
  const xs = [0.6, 0.8, 1, 1.2, 1.4];
  const hump = (x: number) => 0.7 - 0.5 * (x - 1.05) ** 2;
  test("of a parabola it is found exactly, wherever the points lie", () => {
    expect(bestPoint({ xs, ys: xs.map(hump) })).toMatchObject({ at: expect.closeTo(1.05, 10), value: expect.closeTo(0.7, 10), points: 5 });
    const uneven = [0.2, 0.9, 1, 1.3, 2];
    expect(bestPoint({ xs: uneven, ys: uneven.map(hump) })?.at).toBeCloseTo(1.05, 10);
  });
  test("none where the curve still rises or falls at its end, is flat, or has two points", () => {
    expect(bestPoint({ xs, ys: xs })).toBeUndefined();
    expect(bestPoint({ xs, ys: xs.map((x) => -x) })).toBeUndefined();
    expect(bestPoint({ xs, ys: [1, 1, 1, 1, 1] })).toBeUndefined();
    expect(bestPoint({ xs: [0, 1], ys: [0, 1] })).toBeUndefined();
  });
  test("its stated uncertainty holds about 95 in a hundred noisy curves, place and height", () => {
    let [inAt, inValue, found] = [0, 0, 0];
    for (let seed = 1; seed <= 600; seed++) {
      const normal = normalFrom(seed);
      const us = xs.map(() => 0.004);
      const best = bestPoint({ xs, ys: xs.map((x) => hump(x) + 0.004 * normal()), us });
      if (!best) continue;
      found++;
      if (Math.abs(best.at - 1.05) <= 2 * best.uAt) inAt++;
      if (Math.abs(best.value - 0.7) <= 2 * best.uValue) inValue++;
    }
    expect(found).toBeGreaterThan(590);
    expect(inAt / found).toBeGreaterThan(0.93);
    expect(inValue / found).toBeGreaterThan(0.93);
    expect(inAt / found).toBeLessThan(0.999);
  });
  test("a hump that is no parabola is told less surely: three points say something else than five", () => {
    const skew = (x: number) => 0.7 - 0.5 * (x - 1) ** 2 - 0.9 * (x - 1) ** 3;
    const best = bestPoint({ xs, ys: xs.map(skew) });
    expect(Math.abs((best?.at ?? 0) - 1)).toBeLessThan(2 * (best?.uAt ?? 0));
    expect(best?.uAt).toBeGreaterThan(0.005);
  });
});

describe("histories", () => {
  const at = Array.from({ length: 400 }, (_, i) => i / 40);
  const wave = (t: number) => Math.sin(1.3 * t) + 0.4 * Math.sin(3.1 * t);
  const curve = (f: (t: number) => number, times = at) => ({ xs: times, ys: times.map(f) });
  test("a lag is found with its sign, to less than a step of what is tried", () => {
    for (const lag of [0.37, -0.61]) {
      const found = timeLag(
        curve((t) => wave(t - lag)),
        curve(
          wave,
          at.filter((t) => t > 1 && t < 9),
        ),
      );
      expect(found?.lag).toBeCloseTo(lag, 2);
      expect(found?.after).toBeLessThan(0.02 * (found?.before ?? 0));
    }
  });
  test("no lag where the difference is of another kind, or the common window is too short", () => {
    expect(
      timeLag(
        curve((t) => 1.3 * wave(t)),
        curve(wave),
      ),
    ).toBeUndefined();
    expect(timeLag(curve(wave), { xs: [9.5, 9.6, 9.7], ys: [0, 0, 0] })).toBeUndefined();
    expect(timeLag(curve(wave), { xs: [20, 21], ys: [0, 0] })).toBeUndefined();
  });
  const profile = (unit: string, f: (t: number) => number) => ({
    key: "h",
    name: "h",
    abscissa: { name: "t", unit, values: at },
    value: { name: "v", unit: "m/s", values: at.map(f) },
  });
  test("curves over time are told their lag and how far their values lie apart; over a length they are not", () => {
    const reference = { profileKey: "h", abscissa: at, value: at.map(wave), uncertaintyNote: "" };
    const late = compareProfile(
      profile("ms", (t) => wave(t - 0.4) + 0.05),
      reference,
    );
    if ("refused" in late) throw new Error(late.refused);
    expect(late.lag?.lag).toBeCloseTo(0.4, 1);
    expect(late.area?.area).toBeGreaterThan(0.03);
    expect(late.area?.area).toBeLessThan(0.12);
    const along = compareProfile(
      profile("m", (t) => wave(t - 0.4)),
      reference,
    );
    expect("refused" in along ? 0 : [along.lag, along.area]).toEqual([undefined, undefined]);
  });
});

test("operating curves are told both best points, each with what its points state", () => {
  const flows = [0.6, 0.8, 1, 1.2, 1.4];
  const profile = {
    key: "e",
    name: "efficiency",
    abscissa: { name: "flow", unit: "m^3/s", values: flows },
    value: { name: "efficiency", unit: "1", values: flows.map((q) => 0.62 - 0.4 * (q - 0.98) ** 2) },
  };
  const found = compareProfile(
    profile,
    { profileKey: "e", abscissa: flows, value: flows.map((q) => 0.6 - 0.4 * (q - 1.06) ** 2), standardUncertainty: 0.005, uncertaintyNote: "" },
    { at: [0.6, 1.4], band: [0.01, 0.01] },
  );
  if ("refused" in found) throw new Error(found.refused);
  expect(found.best?.simulated.at).toBeCloseTo(0.98, 9);
  expect(found.best?.reference.at).toBeCloseTo(1.06, 9);
  expect(found.best?.reference.uAt).toBeGreaterThan(0.005);
  expect(found.best?.simulated.uValue).toBeGreaterThan(0.001);
});
