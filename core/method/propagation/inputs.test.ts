import { describe, expect, test } from "vitest";
import type { InputUncertainty } from "../../records/inputs.ts";
import { DerivedSet } from "./derived.ts";
import { inputUncertainty, type SensitivityMeans, sensitivityOf } from "./inputs.ts";

describe("inputs", () => {
  const input = (key: string, uncertainty: number, sensitivities: Record<string, number> = {}, value = 2): InputUncertainty => ({
    key,
    label: key,
    value,
    unit: "m/s",
    uncertainty,
    sensitivities,
  });
  const nothing: SensitivityMeans = { values: {}, swept: [] };
  const sweep = (f: (u: number) => number, at = [1, 2, 4]) => at.map((U) => ({ parameters: { U, L: 3 }, quantities: { q: f(U) } }));

  test("typed beats formula beats sweep", () => {
    const swept = sweep((u) => u ** 2);
    const set = new DerivedSet([{ key: "d", symbol: "d", formula: "U^3", unit: "m^3/s^3" }], [{ name: "U", unit: "m/s" }]);
    const means: SensitivityMeans = {
      values: {},
      derived: { set, keys: ["d"], constants: { U: 2 } },
      swept: swept.map((s) => ({ ...s, quantities: { d: s.quantities.q } })),
    };
    expect(sensitivityOf(input("U", 0.1, { d: 5 }), "d", means)).toEqual({ value: 5, by: "typed" });
    expect(sensitivityOf(input("U", 0.1), "d", means)).toEqual({ value: expect.closeTo(3, 10), by: "formula" });
    expect(sensitivityOf(input("U", 0.1), "d", { ...means, derived: undefined })).toEqual({ value: expect.closeTo(2, 10), by: "sweep" });
    expect(sensitivityOf(input("U", 0.1), "d", nothing)).toBeUndefined();
  });
  test("a sweep gives the power of a law back, also of a quantity below zero", () => {
    for (const power of [-1.5, 0.4, 2])
      for (const sign of [1, -1])
        expect(sensitivityOf(input("U", 0.1), "q", { values: {}, swept: sweep((u) => sign * 7 * u ** power) })?.value).toBeCloseTo(power, 10);
  });
  test("least squares: slope of the logarithms, not of the ends", () => {
    const found = sensitivityOf(input("U", 0.1), "q", { values: {}, swept: sweep((u) => (u === 2 ? 2 * Math.E : u)) });
    // A middle point raised by one in the logarithm of a symmetric set leaves the slope at one.
    expect(found?.value).toBeCloseTo(1, 10);
    const tilted = sensitivityOf(input("U", 0.1), "q", { values: {}, swept: sweep((u) => (u === 4 ? 8 : u)) });
    expect(tilted?.value).toBeCloseTo(1.5, 10);
  });
  test("points that differ in something else, values that are zero, and one place alone tell nothing", () => {
    const mixed = [
      { parameters: { U: 1, L: 3 }, quantities: { q: 1 } },
      { parameters: { U: 2, L: 4 }, quantities: { q: 9 } },
    ];
    expect(sensitivityOf(input("U", 0.1), "q", { values: {}, swept: mixed })).toBeUndefined();
    const more = [...mixed, { parameters: { U: 4, L: 3 }, quantities: { q: 4 } }];
    expect(sensitivityOf(input("U", 0.1), "q", { values: {}, swept: more })?.value).toBeCloseTo(1, 10);
    expect(sensitivityOf(input("U", 0.1), "q", { values: {}, swept: sweep((u) => u, [2, 2]) })).toBeUndefined();
    expect(sensitivityOf(input("U", 0.1), "q", { values: {}, swept: sweep(() => 0) })).toBeUndefined();
    expect(sensitivityOf(input("U", 0.1), "q", { values: {}, swept: sweep((u) => u, [-1, 0, 2]) })).toBeUndefined();
  });
  describe("through a formula", () => {
    const set = new DerivedSet(
      [{ key: "c", symbol: "c", formula: "q / (rho * U^2)", unit: "m^2" }],
      [
        { name: "rho", unit: "kg/m^3" },
        { name: "U", unit: "m/s" },
        { name: "q", unit: "N" },
      ],
    );
    const means = (swept: SensitivityMeans["swept"] = []): SensitivityMeans => ({
      values: { q: 20 },
      derived: { set, keys: ["c"], constants: { rho: 1.25, U: 2 } },
      swept,
    });
    test("its own power, plus what the quantities in it make of the input", () => {
      // A force that goes with the square of the velocity cancels the formula's minus two.
      expect(sensitivityOf(input("U", 0.1, { q: 2 }), "c", means())?.value).toBeCloseTo(0, 10);
      expect(sensitivityOf(input("U", 0.1, { q: 1.7 }), "c", means())?.value).toBeCloseTo(-0.3, 10);
      const swept = [1, 2, 4].map((U) => ({ parameters: { U }, quantities: { q: 3 * U ** 1.5 } }));
      expect(sensitivityOf(input("U", 0.1), "c", means(swept))?.value).toBeCloseTo(-0.5, 10);
    });
    test("a quantity in it whose answer nobody knows leaves it unknown; constants that are not asked about do not", () => {
      expect(sensitivityOf(input("U", 0.1), "c", means())).toBeUndefined();
      expect(sensitivityOf(input("rho", 0.1, { q: 1 }, 1.25), "c", means())?.value).toBeCloseTo(0, 10);
    });
    test("a value of zero has no relative answer", () =>
      expect(sensitivityOf(input("U", 0.1, { q: 2 }), "c", { ...means(), values: { q: 0 } })).toBeUndefined());
  });
  test("together: uncertainty over value times sensitivity, by squares", () => {
    const both = inputUncertainty([input("U", 0.02, { q: 3 }), input("L", 0.08, { q: -1 }, -2)], "q", nothing);
    expect(both.shares.map((s) => s.relative)).toEqual([expect.closeTo(0.03, 12), expect.closeTo(0.04, 12)]);
    expect(both.relative).toBeCloseTo(0.05, 12);
  });
  test("one answer not known, or a value of zero, leaves the whole unknown; so do no inputs at all", () => {
    expect(inputUncertainty([input("U", 0.02, { q: 3 }), input("L", 0.02)], "q", nothing).relative).toBeUndefined();
    expect(inputUncertainty([input("U", 0.02, { q: 3 }, 0)], "q", nothing)).toEqual({ shares: [{ key: "U", label: "U" }] });
    expect(inputUncertainty([], "q", nothing)).toEqual({ shares: [] });
  });
});
