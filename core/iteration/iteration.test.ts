import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { iterationError, toleranceStudy } from "./iterationError.ts";
import { assessResidual } from "./residuals.ts";

const record = (n: number, f: (i: number) => number) => Array.from({ length: n }, (_, i) => f(i));
/** seeded noise in (-1, 1) */
const noise = (() => {
  let s = 7;
  return () => {
    s = (Math.imul(s, 1664525) + 1013904223) >>> 0;
    return s / 2147483648 - 1;
  };
})();

describe("residual states", () => {
  const state = (values: number[], dropTarget = 6) => assessResidual("mass", values, { dropTarget });
  test("a geometric fall past the target is settled, with its drop and factor", () => {
    const r = state(record(80, (i) => 0.8 ** i));
    expect(r.state).toBe("settled");
    expect(r.factor).toBeCloseTo(0.8, 6);
    expect(r.drop).toBeCloseTo(-Math.log10(0.8) * 75.5, 1);
  });
  test("short of the target it is still falling and says how long it takes", () => {
    const r = state(record(100, (i) => 0.9 ** i));
    expect(r.state).toBe("still-falling");
    const truth = (6 - r.drop) / -Math.log10(0.9);
    expect(r.iterationsLeft).toBeGreaterThan(truth - 2);
    expect(r.iterationsLeft).toBeLessThan(truth + 2);
  });
  test("flat noise above the target has stalled", () =>
    expect(state(record(300, (i) => Math.max(0.9 ** i, 1e-3) * (1 + 0.2 * noise()))).state).toBe("stalled"));
  test("a wave about a level is cycling", () =>
    expect(state(record(400, (i) => Math.max(0.9 ** i, 1e-3) * 10 ** (0.3 * Math.sin(i / 4)))).state).toBe("cycling"));
  test("growth is diverging", () => expect(state(record(40, (i) => 1e-3 * 1.3 ** i)).state).toBe("diverging"));
  test("three entries are too short", () => expect(state([1, 0.1, 0.01]).state).toBe("too-short"));
  test("gaps are counted and left out", () => expect(assessResidual("u", [1, Number.NaN, 0.5, 0.2, 0.1, 0.05], { dropTarget: 6 }).gaps).toBe(1));
});

describe("remaining iteration error against known limits, within 20 %", () => {
  const within = (values: number[], truth: number) => {
    const e = iterationError(values);
    expect(Math.abs(e.error) / truth).toBeGreaterThan(0.8);
    expect(Math.abs(e.error) / truth).toBeLessThan(1.2);
    return e;
  };
  test("real eigenvalue, with its sign", () => {
    const e = within(
      record(60, (i) => 3 + 0.5 * 0.85 ** i),
      0.5 * 0.85 ** 59,
    );
    expect(e.kind).toBe("real");
    expect(e.error).toBeGreaterThan(0);
  });
  test("negative eigenvalue", () => {
    const e = within(
      record(60, (i) => 3 + 0.5 * (-0.8) ** i),
      0.5 * 0.8 ** 59,
    );
    expect(e.kind).toBe("alternating");
    expect(e.error).toBeLessThan(0);
  });
  test("a complex pair: the envelope, whatever the phase the record ends at", () =>
    fc.assert(
      fc.property(
        fc.double({ min: 0.85, max: 0.97, noNaN: true }),
        fc.double({ min: 0.35, max: 1.2, noNaN: true }),
        fc.double({ min: 0, max: 6, noNaN: true }),
        (factor, turn, phase) => {
          const e = within(
            record(90, (i) => 3 + 0.5 * factor ** i * Math.cos(turn * i + phase)),
            0.5 * factor ** 89,
          );
          expect(e.kind).toBe("complex");
        },
      ),
      { numRuns: 60 },
    ));
  test("a value that stands still has only round-off left", () => expect(Math.abs(iterationError(record(30, () => 2)).error)).toBeLessThan(1e-13));
  test("noise counts half its range", () => {
    const e = iterationError(record(200, () => 5 + 0.01 * noise()));
    expect(e.kind).toBe("noise");
    expect(e.error).toBeGreaterThan(0.006);
    expect(e.error).toBeLessThanOrEqual(0.01);
  });
});

test("tolerance study finds the first iteration at which all residuals meet each tolerance", () => {
  const a = record(50, (i) => 10 ** (-i / 5));
  const b = record(50, (i) => 10 ** (-i / 10));
  const rows = toleranceStudy({ a, b }, { a: 1, b: 1 }, { q: record(50, (i) => i) });
  expect(rows.map((r) => r.iteration)).toEqual([21, 31, 41]);
  expect(rows[1].values.q).toBe(30);
});
