import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { DerivedSet } from "../derived/derived.ts";
import { type InputUncertainty, inputUncertainty, type SensitivityMeans, sensitivityOf } from "./inputs.ts";
import { dominantSource, type ErrorSource, numericalUncertainty, SOURCE_KEYS, standardOf } from "./rule.ts";
import { type Settlement, settled } from "./settlement.ts";

const source = (relative: number | undefined, change: Partial<ErrorSource> = {}): ErrorSource => ({
  key: "mesh",
  name: "mesh",
  group: "numerical",
  stage: "refinement",
  note: "n",
  ...(relative === undefined ? {} : { relative }),
  ...change,
});

describe("the numerical uncertainty", () => {
  test("half the root of the squares: 95 % figures of 3 and 4 % are a standard one of 2.5 %", () => {
    expect(standardOf([source(0.03), source(0.04)])).toBeCloseTo(0.025, 15);
    expect(standardOf([])).toBe(0);
    expect(standardOf([source(undefined), source(0.02)])).toBeCloseTo(0.01, 15);
  });
  test("inputs take no part; one missing numerical or machine source leaves it undefined, a missing input does not", () => {
    const input = source(0.5, { group: "input" });
    expect(numericalUncertainty([source(0.03), source(0.04, { group: "machine" }), input])).toBeCloseTo(0.025, 15);
    expect(numericalUncertainty([source(0.03), source(undefined, { group: "machine" })])).toBeUndefined();
    expect(numericalUncertainty([source(0.03), source(undefined)])).toBeUndefined();
    expect(numericalUncertainty([source(0.03), source(undefined, { group: "input" })])).toBeCloseTo(0.015, 15);
  });
  test("the root of squares is at least its largest part and at most the sum", () =>
    fc.assert(
      fc.property(fc.array(fc.double({ min: 1e-9, max: 1, noNaN: true }), { minLength: 1, maxLength: 8 }), (parts) => {
        const u = standardOf(parts.map((p) => source(p)));
        expect(u).toBeGreaterThanOrEqual((Math.max(...parts) / 2) * (1 - 1e-12));
        expect(u).toBeLessThanOrEqual((parts.reduce((a, b) => a + b, 0) / 2) * (1 + 1e-12));
      }),
    ));
  test("the largest known source dominates, the first of equals; without any none does", () => {
    const named = (name: string, relative?: number) => source(relative, { name });
    expect(dominantSource([named("a", 0.1), named("b", 0.3), named("c", 0.2), named("d")])?.name).toBe("b");
    expect(dominantSource([named("a", 0.3), named("b", 0.3)])?.name).toBe("a");
    expect(dominantSource([named("a", 0)])?.name).toBe("a");
    expect(dominantSource([named("a")])).toBeUndefined();
  });
});

describe("what a person said of a source", () => {
  const said = (change: Partial<Settlement> = {}): Settlement => ({
    source: "domain",
    quantityKey: null,
    kind: "bounded",
    relative: 0.01,
    reason: "walls all round",
    by: "H. M.",
    at: "2026-04-03T08:00:00Z",
    setupHash: "now",
    ...change,
  });
  const open = source(undefined, { key: "domain", name: "domain", note: "not measured" });
  test("fills a source nothing measured, signed and dated; a measured one is left alone", () => {
    expect(settled(open, [said()], "q", "now")).toEqual({
      ...open,
      relative: 0.01,
      note: "bounded by argument by H. M. on 2026-04-03: walls all round",
      at: "2026-04-03T08:00:00Z",
      settled: { kind: "bounded", by: "H. M.", reason: "walls all round" },
    });
    const measured = source(0.2, { key: "domain" });
    expect(settled(measured, [said()], "q", "now")).toBe(measured);
    expect(settled(source(0, { key: "domain" }), [said()], "q", "now").relative).toBe(0);
  });
  test("what does not apply counts as nothing, whatever size stands with it", () => {
    const s = settled(open, [said({ kind: "not-applicable", relative: 0.4 })], "q", "now");
    expect(s.relative).toBe(0);
    expect(s.note).toContain("does not apply by H. M.");
    expect(settled(open, [said({ kind: "estimated" })], "q", "now").note).toContain("estimated by H. M.");
  });
  test("the newest counts; one of this quantity before one of all; of another source or quantity none", () => {
    expect(settled(open, [said({ relative: 0.1 }), said({ relative: 0.2 })], "q", "now").relative).toBe(0.2);
    expect(settled(open, [said({ relative: 0.1, quantityKey: "q" }), said({ relative: 0.2 })], "q", "now").relative).toBe(0.1);
    expect(settled(open, [said({ relative: 0.1, quantityKey: "q" }), said({ relative: 0.3, quantityKey: "q" })], "q", "now").relative).toBe(0.3);
    expect(settled(open, [said({ quantityKey: "other" })], "q", "now")).toBe(open);
    expect(settled(open, [said({ source: "mesh" })], "q", "now")).toBe(open);
    expect(settled(open, [], "q", "now")).toBe(open);
  });
  test("said of an earlier set-up it leaves the source open, and says so", () => {
    const s = settled(open, [said({ setupHash: "before" })], "q", "now");
    expect(s.relative).toBeUndefined();
    expect(s.settled).toBeUndefined();
    expect(s.note).toBe(
      "was bounded by argument by H. M. on 2026-04-03: walls all round; that was said of an earlier set-up and has to be said again",
    );
  });
});

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

test("every source has a key of its own", () => expect(new Set(SOURCE_KEYS).size).toBe(SOURCE_KEYS.length));
