import fc from "fast-check";
import { describe, expect, test } from "vitest";
import type { CredibilityLevel, CredibilityStatement, FactorKey } from "../../records/credibility.ts";
import { credibility, targetOf } from "./credibility.ts";
import { FACTORS } from "./factors.ts";
import type { CredibilityFacts } from "./facts.ts";

/** Evidence with everything there is, part by part replaced. */
const FULL: CredibilityFacts = {
  stale: false,
  exact: false,
  defined: false,
  hasRuns: true,
  code: { name: "Lintel", met: ["a", "b"], orderShown: ["a", "b", "c"], sameKind: 1, short: [] },
  solution: { meshes: 4, settled: true, open: [], byReason: [], orderAgrees: true, overLimit: 0.2 },
  validation: { deciding: ["traverse", "table"], weak: [], complete: 2, agree: true, fails: false },
  inputs: { stops: [], doubts: [], given: 4, conditions: 4, propagated: true, byRuns: true },
  uncertainty: { open: [], byReason: [], sources: 7, inputsKnown: true },
  varied: ["mesh", "domain", "time step", "conditions"],
  history: { judged: ["a", "b", "c"], near: ["a", "b", "c"], failed: [] },
  people: { named: 3, checks: true, approves: true, reports: 1 },
};
const NONE: CredibilityFacts = {
  stale: false,
  exact: false,
  defined: false,
  hasRuns: false,
  code: { name: "Lintel", met: [], orderShown: [], sameKind: 0, short: [] },
  solution: { meshes: 0, settled: false, open: ["mesh"], byReason: [], orderAgrees: false },
  validation: { deciding: [], weak: [], complete: 0, agree: true, fails: false },
  inputs: { stops: ["density"], doubts: [], given: 0, conditions: 4, propagated: false, byRuns: false },
  uncertainty: { open: ["mesh"], byReason: [], sources: 1, inputsKnown: false },
  varied: [],
  history: { judged: [], near: [], failed: [] },
  people: { named: 0, checks: false, approves: false, reports: 0 },
};
const NOW = { setupHash: "now" };
const levels = (f: CredibilityFacts, statements: readonly CredibilityStatement[] = []) =>
  Object.fromEntries(credibility(f, statements, NOW).factors.map((x) => [x.key, x.level])) as Record<FactorKey, CredibilityLevel | undefined>;
const said = (change: Partial<CredibilityStatement>): CredibilityStatement => ({
  factor: "code",
  kind: "lower",
  level: 1,
  reason: "an old build",
  by: "K. B.",
  at: "2026-04-03T08:00:00Z",
  setupHash: "now",
  ...change,
});

type Part = { readonly [K in keyof CredibilityFacts]?: Partial<CredibilityFacts[K]> };
const having = (base: CredibilityFacts, part: Part): CredibilityFacts =>
  Object.fromEntries(
    Object.entries(base).map(([k, v]) => {
      const change = part[k as keyof CredibilityFacts];
      return [k, change === undefined ? v : typeof v === "object" && !Array.isArray(v) ? { ...v, ...(change as object) } : change];
    }),
  ) as unknown as CredibilityFacts;

describe("levels of made-up evidence, and why", () => {
  const table: readonly (readonly [why: string, factor: FactorKey, facts: CredibilityFacts, level: CredibilityLevel | undefined])[] = [
    ["no exact case", "code", NONE, 0],
    ["an exact answer met, order unknown", "code", having(NONE, { code: { met: ["a"] } }), 2],
    ["formal order once", "code", having(NONE, { code: { orderShown: ["a"] } }), 3],
    ["three times, none of this kind", "code", having(FULL, { code: { sameKind: 0 } }), 3],
    ["three times, a field short", "code", having(FULL, { code: { short: ["p"] } }), 3],
    ["three times, with this kind", "code", FULL, 4],
    ["one mesh", "solution", having(FULL, { solution: { meshes: 1 } }), 0],
    ["two meshes, a source open", "solution", having(FULL, { solution: { meshes: 2, open: ["domain"] } }), 1],
    ["not settled", "solution", having(FULL, { solution: { settled: false } }), 0],
    ["a source by reason", "solution", having(FULL, { solution: { byReason: ["domain"] } }), 2],
    ["two meshes, all known", "solution", having(FULL, { solution: { meshes: 2 } }), 2],
    ["measured, another order", "solution", having(FULL, { solution: { orderAgrees: false } }), 3],
    ["measured, half the limit", "solution", having(FULL, { solution: { overLimit: 0.5 } }), 3],
    ["measured, at the order, small", "solution", FULL, 4],
    ["no yardstick", "validation", NONE, 0],
    ["another code alone", "validation", having(NONE, { validation: { weak: ["Purlin"] } }), 1],
    ["a yardstick, a source open", "validation", having(NONE, { validation: { deciding: ["t"] } }), 2],
    ["a yardstick, all known", "validation", having(NONE, { validation: { deciding: ["t"], complete: 1 } }), 3],
    ["two that contradict each other", "validation", having(FULL, { validation: { agree: false } }), 3],
    ["two, and the comparison fails", "validation", having(FULL, { validation: { fails: true } }), 3],
    ["two that agree", "validation", FULL, 4],
    ["an exact answer validates nothing", "validation", having(FULL, { exact: true }), undefined],
    ["a check stops", "inputs", NONE, 0],
    ["a doubt nobody answered", "inputs", having(FULL, { inputs: { doubts: ["scheme"] } }), 1],
    ["no uncertainty of a condition", "inputs", having(FULL, { inputs: { given: 3 } }), 2],
    ["typed sensitivities", "inputs", having(FULL, { inputs: { byRuns: false } }), 3],
    ["exact by definition", "inputs", having(NONE, { defined: true, inputs: { stops: [] } }), 4],
    ["nothing known", "uncertainty", NONE, 0],
    ["some known", "uncertainty", having(FULL, { uncertainty: { open: ["domain"] } }), 1],
    ["one by reason", "uncertainty", having(FULL, { uncertainty: { byReason: ["domain"] } }), 2],
    ["inputs unknown", "uncertainty", having(FULL, { uncertainty: { inputsKnown: false } }), 3],
    ["all measured", "uncertainty", FULL, 4],
    ["mesh alone", "robustness", having(NONE, { varied: ["mesh"] }), 1],
    ["mesh and domain", "robustness", having(NONE, { varied: ["mesh", "domain"] }), 2],
    [
      "four numerical things without scheme or conditions",
      "robustness",
      having(NONE, { varied: ["mesh", "domain", "time step", "stopping tolerance"] }),
      3,
    ],
    ["the conditions among them", "robustness", FULL, 4],
    ["never judged", "history", NONE, 0],
    ["two others", "history", having(NONE, { history: { judged: ["a", "b"] } }), 1],
    ["three others, none near", "history", having(NONE, { history: { judged: ["a", "b", "c"] } }), 2],
    ["one near", "history", having(NONE, { history: { judged: ["a", "b", "c"], near: ["a"] } }), 3],
    ["three near, one failed elsewhere", "history", having(FULL, { history: { failed: ["x"] } }), 3],
    ["three near", "history", FULL, 4],
    ["one person", "people", having(NONE, { people: { named: 1 } }), 1],
    ["two, one of them checks", "people", having(NONE, { people: { named: 2, checks: true } }), 2],
    ["approved, not issued", "people", having(FULL, { people: { reports: 0 } }), 2],
    ["approved and issued: a review from outside is for a document", "people", FULL, 3],
  ];
  test.each(table)("%s: %s", (_why, factor, facts, level) => {
    const found = credibility(facts, [], NOW).factors.find((f) => f.key === factor);
    expect(found?.level).toBe(level);
    expect(found?.because).toMatch(/\w.*\.$/);
    expect(found?.criterion).toBe(level === undefined ? "does not apply" : FACTORS.find((f) => f.key === factor)?.criteria[level]);
    expect(found?.gap === undefined).toBe(level === undefined || level === 4);
  });
  test("the summary is the lowest that applies, and names it", () => {
    expect(credibility(FULL, [], NOW)).toMatchObject({ lowest: 3, lowestFactors: ["People and process"] });
    expect(credibility(NONE, [], NOW).lowest).toBe(0);
    expect(credibility(having(FULL, { exact: true }), [], NOW).lowest).toBe(3);
  });
});

describe("what caps, lowers and raises", () => {
  test("runs of an earlier set-up are worth 1 at most, and say what they were; what does not rest on runs stays", () => {
    const c = credibility(having(FULL, { stale: true }), [], NOW);
    expect(Object.fromEntries(c.factors.map((f) => [f.key, f.level]))).toEqual({
      code: 4,
      solution: 1,
      validation: 1,
      inputs: 4,
      uncertainty: 1,
      robustness: 1,
      history: 4,
      people: 3,
    });
    expect(c.factors[1].changed).toContain("(4 before)");
  });
  test("lowered with a reason, never raised by lowering; raised only with a document", () => {
    expect(levels(FULL, [said({})]).code).toBe(1);
    expect(levels(NONE, [said({ level: 3 })]).code).toBe(0);
    expect(levels(NONE, [said({ kind: "raise", level: 3 })]).code).toBe(0);
    expect(levels(NONE, [said({ kind: "raise", level: 3, link: "review R 7" })]).code).toBe(3);
    expect(credibility(NONE, [said({ kind: "raise", level: 3, link: "review R 7" })], NOW).factors[0].changed).toBe(
      "raised from 0 by K. B. on 2026-04-03: an old build (review R 7)",
    );
    expect(levels(FULL, [said({ factor: "people", kind: "raise", level: 4, link: "audit" })]).people).toBe(4);
  });
  test("that it looks right is the weakest kind: 1 where there was nothing, nothing where there was more", () => {
    const looks = said({ kind: "looks-right", level: undefined as never });
    expect(levels(NONE, [looks]).code).toBe(1);
    expect(credibility(NONE, [looks], NOW).factors[0].changed).toContain("the weakest kind of evidence");
    expect(levels(FULL, [looks]).code).toBe(4);
    expect(credibility(FULL, [looks], NOW).factors[0].changed).toContain("adds nothing");
  });
  test("the newest statement counts; of an earlier set-up none; where a factor does not apply none", () => {
    expect(levels(FULL, [said({ level: 1 }), said({ level: 2 })]).code).toBe(2);
    expect(levels(FULL, [said({ setupHash: "before" })]).code).toBe(4);
    expect(levels(having(FULL, { exact: true }), [said({ factor: "validation" })]).validation).toBeUndefined();
  });
  test("the target is half the sum of consequence and influence; what falls short is named with its gap", () => {
    const of = [
      [1, 1, 1],
      [1, 2, 1],
      [2, 2, 2],
      [2, 3, 2],
      [3, 3, 3],
      [4, 3, 3],
      [4, 4, 4],
    ] as const;
    for (const [consequence, influence, target] of of) expect(targetOf({ consequence, influence })).toBe(target);
    const c = credibility(having(FULL, { solution: { byReason: ["domain"] } }), [], { ...NOW, stakes: { consequence: 4, influence: 3 } });
    expect(c).toMatchObject({ target: 3, meetsTarget: false });
    expect(c.sentence).toContain("short of it: verification of the solution.");
    expect(c.factors[1].gap).toEqual({ sentence: "Level 3 asks: every numerical source is measured.", go: "refinement", missing: 1 });
    expect(credibility(FULL, [], { ...NOW, stakes: { consequence: 2, influence: 2 } }).meetsTarget).toBe(true);
  });
  test("whatever anybody says, no level rises without a document, and none is above what evidence supports with less evidence", () => {
    const any = fc.constantFrom(NONE, FULL, having(FULL, { stale: true }), having(FULL, { exact: true }));
    const statement = fc.record({
      factor: fc.constantFrom(...FACTORS.map((f) => f.key)),
      kind: fc.constantFrom("lower" as const, "looks-right" as const, "raise" as const),
      level: fc.constantFrom(0, 1, 2, 3, 4) as fc.Arbitrary<CredibilityLevel>,
    });
    fc.assert(
      fc.property(any, fc.array(statement, { maxLength: 6 }), (facts, list) => {
        const before = levels(facts);
        const after = levels(
          facts,
          list.map((s) => said(s)),
        );
        for (const { key } of FACTORS) {
          const [a, b] = [before[key], after[key]];
          if (a === undefined || b === undefined) expect(a).toBe(b);
          else expect(b).toBeLessThanOrEqual(Math.max(a, 1));
        }
      }),
    );
  });
});
