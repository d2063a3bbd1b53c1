import { describe, expect, test } from "vitest";
import { randomFrom } from "../../numeric/random.ts";
import { described } from "../describe/catalogue.ts";
import { taylorGreenField } from "./taylorGreenVortex.ts";
import { wakeField } from "./wake.ts";
import { exactWritten, exercisedBy, exercisedWords } from "./writtenOut.ts";

const presets = (problemId: string, change: Record<string, number> = {}) => ({
  ...Object.fromEntries(described(problemId).parameters.map((s) => [s.key, s.preset])),
  ...change,
});
const caseOf = (problemId: string, change?: Record<string, number>) => ({
  problemId,
  parameters: presets(problemId, change),
  formulas: Object.fromEntries((described(problemId).formulas ?? []).map((f) => [f.key, f.preset])),
});

const EXACT: [string, Record<string, number>?][] = [
  ["plates", { pressureGradientPaM: -0.05 }],
  ["pipe"],
  ["cylinders", { outerSpin: 0.4 }],
  ["wake"],
  ["eddies"],
];

describe("exact solutions written out", () => {
  test.each(EXACT)("%s: the terms of every equation add up to nothing, which no manufactured one does", (id, change) => {
    const w = exactWritten(JSON.stringify(caseOf(id, change)));
    if (!w) throw new Error(id);
    const next = randomFrom(3);
    for (let k = 0; k < 20; k++) {
      const at = [0.1 + 0.8 * next(), (w.lowest ?? 0) + 0.1 + 0.8 * next(), 1e-3 * next()] as const;
      for (const equation of new Set(w.terms.map((t) => t.equation))) {
        const own = w.terms.filter((t) => t.equation === equation).map((t) => t.formula.at(...at));
        const size = Math.max(...own.map(Math.abs));
        if (size > 0) expect(Math.abs(own.reduce((a, b) => a + b, 0)) / size).toBeLessThan(1e-9);
      }
    }
  });
  test("the formulas are the fields the bench is held against", () => {
    const at = (id: string, x: number, y: number, t: number) =>
      exactWritten(JSON.stringify(caseOf(id)))?.fields.map((f) => f.formula.at(x, y, t)) ?? [];
    const wake = presets("wake") as never as Parameters<typeof wakeField>[0];
    const [u, v] = at("wake", 0.3, 0.2, 0);
    expect([u, v]).toEqual([
      expect.closeTo(wakeField(wake).u(0.8 * wake.spacingM, 0.7 * wake.spacingM), 12),
      expect.closeTo(wakeField(wake).v(0.8 * wake.spacingM, 0.7 * wake.spacingM), 12),
    ]);
    const eddies = presets("eddies") as never as Parameters<typeof taylorGreenField>[0];
    const t = 0.4;
    const [ue, ve, pe] = at("eddies", 0.3, 0.2, t / eddies.sideM);
    const field = taylorGreenField(eddies);
    const place = [0.3 * eddies.sideM, 0.2 * eddies.sideM, t] as const;
    expect(ue).toBeCloseTo(field.u(...place), 12);
    expect(ve).toBeCloseTo(field.v(...place), 12);
    expect(pe).toBeCloseTo(field.p(...place) / eddies.densityKgM3, 12);
  });
});

describe("what is exercised", () => {
  const words = (id: string, change?: Record<string, number>) => exercisedWords(exercisedBy(caseOf(id, change)) ?? []);
  test("a straight profile tries nothing but that viscosity does nothing; a bent one viscosity against pressure", () => {
    expect(words("plates", { pressureGradientPaM: 0 })).toBe("momentum along x: nothing. momentum along y: nothing.");
    expect(words("plates", { pressureGradientPaM: -0.05 })).toBe(
      "momentum along x: pressure gradient 50 %, viscosity 50 %; not change in time, convection along x, convection along y. momentum along y: nothing.",
    );
  });
  test("the wake tries everything but time, the eddies time as well", () => {
    expect(exercisedBy(caseOf("wake"))?.flatMap((t) => (t.untested ? `${t.equation}: ${t.term}` : []))).toEqual([
      "momentum along x: change in time",
      "momentum along y: change in time",
      "momentum along y: pressure gradient",
    ]);
    expect(exercisedBy(caseOf("eddies"))?.filter((t) => t.untested)).toEqual([]);
  });
  test("what has jumps, or is known at places alone, says nothing", () => {
    expect(exercisedBy(caseOf("shock-tube"))).toBeUndefined();
    expect(exercisedBy(caseOf("lidded-box"))).toBeUndefined();
  });
});
