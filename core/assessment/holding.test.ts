import { describe, expect, test } from "vitest";
import type { CaseEvidence } from "../records/case.ts";
import type { RunEvidence } from "../records/run.ts";
import { assessCase } from "./assessCase.ts";
import { evidence, family, q, run } from "./familyForTests.ts";
import { marginFor } from "./registry.ts";

describe("what keeps a verdict from holding", () => {
  const word = (e: CaseEvidence) => assessCase(e).verdicts[0].word;
  test("no run: incomplete, and nothing is compared", () => {
    const a = assessCase(evidence([]));
    expect(a.verdicts[0].word).toBe("incomplete");
    expect(a.board.compared).toEqual({ state: "none", figure: "" });
  });
  test("two meshes: the mesh error is missing, not zero", () => {
    const a = assessCase(evidence(family.slice(1)));
    expect(a.rules[0].missing).toEqual(["mesh"]);
    expect(a.rules[0].band).toBeUndefined();
    expect(a.verdicts[0].word).toBe("incomplete");
  });
  test("a stalled finest run fails", () => expect(word(evidence([...family.slice(0, 2), run(64, 10.015625, {}, 0.999)]))).toBe("fails"));
  test("lost mass fails", () => {
    const leak = run(64, 10.015625, {
      result: {
        quantities: { q: 10.015625 },
        balance: {
          boundaries: [
            { name: "in", mass: -1 },
            { name: "out", mass: 0.99 },
          ],
        },
        profiles: [],
        errorNorms: [],
      },
    });
    expect(word(evidence([...family.slice(0, 2), leak]))).toBe("fails");
  });
  const delivering = (result: Partial<NonNullable<RunEvidence["result"]>>) => {
    const plain = run(64, 10.015625);
    return run(64, 10.015625, { result: { ...plain.result!, ...result } });
  };
  const sentences = (e: CaseEvidence) => marginFor("balance", e, assessCase(e), "q")?.notes ?? [];
  test("a broken law fails, a second computation beyond the mesh's uncertainty is a remark; the margin says both with their rules", () => {
    const leaky = delivering({ laws: [{ law: "wall-flow", share: 1e-3 }] });
    const e = evidence([...family.slice(0, 2), leaky]);
    expect(word(e)).toBe("fails");
    expect(sentences(e)).toContainEqual(expect.objectContaining({ heading: "Does not hold", rule: "wall-flow" }));
    const twice = delivering({
      second: [{ quantityKey: "q", name: "drag", unit: "N", first: 10, firstBy: "the surface", second: 10.3, secondBy: "a box" }],
    });
    const f = evidence([...family.slice(0, 2), twice]);
    expect(word(f)).toBe("holds with a remark");
    expect(sentences(f)).toContainEqual(
      expect.objectContaining({ heading: "A doubt", rule: "second-computation", sentence: expect.stringContaining("by a box differs by 3.0") }),
    );
  });
  test("lift of a body said to be symmetric, and an efficiency above one, are against the laws", () => {
    const quantities = [
      q,
      { key: "l", name: "push across", symbol: "L", unit: q.unit, limit: 0.05, kind: "cross-force" as const },
      { key: "e", name: "share used", symbol: "eta", unit: "1", limit: 0.05, kind: "efficiency" as const },
      // A name says nothing: only what was stated counts.
      { key: "x", name: "lift efficiency", symbol: "x", unit: "1", limit: 0.05 },
    ];
    const lifting = delivering({ quantities: { q: 10.015625, l: 0.8, e: 1.02, x: 1.3 } });
    const laws = (facts: Record<string, number>) => {
      const e = evidence([...family.slice(0, 2), lifting], { quantities });
      return assessCase({ ...e, setup: { ...e.setup, facts } }).balance[0].laws.map((l) => [l.law, l.state]);
    };
    expect(laws({})).toEqual([["efficiency-below-one", "fails"]]);
    expect(laws({ symmetricFlow: 1 })).toEqual([
      ["no-lift", "fails"],
      ["efficiency-below-one", "fails"],
    ]);
  });
  test("settling and balance end with what to do next, from a typed result and with a rule", () => {
    const last = (stage: "settling" | "balance", runs: RunEvidence[]) => {
      const e = evidence(runs);
      return marginFor(stage, e, assessCase(e), "q")?.notes.at(-1);
    };
    expect(last("settling", family)).toMatchObject({ heading: "Next", rule: "residual-drop", go: "balance" });
    expect(last("balance", family)).toMatchObject({ heading: "Next", rule: "balance-limit", go: "refinement" });
    const falling = [...family.slice(0, 2), run(64, 10.015625, {}, 0.9)];
    expect(last("settling", falling)?.sentence).toMatch(/run on for about \d+ iterations/);
    const turned = {
      boundaries: [
        { name: "in", mass: 1 },
        { name: "out", mass: 1 },
      ],
    };
    expect(last("balance", [...family.slice(0, 2), delivering({ balance: turned })])?.sentence).toContain("Bring the table in again");
  });
  test("a difference beyond limit and noise fails", () => {
    const off = evidence(family).yardsticks.map((y) => ({ ...y, values: [{ ...y.values[0], value: 11 }] }));
    expect(word(evidence(family, { yardsticks: off }))).toBe("fails");
  });
  const [table] = evidence(family).yardsticks;
  const outside = { ...table, key: "out", name: "Old table", validity: { sentence: "", inside: false } };
  const at = (value: number, more: Partial<typeof table> = {}, standardUncertainty: number | undefined = 0.01) => ({
    ...table,
    name: `At ${value}`,
    key: `at-${value}`,
    ...more,
    values: [{ ...table.values[0], value, standardUncertainty }],
  });
  test("a yardstick outside its range fails however well it agrees, unless another holds", () => {
    expect(word(evidence(family, { yardsticks: [outside] }))).toBe("fails");
    expect(word(evidence(family, { yardsticks: [outside, table] }))).toBe("holds");
  });
  test("every yardstick is weighed: one 40 % away counts wherever it stands in the list", () => {
    const far = at(14, { kind: "measured" });
    for (const yardsticks of [
      [table, far],
      [far, table],
    ]) {
      const v = assessCase(evidence(family, { yardsticks })).verdicts[0];
      expect(v.word).toBe("fails");
      expect(v.reasons[0].sentence).toContain("At 14");
    }
  });
  test("another code's result decides nothing: far off it does not fail, alone it leaves the verdict incomplete", () => {
    const code = at(14, { kind: "other-code" });
    expect(word(evidence(family, { yardsticks: [table, code] }))).toBe("holds");
    const alone = assessCase(evidence(family, { yardsticks: [at(10, { kind: "other-code" })] })).verdicts[0];
    expect(alone.word).toBe("incomplete");
    expect(alone.reasons[0].sentence).toContain("agreement between codes is no truth");
  });
  test("yardsticks that contradict each other are a remark", () => {
    const v = assessCase(evidence(family, { yardsticks: [at(10), at(10.1)] })).verdicts[0];
    expect(v.word).toBe("holds with a remark");
    expect(v.reasons.map((r) => r.sentence).join()).toContain("differ by 1.0");
  });
  test("while a source is open nothing fails and nothing holds, however far off it is", () => {
    const open = assessCase(evidence(family.slice(2), { yardsticks: [at(14)] }));
    expect(open.verdicts[0].word).toBe("incomplete");
    expect(open.comparison.values.q[0]).toMatchObject({ state: "none", claim: "incomplete" });
    expect(open.rules[0].band).toBeUndefined();
    expect(open.rules[0].bandAtLeast).toBeGreaterThan(0);
    const unstated = { ...table, values: [{ quantityKey: "q", value: 10, uncertaintyNote: "none stated" }] };
    const noUncertainty = assessCase(evidence(family, { yardsticks: [unstated] }));
    expect(noUncertainty.rules[0].missing).toEqual(["reference"]);
    expect(noUncertainty.verdicts[0].word).toBe("incomplete");
  });
  test("a yardstick of exactly zero is counted in the reference velocity", () => {
    const speed = { ...q, unit: "m/s" };
    const runs = [16, 32, 64].map((n) => run(n, 1e-4 + 0.064 / n ** 2));
    const a = assessCase(evidence(runs, { quantities: [speed], yardsticks: [at(0, {}, 1e-5)] }));
    expect(a.rules[0].scaleName).toBe("the reference velocity");
    expect(a.rules[0].scale).toBe(a.setup.similarity.length ? evidence(runs).setup.velocityMS : Number.NaN);
    expect(a.comparison.values.q[0].sentence).toContain("of the reference velocity");
    expect(Math.abs(a.comparison.values.q[0].difference / a.comparison.values.q[0].scale)).toBeLessThan(0.1);
  });
  test("an uncertainty that misses the known truth is a named remark", () => {
    const off = assessCase(evidence(family, { yardsticks: [at(10.1)] }));
    expect(off.refinement[0].remarks.map((r) => r.rule)).toContain("uncertainty-misses");
    expect(off.refinement[0].remarks[0].sentence).toContain("does not cover it");
    expect(assessCase(evidence(family)).refinement[0].remarks).toEqual([]);
    expect(assessCase(evidence(family, { kind: "measured", yardsticks: [at(10.1)] })).refinement[0].remarks).toEqual([]);
  });
  test("a mesh uncertainty beyond the limit excuses no iteration error", () => {
    const wild = [16, 32, 64].map((n) => run(n, 10 + 640 / n));
    const s = assessCase(evidence(wild)).settling[0].quantities[0];
    expect([s.threshold, s.against]).toEqual([0.002, "limit"]);
  });
  test("a changed set-up makes everything stale and claims nothing", () => {
    const a = assessCase(evidence(family, { setupHash: "later" }));
    expect(a.stale).toBe(true);
    expect(a.verdicts[0]).toMatchObject({ word: "stale", state: "stale" });
    expect(a.verdicts[0].sentence).toContain("nothing is claimed");
    expect([a.board.settled.state, a.board.refined.state, a.board.compared.state]).toEqual(["stale", "stale", "stale"]);
    for (const stage of ["settling", "balance", "refinement", "comparison"] as const) {
      const margin = marginFor(stage, evidence(family, { setupHash: "later" }), a, "q");
      expect(margin?.verdict).toBe("Stale: made with an earlier set-up");
      expect(margin?.notes.map((n) => n.heading)).not.toContain("Settled");
      expect(margin?.notes.map((n) => n.sentence).join()).not.toContain("Nothing is left to do");
    }
  });
  test("one new run replaces all the old ones: nothing is mixed", () => {
    const fresh = run(16, 10.3, { id: "fresh", setupHash: "later" });
    const a = assessCase(evidence([...family, fresh], { setupHash: "later" }));
    expect(a.ladder).toEqual(["fresh"]);
    expect(a.stale).toBe(false);
  });
  test("of two runs on one mesh the later counts", () => {
    const later = run(64, 10.01, { id: "later", finishedAt: "2026-04-02T10:00:00Z" });
    expect(assessCase(evidence([later, ...family])).ladder[0]).toBe("later");
  });
  test("measured cases miss domain and inputs until someone measures them", () => {
    expect(assessCase(evidence(family, { kind: "measured" })).rules[0].missing).toEqual(["domain", "inputs"]);
  });
});
