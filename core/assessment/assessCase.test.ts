import { describe, expect, test } from "vitest";
import { randomFrom } from "../numeric/random.ts";
import type { QuantitySpec } from "../records/quantity.ts";
import type { RunEvidence } from "../records/run.ts";
import { assessCase } from "./assessCase.ts";
import { DRAG, evidenceOf, FAMILY, TABLE } from "./evidenceForTests.ts";
import { evidence, family, run } from "./familyForTests.ts";
import { marginFor } from "./registry.ts";
import { STAGES } from "./results/stage.ts";
import { RULE_TEXTS } from "./rules.ts";

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

describe("what makes evidence worthless, and what only makes an interval wide", () => {
  const strict = { quantities: [{ ...DRAG, limit: 1e-5 }] };
  test("a mesh coarser than its limit still has an interval, which breaks the limit; the next mesh is told with its cells", () => {
    const [v] = assessCase(evidenceOf(FAMILY, { ...strict, yardsticks: [TABLE] })).verdicts;
    expect(v.word).toBe("fails");
    expect(v.claim.kind).toBe("model-error");
    expect(v.next).toMatchObject({ go: "refinement", gain: { to: 1e-5, sentence: expect.stringContaining("cells") } });
  });
  test("a blocking finding fails the verdict and voids the claim of its quantity; another one is a remark", () => {
    const of = (blocking: boolean) =>
      assessCase(
        evidenceOf(FAMILY, { yardsticks: [TABLE], openFindings: [{ title: "odd wake", quantityKey: "q", ...(blocking ? { blocking: true } : {}) }] }),
      ).verdicts[0];
    expect(of(true)).toMatchObject({ word: "fails", claim: { kind: "nothing", sentence: expect.stringContaining("“odd wake” blocks it") } });
    expect(of(false).word).not.toBe("fails");
    expect(of(false).claim.kind).toBe("model-error");
  });
  test("a density that no air has leaves nothing to claim, whatever the interval would be", () => {
    const e = evidenceOf(FAMILY, { yardsticks: [TABLE] });
    const setup = { ...e.setup, fluidName: "air", temperatureK: 277.15, pressurePa: 101325, densityKgM3: 1.724 };
    const [v] = assessCase({ ...e, setup }).verdicts;
    expect(v.word).toBe("fails");
    expect(v.claim).toMatchObject({ kind: "nothing", sentence: expect.stringMatching(/^Nothing is claimed of drag: Density 1\.724/) });
  });
});
