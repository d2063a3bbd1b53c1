import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { normalsOf, randomFrom } from "../../numeric/random.ts";
import { areaMetric } from "./areaMetric.ts";
import { compareValue } from "./compareValue.ts";
import { compareProfile } from "./comparison.ts";
import { frontOf, frontShift } from "./front.ts";
import { manyPoints } from "./manyPoints.ts";

const normalFrom = (seed: number) => {
  const next = randomFrom(seed);
  return normalsOf(next);
};
const grid = (n: number, f: (x: number) => number) => {
  const xs = Array.from({ length: n + 1 }, (_, i) => i / n);
  return { xs, ys: xs.map(f) };
};
const step = (at: number) => (x: number) => 1 / (1 + Math.exp(-(x - at) / 0.01));

describe("steep fronts", () => {
  test("a smooth step is placed between the points, whatever grid it lies on", () => {
    for (const n of [80, 133, 200]) expect(Math.abs((frontOf(grid(n, step(0.4321)))?.at ?? 0) - 0.4321)).toBeLessThan(0.15 / n);
  });
  test("the shift of one step against another is told with its sign, and moving it leaves little", () => {
    const found = frontShift(grid(300, step(0.45)), grid(150, step(0.42)));
    expect(found?.shift).toBeCloseTo(0.03, 3);
    expect(found?.before).toBeGreaterThan(0.1);
    expect(found?.after).toBeLessThan(0.02);
  });
  test("no front where a curve is nowhere steep, is flat, or runs the other way", () => {
    expect(
      frontShift(
        grid(50, (x) => x),
        grid(50, (x) => x * x),
      ),
    ).toBeUndefined();
    expect(frontOf(grid(10, () => 3))).toBeUndefined();
    expect(
      frontShift(
        grid(200, step(0.4)),
        grid(200, (x) => 1 - step(0.4)(x)),
      ),
    ).toBeUndefined();
    expect(frontOf({ xs: [1], ys: [2] })).toBeUndefined();
  });
});

describe("many points", () => {
  test("without a shared part it is the sum of squares; a shared part counts once", () => {
    const plain = manyPoints([1, -2, 3].map((difference) => ({ difference, own: 2, shared: 0 })));
    expect(plain).toMatchObject({ chiSquare: 14 / 4, points: 3, expected: 3 + Math.sqrt(6), within: 3, verdict: "within-noise" });
    // One offset of every point, explained by what they share: V = I + 100 J, E = 5 (1, 1): 50 / (1 + 200).
    expect(manyPoints([5, 5].map((difference) => ({ difference, own: 1, shared: 10 })))?.chiSquare).toBeCloseTo(50 / 201, 12);
    expect(manyPoints([5, -5].map((difference) => ({ difference, own: 1, shared: 10 })))?.chiSquare).toBeCloseTo(50, 12);
  });
  test("the inverse is that of the whole covariance, on random points", () => {
    const one = fc.record({
      difference: fc.double({ min: -5, max: 5, noNaN: true }),
      own: fc.double({ min: 0.1, max: 3, noNaN: true }),
      shared: fc.double({ min: -2, max: 2, noNaN: true }),
    });
    fc.assert(
      fc.property(fc.tuple(one, one), ([p, q]) => {
        const [a, b, c] = [p.own ** 2 + p.shared ** 2, p.shared * q.shared, q.own ** 2 + q.shared ** 2];
        const det = a * c - b * b;
        const direct = (c * p.difference ** 2 - 2 * b * p.difference * q.difference + a * q.difference ** 2) / det;
        expect(manyPoints([p, q])?.chiSquare).toBeCloseTo(direct, 6);
      }),
      { numRuns: 200, seed: 3 },
    );
  });
  test("noise of the stated size stays below the bound about as often as it should; a model error does not", () => {
    let [below, caught] = [0, 0];
    for (let seed = 1; seed <= 400; seed++) {
      const normal = normalFrom(seed);
      const offset = 0.8 * normal();
      const noise = Array.from({ length: 30 }, () => ({ difference: offset + 0.5 * normal(), own: 0.5, shared: 0.8 }));
      if (manyPoints(noise)?.verdict === "within-noise") below++;
      if (manyPoints(noise.map((p, i) => ({ ...p, difference: p.difference + Math.sin(i) })))?.verdict === "beyond-noise") caught++;
    }
    // Chi-square of 30 degrees lies below 30 + sqrt(60) with a probability of 0.848.
    expect(Math.abs(below / 400 - 0.848)).toBeLessThan(0.05);
    expect(caught / 400).toBeGreaterThan(0.98);
  });
  test("nothing is said where a point has no uncertainty, or there is none", () => {
    expect(manyPoints([])).toBeUndefined();
    expect(manyPoints([{ difference: 0.1, own: 0, shared: 1 }])).toBeUndefined();
  });
});

test("the interval E ± 2 u_val holds the model's error in 93 to 97 of a hundred seeded comparisons", () => {
  let held = 0;
  for (let seed = 1; seed <= 1000; seed++) {
    const normal = normalFrom(seed);
    const u = { uNum: 0.3 + (seed % 7) / 10, uInput: (seed % 5) / 5, uReference: 0.2 + (seed % 3) / 2 };
    const modelError = 4 * normal();
    const c = compareValue({
      simulated: 50 + modelError + u.uNum * normal() + u.uInput * normal(),
      reference: 50 + u.uReference * normal(),
      scale: 50,
      ...u,
      open: [],
    });
    if (Math.abs(c.difference - modelError) <= 2 * (c.uVal ?? 0)) held++;
  }
  expect(held).toBeGreaterThanOrEqual(930);
  expect(held).toBeLessThanOrEqual(970);
});

describe("area between distributions", () => {
  test("a shift is its size, a spread counts both ways, the same is nothing", () => {
    expect(areaMetric([1, 2, 3], [4, 5, 6])).toEqual({ area: expect.closeTo(3, 12), above: 0, below: expect.closeTo(3, 12) });
    expect(areaMetric([0, 10], [4, 6])).toEqual({ area: 4, above: 2, below: 2 });
    expect(areaMetric([2, 1, 3], [1, 2, 3]).area).toBe(0);
  });
  test("of different counts: the area between the steps; against the mean distance of sorted pairs where counts agree", () => {
    expect(areaMetric([0], [0, 1]).area).toBeCloseTo(0.5, 12);
    const values = fc.array(fc.double({ min: -10, max: 10, noNaN: true }), { minLength: 5, maxLength: 5 });
    fc.assert(
      fc.property(values, values, (a, b) => {
        const [p, q] = [[...a].sort((x, y) => x - y), [...b].sort((x, y) => x - y)];
        const pairs = p.reduce((s, x, i) => s + Math.abs(x - q[i]), 0) / 5;
        const found = areaMetric(a, b);
        expect(found.area).toBeCloseTo(pairs, 9);
        expect(found.above).toBeCloseTo(areaMetric(b, a).below, 9);
      }),
      { numRuns: 100, seed: 5 },
    );
  });
  test("of nothing, or of what is no number, there is none", () => {
    expect(() => areaMetric([], [1])).toThrow("at least one value");
    expect(() => areaMetric([1], [Number.NaN])).toThrow("finite");
  });
});

describe("curves with uncertainties", () => {
  const xs = Array.from({ length: 41 }, (_, i) => i / 40);
  const profile = {
    key: "p",
    name: "p",
    abscissa: { name: "x", unit: "m", values: xs },
    value: { name: "v", unit: "m/s", values: xs.map((x) => 2 * x) },
  };
  const reference = { profileKey: "p", abscissa: [0.25, 0.5, 0.75], value: [0.5, 1.1, 1.5], uncertaintyNote: "" };
  const band = { at: [0, 1], band: [0.08, 0.08] };
  const made = (r: object, b: typeof band | undefined = band) => {
    const found = compareProfile(profile, { ...reference, ...r }, b);
    if ("refused" in found) throw new Error(found.refused);
    return found;
  };
  test("a point's uncertainty is its own, the shared one, and that of its place times the slope; half the band beside it", () => {
    const [p] = made({ standardUncertainty: 0.02, systematicUncertainty: 0.01, abscissaUncertainty: 0.03 }).points;
    expect(p.uReference).toBeCloseTo(Math.hypot(0.02, 0.01, 0.06), 9);
    expect(p.uNum).toBeCloseTo(0.04, 12);
    expect(p.uVal).toBeCloseTo(Math.hypot(p.uReference ?? 0, 0.04), 12);
  });
  test("all together: only where every point that counts has both", () => {
    expect(made({ standardUncertainty: [0.02, 0.02, 0.02] }).many).toMatchObject({ points: 3, within: 2 });
    expect(made({ standardUncertainty: 0.02 }).many?.chiSquare).toBeCloseTo(0.01 / (0.02 ** 2 + 0.04 ** 2), 9);
    expect(made({}).many).toBeUndefined();
    const without = compareProfile(profile, { ...reference, standardUncertainty: 0.02 });
    expect("refused" in without ? "" : without.many).toBeUndefined();
    expect(made({ standardUncertainty: 0.02, doubtful: [{ index: 1, reason: "slipped" }] }).many?.points).toBe(2);
  });
  test("norms per length integrate the difference piecewise linear, also where it changes sign", () => {
    // Differences 0, -0.1, 0 over half a unit: two triangles.
    expect(made({}).perLength?.l1).toBeCloseTo(0.05, 12);
    expect(made({}).perLength?.l2).toBeCloseTo(Math.sqrt(0.01 / 3), 12);
    expect(made({ value: [0.6, 0.9, 1.5] }).perLength?.l1).toBeCloseTo((0.05 + 0.05) / 2, 12);
    expect(made({ abscissa: [0.5], value: [1] }).perLength).toBeUndefined();
  });
  test("the window of validity closes points off and says how many; what was done to the source is passed on", () => {
    const found = made({ window: [0.4, 0.8], changes: ["Divided by the speed of the wind box."] });
    expect(found.points.map((p) => p.at)).toEqual([0.5, 0.75]);
    expect(found.notes[0]).toBe("Divided by the speed of the wind box.");
    expect(found.notes[1]).toMatch(/^1 points lie outside the yardstick's window/);
  });
  test("a front shows in the comparison, and many thousand points are no trouble", () => {
    const fine = Array.from({ length: 150_001 }, (_, i) => i / 150_000);
    const long = { ...profile, abscissa: { ...profile.abscissa, values: fine }, value: { ...profile.value, values: fine.map(step(0.5)) } };
    const found = compareProfile(long, { profileKey: "p", abscissa: fine, value: fine.map(step(0.48)), uncertaintyNote: "" });
    expect("refused" in found ? 0 : found.front?.shift).toBeCloseTo(0.02, 4);
  });
});
