import { describe, expect, test } from "vitest";
import { randomFrom } from "../numeric/random.ts";
import { setupOf } from "../problems/caseSetup.ts";
import { benchProblem } from "../problems/catalogue.ts";
import type { QuantitySpec } from "../problems/problem.ts";
import { assessCase } from "./assessCase.ts";
import type { CaseEvidence, RunEvidence } from "./evidence.ts";
import { marginFor } from "./margin.ts";
import { RULE_TEXTS } from "./rulesText.ts";
import { STAGES } from "./stages.ts";

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
      iteration: steps.map((i) => i + 1),
      residuals: { mass: steps.map((i) => rate ** i) },
      quantities: { q: steps.map((i) => value + rate ** i) },
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
    title: "t",
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
    openFindings: 0,
    reports: 0,
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
    expect(a.stages.map((s) => s.stage)).toEqual([...STAGES]);
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
      { key: "l", name: "lift", symbol: "L", unit: q.unit, limit: 0.05 },
      { key: "e", name: "fan efficiency", symbol: "eta", unit: "1", limit: 0.05 },
    ];
    const lifting = delivering({ quantities: { q: 10.015625, l: 0.8, e: 1.02 } });
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
  test("a yardstick outside its range fails however well it agrees", () => {
    const outside = evidence(family).yardsticks.map((y) => ({ ...y, validity: { sentence: "", inside: false } }));
    expect(word(evidence(family, { yardsticks: outside }))).toBe("fails");
  });
  test("a changed set-up makes everything stale and claims nothing", () => {
    const a = assessCase(evidence(family, { setupHash: "later" }));
    expect(a.stale).toBe(true);
    expect(a.verdicts[0]).toMatchObject({ word: "stale", state: "stale" });
    expect(a.verdicts[0].sentence).toContain("nothing is claimed");
    expect([a.board.settled.state, a.board.refined.state, a.board.compared.state]).toEqual(["stale", "stale", "stale"]);
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

describe("records that are averaged", () => {
  const wander = randomFrom(4);
  const noisy = Array.from({ length: 900 }, (_, i) => 10.1 + 3 * Math.exp(-i / 25) + 0.4 * (wander() - 0.5));
  const restless = (judging?: RunEvidence["judging"]): RunEvidence =>
    run(64, noisy[899], {
      history: {
        iteration: noisy.map((_, i) => i + 1),
        residuals: { mass: noisy.map((_, i) => Math.max(0.5 ** i, 1e-7)) },
        quantities: { q: noisy },
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
