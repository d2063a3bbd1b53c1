import { describe, expect, test } from "vitest";
import { assessCase } from "../assessCase.ts";
import { evidenceOf, FAMILY, runOf, SETUP, TABLE } from "../evidenceForTests.ts";
import type { Proof } from "../results/proof.ts";
import { type CredibilityContext, factsOf, type OtherCase } from "./factsOf.ts";

const proof = (change: Partial<Proof> = {}): Proof => ({
  code: "bench",
  field: "u",
  method: "",
  formalOrder: 2,
  order: 2,
  verdict: "formal-order",
  ...change,
});
const other = (id: string, change: Partial<OtherCase> = {}): OtherCase => ({
  id,
  title: id,
  kind: "exact",
  near: true,
  codes: ["bench"],
  judged: "bench",
  verdicts: ["holds"],
  proofs: [proof()],
  conditions: [{ key: "reynolds", name: "Reynolds number", value: 1e4 }],
  physics: { time: "steady", compressible: false },
  ...change,
});
const context = (change: Partial<CredibilityContext> = {}): CredibilityContext => ({
  cases: [],
  caseId: "c",
  physics: { time: "steady", compressible: false },
  conditions: 4,
  people: [],
  reports: 0,
  ...change,
});
const e = evidenceOf(FAMILY, { yardsticks: [TABLE] });
const a = assessCase(e);
const facts = (change: Partial<CredibilityContext> = {}, of = e, assessed = a) => factsOf(of, assessed, context(change), "q");

describe("what bears on credibility, read off an assessment", () => {
  test("the solution: meshes that count, settled, every source measured, the formal order, its size over the limit", () => {
    const { solution } = facts();
    expect(solution).toMatchObject({ meshes: 3, settled: true, open: [], byReason: [], orderAgrees: true });
    const numerical = a.rules[0].sources.filter((s) => s.group !== "input");
    expect(solution.overLimit).toBeCloseTo(Math.hypot(...numerical.map((s) => s.relative ?? 0)) / e.quantities[0].limit, 12);
    const crooked = [16, 32, 64].map((n) => runOf(n, 10 + 4 / n));
    const first = evidenceOf(crooked, { yardsticks: [TABLE] });
    expect(facts({}, first, assessCase(first)).solution.orderAgrees).toBe(false);
  });
  test("a source settled by a person is by reason, unless it was measured elsewhere", () => {
    const measured = evidenceOf(FAMILY, { kind: "measured", yardsticks: [TABLE] });
    const said = (kind: "bounded" | "measured") => {
      const settlement = {
        source: "domain",
        quantityKey: null,
        kind,
        relative: 0.001,
        reason: "r",
        by: "H. M.",
        at: "2026-04-01T00:00:00Z",
        setupHash: "now",
      };
      const of = { ...measured, settlements: [settlement] };
      return factsOf(of, assessCase(of), context(), "q");
    };
    expect(facts({}, measured, assessCase(measured)).solution.open).toEqual(["domain"]);
    expect(said("bounded").solution).toMatchObject({ open: [], byReason: ["domain"] });
    expect(said("measured").solution).toMatchObject({ open: [], byReason: [] });
  });
  test("validation: what decides, what does not, and whether two agree", () => {
    const two = (value: number) => {
      const of = evidenceOf(FAMILY, {
        yardsticks: [
          TABLE,
          { ...TABLE, key: "z", name: "Second", values: [{ ...TABLE.values[0], value }] },
          { ...TABLE, key: "p", name: "Purlin", kind: "other-code" },
        ],
      });
      return factsOf(of, assessCase(of), context(), "q").validation;
    };
    expect(two(10.01)).toMatchObject({ complete: 2, agree: true, weak: ["Purlin, another code"] });
    expect(two(10.1).agree).toBe(false);
    expect([...two(10.01).deciding].sort()).toEqual(["Second", "Table"]);
  });
  test("the code: only exact cases of this very code count; one field below its order is no proof, and is named", () => {
    const cases = [
      other("plates"),
      other("wake", { proofs: [proof(), proof({ field: "p", verdict: "below-order", order: 1 })] }),
      other("tube", { physics: { time: "transient", compressible: true } }),
      other("above", { proofs: [proof({ verdict: "above-order", order: 2.9 })] }),
      other("box", { kind: "published" }),
      other("Lintel's", { codes: ["Lintel"], judged: "Lintel", proofs: [proof({ code: "Lintel" })] }),
      other("met by another", { codes: ["bench", "Lintel"], judged: "Lintel", proofs: [] }),
      other("short", { verdicts: ["fails"], proofs: [proof({ verdict: "too-few" })] }),
    ];
    expect(facts({ cases }).code).toEqual({
      name: "bench",
      met: ["plates", "wake", "tube", "above"],
      orderShown: ["plates", "tube"],
      sameKind: 1,
      short: ["p in wake"],
    });
  });
  test("use history: other judged cases of the programme with this code; near ones held within a factor of three", () => {
    const at = (value: number) => [{ key: "reynolds", name: "", value }];
    const cases = [
      other("c"),
      other("near", { conditions: at(2.9e4) }),
      other("far", { conditions: at(3.1e4) }),
      other("failed", { verdicts: ["holds", "fails"] }),
      other("open", { verdicts: ["none"] }),
      other("elsewhere", { near: false }),
      other("other code", { codes: ["Lintel"], judged: "Lintel" }),
      // Runs of this code are there, and what was judged are another's.
      other("both, the other judged", { codes: ["bench", "Lintel"], judged: "Lintel", verdicts: ["fails"] }),
    ];
    expect(facts({ cases }).history).toEqual({ judged: ["near", "far", "failed"], near: ["near"], failed: ["failed"] });
  });
  test("inputs, people and what was varied", () => {
    expect(facts().varied).toEqual(["mesh"]);
    expect(facts().inputs).toMatchObject({ stops: [], given: 0, conditions: 4, propagated: false, byRuns: false });
    const wrong = { ...e, setup: { ...SETUP, fluidName: "air", temperatureK: 277.15, pressurePa: 101325, densityKgM3: 1.724 } };
    expect(facts({}, wrong, assessCase(wrong)).inputs.stops.length).toBeGreaterThan(0);
    const people = [
      { initials: "H. M.", role: "prepares" },
      { initials: "K. B.", role: "checks and approves" },
    ];
    expect(facts({ people, reports: 2 }).people).toEqual({ named: 2, checks: true, approves: true, reports: 2 });
  });
});
