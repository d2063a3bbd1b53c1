import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { meanFields, NoPhases, phasesOf } from "./phases.ts";

const even = (count: number, step: number) => Array.from({ length: count }, (_, k) => 3 + k * step);

describe("moments by their phase", () => {
  test("fall together where the motion stands alike, wherever the first one is", () => {
    const phases = phasesOf(even(12, 0.25), 1, 4);
    expect(phases.map((p) => [p.share, p.moments])).toEqual([
      [0.125, [0, 4, 8]],
      [0.375, [1, 5, 9]],
      [0.625, [2, 6, 10]],
      [0.875, [3, 7, 11]],
    ]);
  });
  test("every moment is in one part, whatever the period", () => {
    fc.assert(
      fc.property(fc.double({ min: 0.3, max: 4, noNaN: true }), fc.integer({ min: 2, max: 12 }), (period, parts) => {
        const times = even(40, 0.13);
        const all = phasesOf(times, period, parts).flatMap((p) => p.moments);
        expect([...all].sort((a, b) => a - b)).toEqual(times.map((_, k) => k));
      }),
    );
  });
  test.each([
    [even(4, 0.1), 1, 4, "less than one period of 1 s"],
    [even(4, 1), 0, 4, "a period above 0"],
    [even(4, 1), 1, 1, "at least two parts"],
  ])("%j over a period of %d in %d is refused", (times, period, parts, sentence) => {
    expect(() => phasesOf(times, period, parts)).toThrow(NoPhases);
    expect(() => phasesOf(times, period, parts)).toThrow(sentence);
  });
});

describe("the mean of a phase", () => {
  const at = (t: number) => [
    { name: "u", unit: "m/s", values: Float64Array.from([0, 1, 2], (x) => 5 + Math.sin(2 * Math.PI * t + x)) },
    { name: "p", unit: "Pa", values: Float64Array.of(t, t, t) },
  ];
  test("of a motion that repeats itself is that motion; what drifts is averaged", () => {
    const times = even(12, 0.25);
    const [phase] = phasesOf(times, 1, 4);
    const [u, p] = meanFields(phase.moments.map((k) => at(times[k])));
    u.values.forEach((v, k) => {
      expect(v).toBeCloseTo(at(3)[0].values[k], 12);
    });
    expect([p.unit, ...p.values]).toEqual(["Pa", 4, 4, 4]);
  });
  test("a field not all of them have is left out", () => {
    expect(meanFields([at(0), at(1).slice(0, 1)]).map((f) => f.name)).toEqual(["u"]);
  });
});
