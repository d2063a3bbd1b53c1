import { describe, expect, test } from "vitest";
import { normalsOf, randomFrom } from "../../numeric/random.ts";
import { alternatingFit, complexFit, constantFit, lineFit, realFit, recurrence, stretchOf, twoRealFit } from "./decayFit.ts";
import { iterationError, recentError } from "./iterationError.ts";

const record = (n: number, f: (i: number) => number) => Array.from({ length: n }, (_, i) => f(i));
const stretch = (n: number, f: (i: number) => number, block = 1, step = 0) => stretchOf(record(n, f), block, Math.floor(n / block), step);
const sound = <T>(x: T | undefined): T => {
  if (x === undefined) throw new Error("no fit");
  return x;
};

describe("stretches", () => {
  test("means of equal blocks that end with the record, and what printing alone makes of them", () => {
    const s = stretchOf([100, 1, 3, 5, 7, 9, 11], 2, 3, 0.1);
    expect([...s.z]).toEqual([2, 6, 10]);
    expect(s.floor).toBeCloseTo(0.1 / Math.sqrt(12) / Math.SQRT2, 15);
    expect(stretchOf([1, 2], 1, 2, 0).floor).toBe(4 * Number.EPSILON * 2);
    expect(stretchOf([-8, 2], 1, 2, 0).floor).toBe(4 * Number.EPSILON * 8);
  });
});

describe("models give back what a record was made with", () => {
  test("a constant: nothing left, known as the mean is", () => {
    const f = constantFit(stretch(30, (i) => 5 + (i % 2 ? 1 : -1)));
    expect(f).toMatchObject({ model: "constant", left: 0, factor: 0, parameters: 1 });
    expect(f.variance).toBeCloseTo(30 / 29, 12);
    expect(f.standard).toBeCloseTo(Math.sqrt(1 / 29), 12);
  });
  test("a straight line: its slope an entry, also by blocks", () => {
    for (const block of [1, 4]) {
      const f = sound(lineFit(stretch(80, (i) => 3 + 0.25 * i, block)));
      expect(f.left).toBeCloseTo(0.25, 10);
      expect(f).toMatchObject({ model: "line", factor: 1, parameters: 2, adequate: true });
    }
  });
  test.each([0.5, 0.9, 0.99, 1.02])("one real factor of %d: what is left at the last entry, by entries and by blocks", (factor) => {
    for (const block of [1, 5]) {
      const f = sound(realFit(stretch(60, (i) => 7 - 2 * factor ** i, block)));
      expect(f.factor / factor).toBeCloseTo(1, block === 1 ? 5 : 3);
      if (block === 1 || factor > 0.8) expect(f.left / (-2 * factor ** 59)).toBeCloseTo(1, 2);
    }
  });
  test("two real factors: the sum of what both leave, the factor of the slower", () => {
    const f = sound(twoRealFit(stretch(80, (i) => 1 + 0.3 * 0.95 ** i - 0.8 * 0.7 ** i)));
    expect(f.factor).toBeCloseTo(0.95, 3);
    expect(f.left / (0.3 * 0.95 ** 79)).toBeCloseTo(1, 2);
    expect(f.parameters).toBe(5);
    const turned = sound(twoRealFit(stretch(80, (i) => 1 - 0.8 * 0.7 ** i + 0.3 * 0.95 ** i)));
    expect(turned.factor).toBeCloseTo(f.factor, 6);
  });
  test("an alternating decay, signed by the last entry; blocks cannot see it", () => {
    for (const n of [60, 61]) {
      const f = sound(alternatingFit(stretch(n, (i) => 2 + (-0.9) ** i)));
      expect(f.factor).toBeCloseTo(0.9, 5);
      expect(f.left / (-0.9) ** (n - 1)).toBeCloseTo(1, 4);
    }
    expect(alternatingFit(stretch(60, (i) => 2 + (-0.9) ** i, 2))).toBeUndefined();
  });
  test.each([
    [0.96, 0.6],
    [0.4, 0.3],
    [0.99, 0.05],
    [0.7, 2.5],
  ])("a recurrence of two terms knows radius %d and angle %d, and that real roots are no pair", (radius, angle) => {
    const made = recurrence(Float64Array.from({ length: 30 }, (_, i) => 2 + radius ** i * Math.cos(angle * i + 0.4)));
    expect(made?.radius).toBeCloseTo(radius, 6);
    expect(made?.angle).toBeCloseTo(angle, 4);
    expect(recurrence(Float64Array.from({ length: 30 }, (_, i) => 2 + 0.9 ** i - 3 * (0.5 * radius) ** i))).toBeUndefined();
  });
  test("a complex pair: the amplitude of its envelope at the end, whatever its phase", () => {
    for (const phase of [0, 1, 2.5]) {
      const f = sound(complexFit(stretch(90, (i) => 4 + 0.96 ** i * Math.cos(0.6 * i + phase))));
      expect(f.factor).toBeCloseTo(0.96, 4);
      expect(f.left / 0.96 ** 89).toBeCloseTo(1, 3);
    }
    const slow = sound(complexFit(stretch(480, (i) => 4 + 0.995 ** i * Math.cos(0.1 * i), 4)));
    expect(slow.factor).toBeCloseTo(0.995, 3);
  });
  test("too few points for a model are no fit", () => {
    expect(lineFit(stretch(4, (i) => i))).toBeUndefined();
    expect(lineFit(stretch(5, (i) => i))).toBeDefined();
    expect(twoRealFit(stretch(9, (i) => 0.5 ** i))).toBeUndefined();
    expect(complexFit(stretch(9, (i) => 0.9 ** i * Math.cos(i)))).toBeUndefined();
  });
  test("what a model leaves must have no pattern, or be what printing makes", () => {
    const random = randomFrom(3);
    expect(constantFit(stretch(60, () => 5 + random())).adequate).toBe(true);
    expect(constantFit(stretch(60, (i) => 5 + i / 60)).adequate).toBe(false);
    expect(constantFit(stretch(60, (i) => 5 + Math.sin(i / 8))).adequate).toBe(false);
    expect(constantFit(stretch(20, () => 5 + random())).adequate).toBe(false);
    expect(constantFit(stretch(20, (i) => 5 + 0.3 * Math.sin(i), 1, 1)).adequate).toBe(true);
  });
  test("noise widens what is known of the amplitude, by about its own size", () => {
    const random = randomFrom(9);
    const noisy = sound(realFit(stretch(100, (i) => 2 + 0.95 ** i + 0.01 * (random() - 0.5))));
    const clean = sound(realFit(stretch(100, (i) => 2 + 0.95 ** i)));
    expect(noisy.standard).toBeGreaterThan(3e-5);
    expect(noisy.standard).toBeLessThan(1e-2);
    expect(clean.standard).toBeLessThan(1e-8);
    expect(Math.abs(noisy.left - 0.95 ** 99)).toBeLessThan(4 * noisy.standard);
  });
});

describe("what a record's end is called", () => {
  const kind = (values: number[]) => iterationError(values).kind;
  test("five values cannot be judged, six can", () => {
    expect(iterationError([1, 2, 3, 4, 5])).toMatchObject({ kind: "too-short", value: 5, error: Number.NaN });
    expect(iterationError([])).toMatchObject({ kind: "too-short", value: Number.NaN });
    expect(kind([1, 2, 3, 4, 5, 6])).not.toBe("too-short");
    expect(kind([1, 2, Number.NaN, 3, 4, 5])).toBe("too-short");
  });
  test("still to the last digits of a double, or to the last printed one", () => {
    expect(iterationError(record(30, () => 0))).toMatchObject({ kind: "still", error: 0 });
    expect(iterationError(record(30, (i) => 1 + (i % 2) * 2 * Number.EPSILON))).toMatchObject({
      kind: "still",
      error: expect.closeTo(64 * Number.EPSILON, 18),
    });
    // Only the later half is asked.
    expect(kind(record(30, (i) => (i < 15 ? 5 + 0.8 ** i : 5)))).toBe("still");
    expect(kind(record(30, (i) => (i < 16 ? 5 + 0.8 ** i : 5)))).not.toBe("still");
    expect(iterationError(record(30, () => 2.255))).toMatchObject({ kind: "still", error: expect.closeTo(0.0005, 12), low: 0 });
  });
  test("a repeated last row is one row only where rows change all the time", () => {
    const changing = record(30, (i) => 3 + 0.8 ** i);
    expect(iterationError([...changing, changing[29]])).toEqual(iterationError(changing));
    const slow = record(30, (i) => 3 + 0.8 ** Math.floor(i / 2));
    expect(iterationError(slow).value).toBe(slow[29]);
  });
  test("noise: half the range, at most the range", () => {
    const random = randomFrom(5);
    const e = iterationError(record(300, () => 5 + random()));
    expect(e.kind).toBe("noise");
    expect(e.low).toBe(0);
    expect(e.high).toBeCloseTo(2 * e.error, 12);
    expect(e.error).toBeGreaterThan(0.45);
    expect(e.error).toBeLessThanOrEqual(0.5);
  });
  test("signs: a value above its limit leaves a positive error, below a negative one", () => {
    const left = 0.9 ** 79;
    expect(iterationError(record(80, (i) => 3 + 0.9 ** i)).error / left).toBeCloseTo(1, 3);
    expect(iterationError(record(80, (i) => 3 - 0.9 ** i)).error / left).toBeCloseTo(-1, 3);
    const slow = iterationError(record(120, (i) => 3 + 0.99 ** i + 1e-4 * Math.sin(i * i)));
    expect(slow.low).toBeLessThanOrEqual(0.99 ** 119);
    expect(slow.high).toBeGreaterThanOrEqual(0.99 ** 119);
  });
  test("a decay too slow and too noisy to be sized is still moving, between bounds that hold what is left", () => {
    let [held, asked] = [0, 0];
    for (const pace of [0.8, 1, 1.5])
      for (let seed = 1; seed <= 24; seed++) {
        const random = randomFrom(seed);
        const noise = normalsOf(random);
        const e = iterationError(record(60, (i) => 5 + Math.exp(-i / (60 * pace)) + 0.03 * noise()));
        if (e.kind !== "moving" || e.factor === 1) continue;
        const left = Math.exp(-59 / (60 * pace));
        asked++;
        if ((e.low ?? Number.NaN) <= left && left <= (e.high ?? Number.NaN)) held++;
        expect(e.factor).toBeLessThan(1);
        expect(e.low).toBeGreaterThanOrEqual(0);
        expect(e.error).toBeGreaterThanOrEqual(e.low ?? Number.NaN);
        expect(e.error).toBeLessThanOrEqual(e.high ?? Number.NaN);
      }
    expect(asked).toBeGreaterThan(12);
    expect(held / asked).toBeGreaterThan(0.9);
  });
  test("the pace of the last changes: real, alternating, complex, growing, each with its error", () => {
    const pace = (f: (i: number) => number, n = 40) => recentError(record(n, f));
    expect(pace((i) => 3 + 0.7 ** i)).toMatchObject({ kind: "real", factor: expect.closeTo(0.7, 8), error: expect.closeTo(0.7 ** 39, 12) });
    expect(pace((i) => 3 - 0.7 ** i).error).toBeCloseTo(-(0.7 ** 39), 12);
    const turned = pace((i) => 3 + (-0.7) ** i);
    expect(turned.kind).toBe("alternating");
    expect(turned.error).toBeCloseTo((-0.7) ** 39, 12);
    expect(pace((i) => 3 + 1e-3 * 1.2 ** i).kind).toBe("growing");
    expect(pace((i) => 3 + 0.8 ** i * Math.cos(0.9 * i)).kind).toBe("complex");
    const drift = pace((i) => 3 + 0.01 * i, 60);
    expect(drift.kind).toBe("moving");
    expect(drift.error).toBeGreaterThan(0.19);
    const random = randomFrom(2);
    expect(pace(() => 3 + random(), 80).kind).toBe("noise");
  });
});
