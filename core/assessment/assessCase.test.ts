import { describe, expect, test } from "vitest";
import { randomFrom } from "../numeric/random.ts";
import { benchProblem } from "../problems/build/catalogue.ts";
import { setupOf } from "../problems/describe/caseSetup.ts";
import type { CaseEvidence } from "../records/case.ts";
import type { QuantitySpec } from "../records/quantity.ts";
import type { RunEvidence } from "../records/run.ts";
import type { Settlement } from "../records/settlement.ts";
import type { Remark, State } from "../remarks/remark.ts";
import { assessCase } from "./assessCase.ts";
import { marginFor } from "./registry.ts";
import { STAGES } from "./results/stage.ts";
import { RULE_TEXTS } from "./rules.ts";
import { judge, type Part } from "./verdict/verdict.ts";

const problem = benchProblem("plates");
const parameters = Object.fromEntries(problem.parameters.map((s) => [s.key, s.preset]));
const q: QuantitySpec = { key: "q", name: "drag", symbol: "F", unit: "N", limit: 0.02 };

/** A run whose drag lies a known distance from 10 N, with a record that settles or does not. */
function run(n: number, value: number, change: Partial<RunEvidence> = {}, rate = 0.5): RunEvidence {
  const steps = Array.from({ length: 40 }, (_, i) => i);
  return {
    id: `run-${n}-${value}`,
    label: `${n} × ${n}`,
    origin: "bench",
    code: "bench",
    state: "done",
    setupHash: "now",
    mesh: { label: `${n} × ${n}`, cells: n * n, spacing: 1 / n, dimension: 2 },
    history: {
      iteration: Float64Array.from(steps.map((i) => i + 1)),
      residuals: { mass: Float64Array.from(steps.map((i) => rate ** i)) },
      quantities: { q: Float64Array.from(steps.map((i) => value + rate ** i)) },
    },
    result: {
      quantities: { q: value },
      balance: {
        boundaries: [
          { name: "in", mass: -1 },
          { name: "out", mass: 1 },
        ],
      },
      profiles: [],
      errorNorms: [],
    },
    finishedAt: "2026-04-01T10:00:00Z",
    seconds: n / 10,
    ...change,
  };
}

function evidence(runs: RunEvidence[], change: Partial<CaseEvidence> = {}): CaseEvidence {
  return {
    caseId: "c",
    kind: "published",
    formalOrder: 2,
    setup: setupOf({
      problemId: "plates",
      parameters,
      fluid: { name: "air", temperatureK: 277.15, pressurePa: 101325 },
      numerics: { scheme: "central", dropOrders: 6, maxIterations: 100 },
    }),
    setupHash: "now",
    dropTarget: 6,
    quantities: [q],
    yardsticks: [
      {
        key: "y",
        name: "Table",
        kind: "table",
        source: "s",
        validity: { sentence: "", inside: true },
        values: [{ quantityKey: "q", value: 10, standardUncertainty: 0.01, uncertaintyNote: "" }],
        profiles: [],
      },
    ],
    runs,
    ...change,
  };
}

/** 10 + 64 h^2 on 16, 32, 64 cells a side: 10.25, 10.0625, 10.015625 */
const family = [16, 32, 64].map((n) => run(n, 10 + 64 / n ** 2));

describe("a sound case", () => {
  const a = assessCase(evidence(family));
  test("finds the order and the limit it was made with, and its verdict holds", () => {
    const r = a.refinement[0].result;
    expect(r?.kind === "monotone" && [Number(r.order.toFixed(9)), Number(r.extrapolated?.toFixed(9))]).toEqual([2, 10]);
    expect(a.verdicts[0]).toMatchObject({ word: "holds", state: "holds", reasons: [] });
    expect(a.ladder).toEqual(["run-64-10.015625", "run-32-10.0625", "run-16-10.25"]);
  });
  test("the rule holds every source; the band is twice the root of the squares", () => {
    const rule = a.rules[0];
    expect(rule.missing).toEqual([]);
    const u95 = rule.sources.filter((s) => s.group !== "input").map((s) => s.relative ?? 0);
    expect(rule.uNum).toBeCloseTo(Math.hypot(...u95) / 2, 14);
    expect(rule.band).toBeCloseTo(2 * Math.hypot(rule.uNum ?? 0, 0.001), 14);
    expect(rule.difference).toBeCloseTo(0.0015625, 12);
    expect(rule.dominant).toBe("reference");
  });
  test("every stage has its line, every margin its sentences, every rule they name its text", () => {
    expect(a.stages.map((s) => s.stage)).toEqual(STAGES.filter((s) => s !== "report"));
    const known = new Set(RULE_TEXTS.map((r) => r.rule));
    for (const stage of STAGES) {
      for (const note of marginFor(stage, evidence(family), a, "q")?.notes ?? []) {
        expect(note.sentence).not.toMatch(/undefined|NaN|null/);
        if (note.rule) expect(known).toContain(note.rule);
      }
    }
  });
  test("the order in which runs were made does not matter", () => {
    expect(assessCase(evidence([...family].reverse()))).toEqual(a);
  });
});

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

describe("sources that a person settles", () => {
  const measured = (change: Partial<CaseEvidence> = {}) => evidence(family, { kind: "measured", ...change });
  const said = (source: Settlement["source"], kind: Settlement["kind"], relative?: number, more: Partial<Settlement> = {}): Settlement => ({
    source,
    quantityKey: null,
    kind,
    relative,
    reason: "walls all round",
    by: "H. M.",
    at: "2026-04-03T08:00:00Z",
    setupHash: "now",
    ...more,
  });
  const source = (e: CaseEvidence, key: string) => assessCase(e).rules[0].sources.find((s) => s.key === key);
  test("does not apply, bounded, estimated: signed, dated, and only the estimate is a remark", () => {
    const closed = assessCase(measured({ settlements: [said("domain", "not-applicable"), said("inputs", "bounded", 0.004)] }));
    expect(closed.rules[0].missing).toEqual([]);
    expect(closed.rules[0].sources.find((s) => s.key === "domain")?.note).toBe("does not apply by H. M. on 2026-04-03: walls all round");
    expect(closed.verdicts[0].word).toBe("holds");
    const guessed = assessCase(measured({ settlements: [said("domain", "estimated", 0.001), said("inputs", "bounded", 0.004)] })).verdicts[0];
    expect(guessed.word).toBe("holds with a remark");
    expect(guessed.reasons.map((r) => r.sentence)).toEqual(["domain is an estimate of H. M., not measured"]);
  });
  test("what was said enters u_val: numerical by the numerical part, inputs by theirs", () => {
    const c = assessCase(measured({ settlements: [said("domain", "bounded", 0.006), said("inputs", "bounded", 0.008)] })).comparison.values.q[0];
    expect(c.uInput / c.scale).toBeCloseTo(0.004, 12);
    expect(c.uNum / c.scale).toBeGreaterThan(0.003);
    expect(c.uVal).toBeCloseTo(Math.hypot(c.uNum, c.uInput, c.uReference), 12);
  });
  test("a measured source is not overruled; a statement of another quantity or an earlier set-up does not count", () => {
    expect(source(measured({ settlements: [said("mesh", "estimated", 0.5)] }), "mesh")?.settled).toBeUndefined();
    expect(source(measured({ settlements: [said("domain", "bounded", 0.1, { quantityKey: "other" })] }), "domain")?.relative).toBeUndefined();
    const old = source(measured({ settlements: [said("domain", "bounded", 0.1, { setupHash: "before" })] }), "domain");
    expect(old?.relative).toBeUndefined();
    expect(old?.note).toContain("has to be said again");
  });
  test("of one quantity beats of all", () => {
    const both = [said("domain", "bounded", 0.2, { quantityKey: "q" }), said("domain", "bounded", 0.1)];
    expect(source(measured({ settlements: both }), "domain")?.relative).toBe(0.2);
  });
  test("round-off of another code: by its precision, else half the last digit it printed", () => {
    const foreign = (values: number[]) => [
      run(64, values[values.length - 1], {
        origin: "brought-in",
        code: "Lintel",
        history: { iteration: Float64Array.from(values.map((_, i) => i + 1)), residuals: {}, quantities: { q: Float64Array.from(values) } },
      }),
    ];
    const printed = Array.from({ length: 40 }, (_, i) => Number((10 + 0.5 ** i).toPrecision(5)));
    const half = source(evidence(foreign(printed)), "round-off");
    expect(half?.relative).toBeCloseTo(0.0005 / 10, 12);
    expect(half?.note).toContain("half the last digit");
    expect(source(evidence(foreign(printed), { precision: { Lintel: "single" } }), "round-off")?.relative).toBeCloseTo(6e-8 * 64, 15);
    expect(source(evidence(foreign(printed), { precision: { Lintel: "double" } }), "round-off")?.relative).toBeLessThan(1e-13);
  });
  test("inputs: typed uncertainties times typed sensitivities, by squares; a silent one keeps the source open", () => {
    const inputs = [
      { key: "U", label: "Velocity", value: 2, unit: "m/s", uncertainty: 0.02, sensitivities: { q: 2 } },
      { key: "rho", label: "Density", value: 1.25, unit: "kg/m^3", uncertainty: 0.0125, sensitivities: { q: 1 } },
    ];
    const found = source(measured({ inputs }), "inputs");
    const size = 10.015625 / 10;
    expect(found?.relative).toBeCloseTo(Math.hypot(0.02, 0.01) * size, 12);
    const silent = source(measured({ inputs: [inputs[0], { ...inputs[1], sensitivities: {} }] }), "inputs");
    expect(silent?.relative).toBeUndefined();
    expect(silent?.note).toBe("how drag answers to density is not known");
  });
  test("sensitivities from a sweep and through a formula", () => {
    const velocity = { key: "U", label: "Velocity", value: 2, unit: "m/s", uncertainty: 0.02, sensitivities: {} };
    const swept = [1.8, 2, 2.2].map((U) => ({ parameters: { U, other: 1 }, quantities: { q: 3 * U ** 1.7 } }));
    expect(source(measured({ inputs: [velocity], swept }), "inputs")?.relative).toBeCloseTo(1.7 * 0.01 * (10.015625 / 10), 10);
    const coefficient: QuantitySpec = { key: "d1", name: "coefficient", symbol: "d1", unit: "1", limit: 0.02 };
    const derived = {
      specs: [{ key: "d1", formula: "q / (U^2 * A)", unit: "N s^2/m^4" }],
      inputs: [
        { name: "U", unit: "m/s", value: 2 },
        { name: "A", unit: "m^2", value: 4 },
      ],
    };
    const a = assessCase(
      measured({ quantities: [q, { ...coefficient, unit: "N s^2/m^4" }], derived, inputs: [{ ...velocity, sensitivities: { q: 2 } }] }),
    );
    // The force goes with the square of the velocity and is divided by it: the coefficient does not answer at all.
    expect(a.rules[1].sources.find((s) => s.key === "inputs")?.relative).toBeCloseTo(0, 12);
  });
});

describe("verdict: every combination", () => {
  const states: readonly State[] = ["holds", "remark", "fails", "none"];
  const remark = (rule: string, state: State): Remark[] =>
    state === "fails"
      ? [{ rule, severity: "stop", sentence: `${rule} stops.` }]
      : state === "remark"
        ? [{ rule, severity: "doubt", sentence: `${rule} doubts.` }]
        : [];
  const part = (stage: "question" | "settling" | "balance" | "refinement", state: State): Part => ({ stage, state, remarks: remark(stage, state) });
  const verdict = (setup: State, runs: State, comparison: State, open: boolean, byHand: boolean, stale: boolean) =>
    judge({
      quantity: q,
      stale,
      broughtIn: true,
      parts: [part("question", setup), part("settling", runs), part("balance", "holds"), part("refinement", "holds")],
      refinement: { key: "q", rungs: [], limit: 0.02, remarks: [], state: "holds", headline: "" },
      comparison: { state: comparison, reasons: comparison === "holds" ? [] : [`comparison ${comparison}`] },
      rule: {
        quantityKey: "q",
        scale: 1,
        value: 1,
        missing: open ? ["domain"] : [],
        sources: [
          { key: "domain", name: "domain", group: "numerical", stage: "refinement", note: "n", ...(open ? {} : { relative: 0.01 }) },
          {
            key: "mesh",
            name: "mesh",
            group: "numerical",
            stage: "refinement",
            note: "n",
            relative: 0.01,
            ...(byHand ? { settled: { kind: "estimated" as const, by: "H. M.", reason: "r" } } : {}),
          },
        ],
      },
    });
  const flags = [false, true];
  test("512 of them follow the order: stale, fails, incomplete, remark, holds", () => {
    let count = 0;
    for (const setup of states)
      for (const runs of states)
        for (const comparison of states)
          for (const open of flags)
            for (const byHand of flags)
              for (const stale of flags) {
                const v = verdict(setup, runs, comparison, open, byHand, stale);
                const has = (s: State) => [setup, runs, comparison].includes(s);
                // Stages without evidence show it as an open source; the comparison has no source of its own.
                const word = stale
                  ? "stale"
                  : has("fails")
                    ? "fails"
                    : open || comparison === "none"
                      ? "incomplete"
                      : has("remark") || byHand
                        ? "holds with a remark"
                        : "holds";
                expect(v.word, JSON.stringify({ setup, runs, comparison, open, byHand, stale })).toBe(word);
                expect(v.reasons.length > 0, v.word).toBe(word !== "holds");
                expect(v.next !== undefined).toBe(word !== "holds");
                for (const r of v.reasons) expect(r.sentence).not.toMatch(/holds with a remark$/);
                count++;
              }
    expect(count).toBe(512);
  });
  test("what fails comes first, with its rule and page; an open source names what settles it", () => {
    const v = verdict("remark", "fails", "holds", true, false, false);
    expect(v.reasons.map((r) => [r.sentence, r.go])).toEqual([
      ["settling stops", "settling"],
      ["the domain error is open: n", "refinement"],
      ["question doubts", "question"],
    ]);
    expect(v.settles[0]).toMatchObject({ source: "domain", go: "runs" });
    expect(verdict("holds", "holds", "holds", true, false, false).next?.sentence).toContain("no far field");
  });
});

describe("records that are averaged", () => {
  const wander = randomFrom(4);
  const noisy = Array.from({ length: 900 }, (_, i) => 10.1 + 3 * Math.exp(-i / 25) + 0.4 * (wander() - 0.5));
  const restless = (judging?: RunEvidence["judging"]): RunEvidence =>
    run(64, noisy[899], {
      history: {
        iteration: Float64Array.from(noisy.map((_, i) => i + 1)),
        residuals: { mass: Float64Array.from(noisy.map((_, i) => Math.max(0.5 ** i, 1e-7))) },
        quantities: { q: Float64Array.from(noisy) },
      },
      judging,
    });
  const others = [run(32, 10.4), run(16, 11.6)];

  test("a steady run that wanders is offered its last N; the last value stands until someone says so", () => {
    const a = assessCase(evidence([restless(), ...others]));
    expect(a.settling[0].averages[0]).toMatchObject({ key: "q", adopted: false, abscissa: "iterations" });
    expect(a.settling[0].remarks.map((r) => r.rule)).toContain("average-last");
    expect(a.rules[0].value).toBe(noisy[899]);
    expect(a.rules[0].sources.map((s) => s.key)).not.toContain("averaging");
  });
  test("the adopted mean is the run's value everywhere, its uncertainty a source of its own in place of the iteration error", () => {
    const a = assessCase(evidence([restless({ average: true }), ...others]));
    const [average] = a.settling[0].averages;
    expect(Math.abs(average.mean - 10.1)).toBeLessThan(2 * average.expanded);
    expect(a.rules[0].value).toBe(average.mean);
    expect(a.rules[0].sources.find((s) => s.key === "averaging")?.relative).toBeCloseTo(average.expanded / a.rules[0].scale, 12);
    expect(a.rules[0].sources.find((s) => s.key === "iteration")?.relative).toBe(0);
    expect(a.settling[0].remarks.map((r) => r.rule)).not.toContain("iteration-error");
  });
  test("a cut by hand and a start level by hand are followed", () => {
    const a = assessCase(evidence([restless({ average: true, cut: 400, startEntry: 3 }), ...others]));
    expect(a.settling[0].averages[0]).toMatchObject({ cut: 400, cutBy: "hand" });
    expect(a.settling[0].residuals[0].start).toBe(0.25);
  });
});

test("an answered remark no longer counts against the case; to other figures the answer does not hold", () => {
  const e = evidence([run(32, 10)]);
  const setup = { ...e.setup, dropOrders: 3 };
  const [remark] = assessCase({ ...e, setup }).setup.remarks;
  expect(remark).toMatchObject({ rule: "stopping-tolerance", severity: "doubt" });
  const answers = [{ rule: remark.rule, sentence: remark.sentence, reason: "a first look only", at: "2026-04-02T09:00:00Z" }];
  const answered = assessCase({ ...e, setup, answers }).setup;
  expect(answered.state).toBe("holds");
  expect(answered.remarks[0]).toMatchObject({ severity: "note", answered: { reason: "a first look only", at: "2026-04-02T09:00:00Z" } });
  expect(assessCase({ ...e, setup: { ...setup, dropOrders: 2 }, answers }).setup.state).toBe("remark");
});

test("derived quantities are values, records and ladders like any other; their parts are named", () => {
  const double: QuantitySpec = { key: "d1", name: "coefficient", symbol: "d1", unit: "1", limit: 0.02 };
  const e = evidence([run(64, 10), run(32, 10.3), run(16, 11.5)]);
  const derived = {
    specs: [{ key: "d1", formula: "q / (0.5 * rho * U^2 * A)", unit: "1" }],
    inputs: [
      { name: "rho", unit: "kg/m^3", value: 1.25 },
      { name: "U", unit: "m/s", value: 2 },
      { name: "A", unit: "m^2", value: 4 },
    ],
  };
  const a = assessCase({ ...e, quantities: [...e.quantities, double], derived });
  expect(a.rules[1].value).toBe(1);
  expect(a.refinement[1].relative).toBeCloseTo(a.refinement[0].relative ?? 0, 10);
  expect(a.settling[0].quantities[1].relative).toBeCloseTo(a.settling[0].quantities[0].relative, 3);
  expect(a.derived[0]).toMatchObject({ uses: expect.arrayContaining(["q", "rho", "U", "A"]), value: 1 });
});
