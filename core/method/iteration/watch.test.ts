import { describe, expect, test } from "vitest";
import { toleranceStudy } from "./iterationError.ts";
import { overStart, startingLevel } from "./overStart.ts";
import { lastDigit, printedStep, repeatedDigit } from "./printedStep.ts";
import { assessResidual, median, type ResidualOptions, theilSen } from "./residuals.ts";
import { earlyWarnings, iterationsLeft, type RunWatch, stands, type WatchedQuantity } from "./watch.ts";

const record = (n: number, f: (i: number) => number) => Array.from({ length: n }, (_, i) => f(i));

describe("warnings while a run is under way", () => {
  const watch = (change: Partial<RunWatch>): RunWatch => ({
    residuals: { mass: record(30, (i) => 0.8 ** i) },
    dropTarget: 6,
    quantities: [],
    transient: false,
    ...change,
  });
  const rules = (change: Partial<RunWatch>) => earlyWarnings(watch(change)).map((w) => w.rule);
  /** a residual that grows by a factor over the last eight iterations */
  const grown = (factor: number, level = 1e-3, n = 20) => ({ mass: record(n, (i) => level * factor ** Math.max(0, (i - (n - 9)) / 8)) });
  test("a residual ten times what it was eight iterations ago diverges; just below, or among the last digits, not", () => {
    expect(rules({ residuals: grown(10.1) })).toEqual(["diverging"]);
    expect(rules({ residuals: grown(9.9) })).toEqual([]);
    expect(rules({ residuals: grown(10.1, 9e-10) })).toEqual([]);
    expect(rules({ residuals: grown(10.1, 1.1e-9) })).toEqual(["diverging"]);
    expect(rules({ residuals: grown(1e3, 1e-3, 9) })).toEqual(["diverging"]);
    expect(rules({ residuals: { mass: record(8, (i) => 10 ** i) } })).toEqual([]);
    expect(rules({ residuals: grown(1e3), transient: true })).toEqual([]);
    expect(earlyWarnings(watch({ residuals: { u: record(30, (i) => 0.8 ** i), ...grown(100) } }))[0].sentence).toBe(
      "Diverging: the residual of mass has grown 100-fold in 8 iterations.",
    );
  });
  const q = (values: readonly number[], reference?: number, limit = 0.01): WatchedQuantity => ({
    name: "drag",
    limit,
    values,
    ...(reference === undefined ? {} : { reference }),
  });
  test("a quantity more than twice its yardstick away is outside the sensible range, from the twelfth iteration on", () => {
    const at = (value: number, n = 12) => record(n, (i) => value + 0.5 * (i % 2 ? 1 : -1) * (n - 1 - i));
    const outside = (values: readonly number[], reference: number | undefined, change: Partial<RunWatch> = {}) =>
      rules({ quantities: [q(values, reference)], ...change }).includes("outside-range");
    expect(outside(at(30.1), 10)).toBe(true);
    expect(outside(at(29.9), 10)).toBe(false);
    expect(outside(at(-10.1), 10)).toBe(true);
    expect(outside(at(-9.9), 10)).toBe(false);
    expect(outside(at(30.1, 11), 10)).toBe(false);
    expect(outside(at(30.1), undefined)).toBe(false);
    expect(outside(at(30.1), 10, { transient: true })).toBe(false);
    expect(earlyWarnings(watch({ quantities: [q(at(30.1), 10)] }))[0].sentence).toBe(
      "Outside the sensible range: drag is 30.1, its yardstick says 10.0.",
    );
  });
  test("settled already: every quantity stands to a hundredth of its limit while residuals still fall", () => {
    const still = record(40, (i) => 10 + 0.5 ** i);
    const wild = record(40, (i) => 10 + Math.sin(i));
    expect(rules({ quantities: [q(still), q(still)] })).toEqual(["settled-already"]);
    expect(rules({ quantities: [q(still), q(wild)] })).toEqual([]);
    expect(rules({ quantities: [q(still)], transient: true })).toEqual([]);
    expect(rules({ quantities: [] })).toEqual([]);
    expect(rules({ quantities: [q(still)], residuals: { mass: record(30, () => 1e-6) } })).toEqual([]);
    expect(rules({ quantities: [q(still)], residuals: { mass: record(30, () => 1e-6), u: record(30, () => 1.1e-6) } })).toEqual(["settled-already"]);
  });
  test("backflow: more than two per cent of what passes the outlet", () => {
    expect(rules({ backflow: 0.0199 })).toEqual([]);
    expect(earlyWarnings(watch({ backflow: 0.0301 }))[0].sentence).toBe(
      "Backflow: 3.0 % of what passes the outlet comes back in. Lengthen the domain.",
    );
    expect(rules({ backflow: 0.0201, transient: true })).toEqual(["backflow"]);
  });
  test("standing still: what is left below a share of the limit, counted in the yardstick where there is one", () => {
    const left = 1e-3;
    const values = record(40, (i) => 10 + left * 0.5 ** (i - 39));
    expect(stands([q(values, undefined, 0.01)], 0.0101)).toBe(true);
    expect(stands([q(values, undefined, 0.01)], 0.0099)).toBe(false);
    expect(stands([q(values, 20, 0.01)], 0.0051)).toBe(true);
    expect(stands([q(values, -20, 0.01)], 0.0049)).toBe(false);
    expect(stands([q(values.slice(-11))], 1)).toBe(false);
    expect(stands([q(values.slice(-12))], 1)).toBe(true);
    expect(stands([q(record(40, () => 0))], 1)).toBe(false);
  });
});

describe("how long it takes", () => {
  test("by the slowest residual, from its last twelve entries", () => {
    const falling = record(40, (i) => 10 ** (-i / 10));
    expect(iterationsLeft({ mass: falling }, 6)).toBe(21);
    expect(iterationsLeft({ mass: falling, u: record(40, (i) => 10 ** (-i / 20)) }, 6)).toBe(81);
    expect(iterationsLeft({ mass: [...record(60, () => 1), ...falling] }, 6)).toBe(21);
    expect(iterationsLeft({ mass: record(40, () => 1e-7) }, 6)).toBe(0);
    expect(iterationsLeft({}, 6)).toBe(0);
  });
  test("nobody knows while one does not fall, or is too short", () => {
    expect(iterationsLeft({ mass: record(40, () => 1e-3) }, 6)).toBeUndefined();
    expect(iterationsLeft({ mass: record(40, (i) => 1e-3 * 1.1 ** i) }, 6)).toBeUndefined();
    expect(iterationsLeft({ mass: record(5, (i) => 0.1 ** i) }, 9)).toBeUndefined();
    expect(iterationsLeft({ mass: record(6, (i) => 0.1 ** i) }, 9)).toBe(4);
  });
});

describe("over the start", () => {
  test("the largest of the first five sound entries, else as it was told", () => {
    expect(startingLevel([1, 3, Number.NaN, -9, 2, 100])).toBe(3);
    expect(startingLevel([Number.POSITIVE_INFINITY, 2])).toBe(2);
    expect(startingLevel([0, 0])).toBe(1e-300);
    expect(overStart({ residuals: { a: [4, 2], b: [4, 2] }, starts: { b: 8 } })).toEqual({ a: [1, 0.5], b: [0.5, 0.25] });
    expect(overStart({ residuals: { a: [4, 2] } })).toEqual({ a: [1, 0.5] });
  });
});

describe("digits that were printed", () => {
  test("the unit of the last of them", () => {
    expect(lastDigit([1.25, 1.5, 3])).toBeCloseTo(0.01, 15);
    expect(lastDigit([1200, 100])).toBeCloseTo(100, 10);
    expect(lastDigit([0, 0])).toBe(0);
    expect(lastDigit([-0.00125])).toBeCloseTo(1e-5, 18);
    expect(lastDigit([1.234567891])).toBeCloseTo(1e-9, 18);
    expect(lastDigit([1.2345678912])).toBeCloseTo(1e-10, 18);
    // Twelve digits are those of a double.
    expect(lastDigit([1.23456789123])).toBe(0);
    expect(lastDigit([1.5, 1 / 3])).toBe(0);
  });
  test("a value that never changes needs four digits to tell its step", () => {
    expect(repeatedDigit(2)).toBe(0);
    expect(repeatedDigit(2.25)).toBe(0);
    expect(repeatedDigit(2.255)).toBeCloseTo(0.001, 15);
  });
  test("where most rows only repeat the one before, the median jump counts", () => {
    const steps = record(40, (i) => 1 + 0.5 * Math.floor(i / 4));
    expect(printedStep(steps)).toBe(0.5);
    expect(printedStep(record(40, (i) => 1 + 0.5 * i))).toBeCloseTo(0.1, 15);
    expect(printedStep(record(5, (i) => (i < 3 ? 7 : 7.5)))).toBe(0.5);
    expect(printedStep(record(5, () => 7.5))).toBeCloseTo(0.1, 15);
    expect(printedStep([1, 1, 4, 4, 5])).toBe(3);
    // Three of four rows change: the digits count again.
    expect(printedStep([1, 3, 3, 6, 10])).toBe(1);
  });
});

describe("slopes and medians", () => {
  test("of a line the slope, also with one point in four far off; limits close around it", () => {
    const line = record(21, (i) => 3 - 0.5 * i + (i % 4 === 3 ? 40 : 0));
    expect(theilSen(record(21, (i) => 3 - 0.5 * i))).toEqual({ slope: -0.5, low: -0.5, high: -0.5 });
    expect(theilSen(line).slope).toBeCloseTo(-0.5, 12);
    expect(theilSen([5])).toEqual({ slope: 0, low: Number.NEGATIVE_INFINITY, high: Number.POSITIVE_INFINITY });
    expect(theilSen([1, 3]).slope).toBe(2);
    expect(theilSen([0, 1, 5]).slope).toBe(2.5);
  });
  test("the limits hold 95 in 100: by Sen's normal approximation, for ten points the 12th and 34th of 45 slopes", () => {
    const y = [2, 0, 3, 1, 5, 4, 9, 6, 8, 7];
    const slopes: number[] = [];
    for (let i = 0; i < 10; i++) for (let j = i + 1; j < 10; j++) slopes.push((y[j] - y[i]) / (j - i));
    slopes.sort((a, b) => a - b);
    const spread = 1.96 * Math.sqrt((10 * 9 * 25) / 18);
    expect(theilSen(y)).toEqual({ slope: slopes[22], low: slopes[Math.floor((45 - spread) / 2)], high: slopes[Math.ceil((45 + spread) / 2)] });
  });
  test("of an even count the middle of two", () => expect([median([3, 1, 2]), median([4, 1, 2, 3]), median([7])]).toEqual([2, 2.5, 7]));
});

describe("what becomes of a residual", () => {
  const of = (values: readonly number[], change: Partial<ResidualOptions> = {}) => assessResidual("r", values, { dropTarget: 6, ...change });
  test("the end is the median of the last tenth, the drop counted from the largest of the first five", () => {
    const values = record(40, (i) => (i === 3 ? 100 : 1) * 0.5 ** i);
    expect(of(values).start).toBe(12.5);
    expect(of(values).end).toBeCloseTo((0.5 ** 37 + 0.5 ** 38) / 2, 20);
    expect(of(values).drop).toBeCloseTo(Math.log10(12.5 / ((0.5 ** 37 + 0.5 ** 38) / 2)), 12);
    expect(of(values, { start: 1 }).drop).toBeCloseTo(-Math.log10((0.5 ** 37 + 0.5 ** 38) / 2), 12);
    expect(of(record(9, (i) => 0.5 ** i)).end).toBeCloseTo((0.5 ** 7 + 0.5 ** 8) / 2, 15);
  });
  test("the slope of the last quarter, of 200 entries at most, or from where a person says", () => {
    const bend = record(80, (i) => (i < 60 ? 0.9 ** i : 0.9 ** 60 * 0.5 ** (i - 60)));
    expect(of(bend).factor).toBeCloseTo(0.5, 8);
    expect(of(bend, { stretchFrom: 2 }).factor).toBeGreaterThan(0.6);
    expect(of(bend, { stretchFrom: 79 }).factor).toBeCloseTo(0.5, 8);
    const long = record(2000, (i) => (i < 1800 ? 1 : 0.99 ** (i - 1800)));
    expect(of(long).factor).toBeCloseTo(0.99, 6);
  });
  test("the target met is settled, a hair short of it is still falling and says how far", () => {
    const falling = (n: number) => record(n, (i) => 10 ** (-i / 10));
    // The last tenth's median lies two and a half entries before the end.
    expect(of(falling(63)).state).toBe("still-falling");
    expect(of(falling(65)).state).toBe("settled");
    expect(of(falling(41)).iterationsLeft).toBe(20);
    expect(of(falling(65)).iterationsLeft).toBeUndefined();
  });
  test("growth: ten times the start, or rising above it, or ten times above its lowest", () => {
    expect(of(record(60, (i) => (i < 30 ? 1 : 11))).state).toBe("diverging");
    expect(of(record(60, (i) => (i < 30 ? 100 : 1100))).state).toBe("diverging");
    expect(of(record(60, (i) => (i < 30 ? 100 : 50))).state).toBe("stalled");
    expect(of([...record(60, (i) => 0.8 ** i), ...record(40, (i) => 0.8 ** 59 * 1.1 ** i)]).state).toBe("diverging");
    expect(of([...record(60, (i) => 0.8 ** i), ...record(40, (i) => 0.8 ** 59 * 1.02 ** i)], { dropTarget: 5 }).state).toBe("settled");
  });
  test("each limit of the decision, just inside and just outside", () => {
    const level = (value: number, start: number) =>
      of(
        record(40, () => value),
        { start },
      ).state;
    // Ten times the start, flat: no progress, but not blown up.
    expect([level(10, 1), level(10.001, 1)]).toEqual(["stalled", "diverging"]);
    // Above the start but flat is no growth; a slow rise above it is, and so is the same rise below it only where it is no progress either.
    const rising = (factor: number, start: number) =>
      of(
        record(100, (i) => factor * (1 + 0.01 * i)),
        { start },
      ).state;
    expect([level(1, 0.9), rising(1, 1), rising(0.1, 1)]).toEqual(["stalled", "diverging", "stalled"]);
    // The target to its last digit, and what counts as nothing.
    expect([level(1e-6, 1), level(1.001e-6, 1)]).toEqual(["settled", "stalled"]);
    expect([level(1e-14, 1e-14), level(2e-14, 2e-14), level(0.99e-14, 1e-14), level(5e-15, 5e-15)]).toEqual([
      "stalled",
      "stalled",
      "settled",
      "settled",
    ]);
  });
  test("a rise after the target was met undoes it: from ten times the lowest level on, unless among the last digits", () => {
    // Falls to `low`, then rises so that the median of the last tenth is `end`.
    const back = (low: number, end: number) => {
      const [down, up] = [Math.log10(low), (Math.log10(end) - Math.log10(low)) / 89.5];
      return of(record(200, (i) => 10 ** (i < 100 ? (down * i) / 100 : down + up * (i - 100)))).state;
    };
    expect([back(1e-10, 5e-10), back(1e-10, 1e-7)]).toEqual(["settled", "diverging"]);
    expect([back(1e-16, 0.9e-12), back(1e-16, 1.1e-12)]).toEqual(["settled", "diverging"]);
  });
  test("a fall that would need over five times the record is a stall", () => {
    const slow = (perEntry: number) => record(200, (i) => (i < 20 ? 10 ** (-i / 5) : 10 ** (-3.8 - perEntry * (i - 20))));
    // Two orders are left; 200 entries at 0.001 make a fifth of an order, below a fifth of two.
    expect(of(slow(0.001)).state).toBe("stalled");
    expect(of(slow(0.004)).state).toBe("still-falling");
  });
  test("four entries can be judged, zeros after the first count as the last digit of a double", () => {
    expect(of([1, 0.1, 0.01]).state).toBe("too-short");
    expect(of([1, 0.1, 0.01, 0.001]).state).toBe("still-falling");
    expect(of([1, 0, 0, 0, 0]).drop).toBeCloseTo(17, 10);
    expect(of([-1, Number.NaN, 1, 0.1, 0.01, 0.001]).gaps).toBe(2);
    expect(of([]).state).toBe("too-short");
  });
});

describe("the study of the stopping tolerance", () => {
  test("stops at the first tolerance that was never met; values are those of its iteration", () => {
    const rows = toleranceStudy({ a: record(45, (i) => 3 * 10 ** (-i / 10)) }, { a: 3 }, { q: record(45, (i) => 100 + i), p: record(45, (i) => -i) });
    expect(rows.map((r) => [r.tolerance, r.iteration, r.values.q, r.values.p])).toEqual([
      [1e-2, 21, 120, -20],
      [1e-3, 31, 130, -30],
      [expect.closeTo(1e-4, 15), 41, 140, -40],
    ]);
    expect(toleranceStudy({ a: [1, 0.5] }, { a: 1 }, {})).toEqual([]);
    expect(toleranceStudy({ a: record(30, () => 0) }, { a: 1 }, {}).map((r) => r.tolerance)).toHaveLength(11);
  });
});
