import fc from "fast-check";
import { describe, expect, test } from "vitest";
import type { Settlement } from "../../records/settlement.ts";
import { dominantSource, type ErrorSource, numericalUncertainty, standardOf } from "./errorBudget.ts";
import { settled } from "./settlement.ts";

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
  test("what was measured elsewhere says where it is written", () => {
    const s = settled(open, [said({ kind: "measured", link: "report TR 12" })], "q", "now");
    expect(s.note).toBe("measured elsewhere by H. M. on 2026-04-03: walls all round (report TR 12)");
    expect(s.settled?.link).toBe("report TR 12");
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

test("refinement's figures as their error is taken to lie; the others are halved all the same", () => {
  const of = (key: string, relative: number): ErrorSource => ({ key, name: key, group: "numerical", stage: "refinement", note: "", relative });
  const sources = [of("mesh", 0.023), of("time-step", 0.046), of("domain", 0.0115), of("iteration", 0.02)];
  expect(standardOf(sources, "shifted")).toBeCloseTo(Math.hypot(0.02, 0.04, 0.01, 0.01), 12);
  expect(standardOf(sources, "centred")).toBe(standardOf(sources));
  expect(numericalUncertainty(sources, "shifted")).toBe(standardOf(sources, "shifted"));
});
