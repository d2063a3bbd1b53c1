import { describe, expect, test } from "vitest";
import { assessCase } from "./assessCase.ts";
import { evidenceOf, FAMILY, runOf } from "./evidenceForTests.ts";
import { readAssessment, writeAssessment } from "./stored.ts";

const wave = Array.from({ length: 300 }, (_, i) => 10 + Math.sin(i * 0.4));
const cases = {
  sound: evidenceOf(),
  empty: evidenceOf([]),
  stale: evidenceOf(FAMILY, { setupHash: "later" }),
  open: evidenceOf(FAMILY.slice(1), { kind: "measured" }),
  averaged: evidenceOf([
    runOf(64, 10, {
      history: { iteration: Float64Array.from(wave.map((_, i) => i + 1)), residuals: {}, quantities: { q: Float64Array.from(wave) } },
      judging: { average: true },
    }),
  ]),
  unsolved: evidenceOf([
    runOf(64, 10, {
      history: { iteration: Float64Array.of(1, 2), residuals: { mass: Float64Array.of(1, Number.NaN) }, quantities: { q: Float64Array.of(1, 2) } },
    }),
  ]),
};

describe("assessments that are kept", () => {
  test.each(Object.entries(cases))("%s: comes back as it was, to the last number, also through text", (_name, e) => {
    const a = assessCase(e);
    const stored = JSON.parse(JSON.stringify(writeAssessment(a)));
    expect(readAssessment(stored)).toEqual(a);
  });
  test("numbers JSON has no word for are kept", () => {
    const a = assessCase(cases.unsolved);
    expect(JSON.stringify(writeAssessment(a))).toContain('{"$n":"NaN"}');
    expect(Number.isNaN(readAssessment(JSON.parse(JSON.stringify(writeAssessment(a))))?.settling[0].quantities[0].error)).toBe(true);
  });
  test.each<[string, (a: Record<string, unknown>) => void]>([
    ["a part that is missing", (a) => delete a.rules],
    ["a state nobody knows", (a) => Object.assign(a.setup as object, { state: "fine" })],
    ["a number that became null", (a) => Object.assign((a.rules as object[])[0], { scale: null })],
    ["a verdict in other words", (a) => Object.assign((a.verdicts as object[])[0], { word: "validated" })],
    ["a list that became a text", (a) => Object.assign(a, { ladder: "a" })],
    ["a board without a cell", (a) => delete (a.board as Record<string, unknown>).refined],
  ])("%s is no assessment", (_name, damage) => {
    const stored = JSON.parse(JSON.stringify(writeAssessment(assessCase(cases.sound))));
    expect(readAssessment(stored)).toBeDefined();
    damage(stored);
    expect(readAssessment(stored)).toBeUndefined();
  });
  test("nothing, a number or a text is none either", () => {
    for (const x of [null, undefined, 7, "x", [], {}]) expect(readAssessment(x)).toBeUndefined();
  });
});
