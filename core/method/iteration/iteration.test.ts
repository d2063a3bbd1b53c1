import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { randomFrom } from "../../numeric/random.ts";
import { iterationError, recentError, toleranceStudy } from "./iterationError.ts";
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
    // 0.9^132 is the first below a millionth; the last entry is 0.9^99.
    expect(r.iterationsLeft).toBe(33);
  });
  test("flat noise above the target has stalled", () =>
    expect(state(record(300, (i) => Math.max(0.9 ** i, 1e-3) * (1 + 0.2 * noise()))).state).toBe("stalled"));
  test("a wave about a level is cycling", () =>
    expect(state(record(400, (i) => Math.max(0.9 ** i, 1e-3) * 10 ** (0.3 * Math.sin(i / 4)))).state).toBe("cycling"));
  test("growth is diverging", () => expect(state(record(40, (i) => 1e-3 * 1.3 ** i)).state).toBe("diverging"));
  test("three entries are too short", () => expect(state([1, 0.1, 0.01]).state).toBe("too-short"));
  test.each([Number.NaN, Number.POSITIVE_INFINITY])("a record that ends in %d has diverged, whatever it fell before", (end) => {
    const r = assessResidual("mass", [...record(80, (i) => 0.8 ** i), end], { dropTarget: 6 });
    expect(r.state).toBe("diverging");
    expect(r.broken).toBe(true);
  });
  test("a rise after the fall beats the fall, though the target was met", () =>
    expect(state([...record(100, (i) => 0.8 ** i), ...record(60, (i) => 0.8 ** 99 * 1.15 ** i)]).state).toBe("diverging"));
  test("a rise among the last digits of a double is none", () =>
    expect(state([...record(200, (i) => Math.max(0.8 ** i, 1e-16)), ...record(60, (i) => 1e-16 * 1.05 ** i)]).state).toBe("settled"));
  test("zeros before the first entry are gaps; zeros after it are as small as a double gets", () => {
    const r = assessResidual("mass", [0, 0, 0, ...record(80, (i) => 0.8 ** i)], { dropTarget: 6 });
    expect(r.gaps).toBe(3);
    expect(r.start).toBe(1);
    expect(r.drop).toBeCloseTo(-Math.log10(0.8) * 75.5, 1);
    const exact = assessResidual("mass", [1, 0.1, 0.01, 0, 0, 0, 0, 0], { dropTarget: 6 });
    expect(exact.drop).toBeLessThanOrEqual(17);
  });
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
    expect(e.error).toBeLessThanOrEqual(0.0101);
  });
  test("the pace of the last changes gives a clean decay back too, cheaply", () => {
    const e = recentError(record(60, (i) => 3 + 0.5 * 0.85 ** i));
    expect(e.error / (0.5 * 0.85 ** 59)).toBeCloseTo(1, 6);
  });
});

describe("records as files print them", () => {
  const printed = (n: number, f: (i: number) => number, digits: number) => record(n, (i) => Number(f(i).toPrecision(digits)));
  test("a slow decay written with six digits is no noise", () => {
    // 0.998 an iteration: what is left after 900 is 0.082 % of the value.
    const truth = 0.005 * 0.998 ** 900;
    const e = iterationError(printed(901, (i) => 1 + 0.005 * 0.998 ** i, 6));
    expect(e.kind).toBe("real");
    expect(e.error / truth).toBeGreaterThan(0.5);
    expect(e.error / truth).toBeLessThan(2);
  });
  test("a steady drift is moving, never settled, by at least what it moved", () => {
    for (const digits of [5, 6, 8]) {
      const e = iterationError(printed(800, (i) => 2 + 1e-5 * i, digits));
      expect(e.kind, `${digits} digits`).toBe("moving");
      expect(e.error).toBeGreaterThan(0.0035);
    }
  });
  test("a last row written twice is one row", () => {
    const once = record(60, (i) => 3 + 0.5 * 0.85 ** i);
    expect(iterationError([...once, once[59]]).error).toBe(iterationError(once).error);
  });
  test("values that stand still to the last printed digit leave half of it", () => {
    const e = iterationError(printed(200, (i) => 1.2345 + 0.5 ** i, 5));
    expect(e.kind).toBe("still");
    expect(e.error).toBeCloseTo(0.00005, 9);
    // One digit may be all that a column of 2.0000 has kept of its zeros.
    expect(iterationError(record(30, () => 2)).error).toBeLessThan(1e-13);
  });
  test("a cycle of any period is a cycle of its amplitude", () => {
    for (const period of [3, 7, 40, 290]) {
      const e = iterationError(printed(Math.max(80, 3 * period), (i) => 5 + 0.02 * Math.cos((2 * Math.PI * i) / period + 1), 6));
      expect(e.kind, `period ${period}`).toBe("cycling");
      expect(e.error).toBeCloseTo(0.02, 3);
    }
  });
  test("a decaying oscillation does not grow", () => {
    const e = iterationError(record(400, (i) => 1 + 0.1 * 0.99 ** i * Math.cos(0.15 * i)));
    expect(e.kind).toBe("complex");
    expect(e.error / (0.1 * 0.99 ** 399)).toBeCloseTo(1, 1);
  });
  test("growth is said", () => {
    expect(iterationError(record(80, (i) => 1 + 1e-6 * 1.08 ** i)).kind).toBe("growing");
    expect(iterationError(record(120, (i) => 1 + 1e-4 * 1.05 ** i * Math.cos(0.7 * i))).kind).toBe("growing");
  });
  const classes: readonly (readonly [string, (random: () => number) => { n: number; value: (i: number) => number; truth: number }])[] = [
    [
      "one real factor",
      (random) => {
        const factor = 1 - 0.3 * 600 ** -random();
        const n = Math.round(Math.max(40, (0.6 + 4 * random()) / (1 - factor)));
        return { n, value: (i) => 7 + 0.5 * factor ** i, truth: 0.5 * factor ** (n - 1) };
      },
    ],
    [
      "alternating",
      (random) => {
        const factor = 1 - 0.3 * 100 ** -random();
        const n = Math.round(Math.max(40, (0.6 + 4 * random()) / (1 - factor)));
        return { n, value: (i) => 7 + 0.5 * (-factor) ** i, truth: 0.5 * factor ** (n - 1) };
      },
    ],
    [
      "steps",
      (random) => {
        const every = 2 + Math.floor(9 * random());
        const factor = 1 - 0.15 * 50 ** -random();
        const rows = Math.round(Math.max(14, (0.6 + 3 * random()) / (1 - factor)));
        return { n: rows * every, value: (i) => 7 + 0.5 * factor ** Math.floor(i / every), truth: 0.5 * factor ** (rows - 1) };
      },
    ],
  ];
  test.each(classes)("%s: within a factor of two on nine in ten seeded records", (_, make) => {
    const random = randomFrom(3);
    let within = 0;
    for (let k = 0; k < 120; k++) {
      const { n, value, truth } = make(random);
      const e = Math.abs(iterationError(printed(n, value, 6)).error) / Math.max(truth, 5e-6);
      if (e >= 0.5 && e <= 2) within++;
    }
    expect(within).toBeGreaterThanOrEqual(108);
  });
});

test("tolerance study finds the first iteration at which all residuals meet each tolerance", () => {
  const a = record(50, (i) => 10 ** (-i / 5));
  const b = record(50, (i) => 10 ** (-i / 10));
  const rows = toleranceStudy({ a, b }, { a: 1, b: 1 }, { q: record(50, (i) => i) });
  expect(rows.map((r) => r.iteration)).toEqual([21, 31, 41]);
  expect(rows[1].values.q).toBe(30);
});
