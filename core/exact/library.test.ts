import fc from "fast-check";
import katex from "katex";
import { describe, expect, test } from "vitest";
import { isUnit } from "../units/units.ts";
import { findSolution, LIBRARY } from "./library.ts";
import { evaluate, placesOf, type Solution, SUBJECTS } from "./solution.ts";

const at = (s: Solution, given: Record<string, number> = {}) => {
  const found = evaluate(s, given);
  if (!found.ok) throw new Error(`${s.id}: ${found.sentence}`);
  return found;
};

describe("the library of exact and semi-empirical solutions", () => {
  test("every subject has one, and no two share an id or a name", () => {
    expect(new Set(LIBRARY.map((s) => s.subject))).toEqual(new Set(SUBJECTS));
    expect(new Set(LIBRARY.map((s) => s.id)).size).toBe(LIBRARY.length);
    expect(new Set(LIBRARY.map((s) => s.name)).size).toBe(LIBRARY.length);
    expect(LIBRARY.length).toBeGreaterThan(45);
    expect(findSolution("pipe")?.name).toBe("Round pipe");
    expect(findSolution("no such")).toBeUndefined();
  });

  describe.each(LIBRARY.map((s) => [s.id, s] as const))("%s", (_, s) => {
    test("holds at its presets and gives finite figures and curves", () => {
      const found = at(s);
      expect(found.range.filter((r) => !r.inside)).toEqual([]);
      expect(found.values.length).toBeGreaterThan(0);
      expect(found.values.filter((v) => !Number.isFinite(v.value))).toEqual([]);
      for (const c of found.curves) {
        const places = placesOf(c, 23);
        const ys = c.sample(places);
        expect(ys.length).toBe(23);
        expect([c.key, ys.filter((y) => !Number.isFinite(y))]).toEqual([c.key, []]);
      }
      expect(new Set(found.values.map((v) => v.key)).size).toBe(found.values.length);
      expect(new Set(found.curves.map((c) => c.key)).size).toBe(found.curves.length);
    });
    test("states where it comes from, in formulas that can be set, with units that are known", () => {
      expect(s.source.length).toBeGreaterThan(10);
      for (const f of [...s.formulas, ...s.parameters.map((p) => p.symbol)])
        expect(() => katex.renderToString(f, { throwOnError: true })).not.toThrow();
      const found = at(s);
      const units = [...s.parameters.map((p) => p.unit), ...found.values.map((v) => v.unit), ...found.curves.flatMap((c) => [c.x.unit, c.y.unit])];
      expect(units.filter((u) => u !== "" && !isUnit(u))).toEqual([]);
      if (s.nature === "correlation" || s.nature === "asymptotic") expect(s.uncertainty).toBeGreaterThan(0);
    });
    test("a figure that is no number, or beyond its bounds, is refused by name", () => {
      for (const p of s.parameters)
        for (const bad of [Number.NaN, Number.POSITIVE_INFINITY, p.high * 2 + 1, p.low - Math.abs(p.low) - 1])
          expect([p.key, evaluate(s, { [p.key]: bad })]).toEqual([p.key, { ok: false, sentence: expect.stringContaining(p.label) }]);
    });
  });

  test("wherever the parameters lie within their bounds, it answers or says why not; never a figure that is none, never an exception", () => {
    const any = fc
      .constantFrom(...LIBRARY)
      .chain((s) =>
        fc.tuple(
          fc.constant(s),
          fc.record(
            Object.fromEntries(
              s.parameters.map((p) => [
                p.key,
                p.choices
                  ? fc.constantFrom(...p.choices.map(([v]) => v))
                  : fc.double({ min: 0, max: 1, noNaN: true }).map((t) => (p.log ? p.low * (p.high / p.low) ** t : p.low + (p.high - p.low) * t)),
              ]),
            ),
          ),
        ),
      );
    fc.assert(
      fc.property(any, ([s, given]) => {
        const found = evaluate(s, given);
        if (!found.ok) return found.sentence.length > 10;
        return !found.inside || found.values.every((v) => Number.isFinite(v.value));
      }),
      { numRuns: 300, seed: 4 },
    );
  });

  test("the creeping-flow drag law at a Reynolds number of 50 says that it does not hold", () => {
    const sphere = LIBRARY.find((s) => s.id === "creeping-sphere") as Solution;
    const found = at(sphere, { diameterM: 0.01, speedMS: 0.0683, densityKgM3: 1.274, viscosityPaS: 1.74e-5 });
    expect(found.inside).toBe(false);
    expect(found.range[0].sentence).toBe("The Reynolds number of the diameter is 50.0, above 0.1.");
  });
});
