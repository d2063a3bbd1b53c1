import { describe, expect, test } from "vitest";
import type { ErrorSource } from "../../method/budget/errorBudget.ts";
import type { CaseEvidence } from "../../records/case.ts";
import { readHistory } from "../../records/history.ts";
import type { RunEvidence } from "../../records/run.ts";
import { assessCase } from "../assessCase.ts";
import { DRAG, evidenceOf, FAMILY, runOf, TABLE } from "../evidenceForTests.ts";
import { leading } from "../stages/scale.ts";

const rule = (e: CaseEvidence) => assessCase(e).rules[0];
const source = (e: CaseEvidence, key: ErrorSource["key"]) => rule(e).sources.find((s) => s.key === key);
const keys = (e: CaseEvidence) => rule(e).sources.map((s) => s.key);
const foreign = (values: readonly number[] | undefined, change: Partial<RunEvidence> = {}) =>
  runOf(64, values?.at(-1) ?? 10, {
    origin: "brought-in",
    code: "Lintel",
    history: values && { iteration: Float64Array.from(values, (_, i) => i + 1), residuals: {}, quantities: { q: Float64Array.from(values) } },
    ...change,
  });

describe("which sources a quantity has", () => {
  test("a published case on the bench", () => expect(keys(evidenceOf())).toEqual(["round-off", "iteration", "mesh", "balance", "reference"]));
  test("a measured one has a domain and inputs besides", () =>
    expect(keys(evidenceOf(FAMILY, { kind: "measured" }))).toEqual(["round-off", "iteration", "mesh", "balance", "domain", "inputs", "reference"]));
  test("a record in time of another code has a time step; the bench refines step and mesh together", () => {
    const history = (r: RunEvidence) => ({ ...r.history!, time: r.history!.iteration.map((i) => i / 10), residuals: {} });
    const transient = FAMILY.map((r) => ({ ...r, history: history(r) }));
    expect(keys(evidenceOf(transient))).not.toContain("time-step");
    const outside = transient.map((r) => ({ ...r, origin: "brought-in" as const, code: "Lintel" }));
    expect(source(evidenceOf(outside), "time-step")).toMatchObject({ group: "numerical", note: "no runs with another time step" });
    expect(source(evidenceOf(outside), "time-step")?.relative).toBeUndefined();
  });
  describe("ladders of the bench add sources of their own", () => {
    const made = { code: "bench", orders: 6, "Courant number": 1, domain: 20 };
    const asked = (r: RunEvidence, change: object = {}): RunEvidence => ({ ...r, questionHash: "q", made: { ...made, ...change } });
    const other = (id: string, value: number, change: object) => asked(runOf(64, value, { id, setupHash: "other" }), change);
    const inTime = (r: RunEvidence): RunEvidence => ({
      ...r,
      history: { ...r.history!, time: r.history!.iteration.map((i) => i / 10), residuals: {} },
    });
    const family = FAMILY.map((r) => asked(r));
    const own = 10 + 64 / 64 ** 2;
    const found = (more: readonly RunEvidence[], key: ErrorSource["key"], base = family) =>
      source(evidenceOf([...base, ...more], { questionHash: "q" }), key);

    test("two more extents of the domain: three times the last change over the scale, and how far the own one lies off", () => {
      const domain = found([other("d30", own + 0.02, { domain: 30 }), other("d40", own + 0.03, { domain: 40 })], "domain");
      // Over the yardstick's 10: 3 * 0.01 beyond the largest, 0.03 up to it.
      expect(domain?.relative).toBeCloseTo(0.006, 9);
      expect(domain?.note).toBe("extents of 40.0, 30.0, 20.0; the finest mesh has 20.0");
    });
    test("one extent only: open, and said so", () => expect(found([], "domain")).toMatchObject({ note: "no runs in another extent of the domain" }));
    test("a quantity of this very extent has no such source: another extent is another question", () => {
      const wider = [other("d30", own + 5, { domain: 30 }), other("d40", own + 9, { domain: 40 })];
      const e = evidenceOf([...family, ...wider], { questionHash: "q" });
      const bound = { ...e, quantities: e.quantities.map((q) => ({ ...q, ofDomain: true })) };
      expect(source(e, "domain")?.relative).toBeGreaterThan(1);
      expect(source(bound, "domain")).toBeUndefined();
      expect(assessCase(bound).ladders.list.find((l) => l.axis === "domain")?.quantities[0].relative).toBeUndefined();
    });
    test("a case without an extent has no such source", () => {
      const plain = family.map((r) => ({ ...r, made: { code: "bench" } }));
      expect(found([], "domain", plain)).toBeUndefined();
    });
    test("Courant numbers on the finest mesh: the uncertainty of the own one, order two observed", () => {
      const value = (courant: number) => own + 0.01 * (courant ** 2 - 1);
      const steps = [2, 4].map((c) => inTime(other(`c${c}`, value(c), { "Courant number": c })));
      const timed = family.map(inTime);
      const step = found(steps, "time-step", timed);
      expect(step?.relative).toBeCloseTo(0.00125, 6);
      expect(step?.note).toMatch(/^Courant numbers of 1\.00, 2\.00, 4\.00, on 64 × 64: order 2\.00 observed; spacing and step fall together/);
      // Longer steps than the ladder's finest: what they differ by is added.
      const finer = [0.25, 0.5].map((c) => inTime(other(`c${c}`, value(c), { "Courant number": c })));
      const more = found(finer, "time-step", timed);
      expect(more?.relative).toBeCloseTo(0.001 * (1 - 0.25 ** 2) + (0.00125 * 0.25 ** 2) / 1, 6);
      expect(found([], "time-step", timed)).toBeUndefined();
    });
  });
  describe("runs of another code with several time steps on one mesh", () => {
    const stepped = (timeStepS: number, value: number, n = 64): RunEvidence => {
      const r = runOf(n, value, { id: `t${n}-${timeStepS}`, origin: "brought-in", code: "Lintel", stated: { timeStepS } });
      // A record that stands still: nothing is left of the iteration.
      const still = Float64Array.from(r.history!.iteration, () => value);
      return { ...r, history: { ...r.history!, time: r.history!.iteration.map((i) => i / 10), residuals: {}, quantities: { q: still } } };
    };
    const coarser = [16, 32].map((n) => stepped(0.04, 10 + 64 / n ** 2 + 0.4, n));
    const found = (...steps: [number, number][]) => source(evidenceOf([...coarser, ...steps.map(([dt, v]) => stepped(dt, v))]), "time-step");
    const first = (dt: number): [number, number] => [dt, 10 + 64 / 64 ** 2 + 10 * dt];
    test("three steps of a first-order scheme: 1.25 times what the last change leaves", () => {
      const s = found(first(0.04), first(0.02), first(0.01));
      expect(s?.relative).toBeCloseTo((1.25 * 0.1) / 10, 10);
      expect(s?.note).toBe("time steps of 0.0100, 0.0200, 0.0400 s on one mesh, order 1.00 observed, at most 1 used");
    });
    test("a better order than the least is not built on", () => {
      const second = (dt: number): [number, number] => [dt, 10 + 100 * dt * dt];
      const s = found(second(0.04), second(0.02), second(0.01));
      expect(s?.relative).toBeCloseTo((3 * 0.03) / 10, 10);
      expect(s?.note).toContain("order 2.00 observed, at most 1 used");
    });
    test("a fourth, coarser step takes no part", () =>
      expect(found([0.08, 99], first(0.04), first(0.02), first(0.01))?.relative).toBeCloseTo(0.0125, 10));
    test("two are said to be too few; one is none", () => {
      expect(found(first(0.04), first(0.02))).toMatchObject({ note: "two time steps on one mesh; three are needed" });
      expect(found(first(0.04), first(0.02))?.relative).toBeUndefined();
      expect(found(first(0.04))?.note).toBe("no runs with another time step");
    });
    test("the ladder keeps to the step that every mesh has", () => {
      const a = assessCase(evidenceOf([...coarser, ...[0.01, 0.02, 0.04].map((dt) => stepped(...first(dt)))]));
      expect(a.ladder).toEqual(["t64-0.04", "t32-0.04", "t16-0.04"]);
    });
  });
  test("typed inputs count in any kind of case", () => {
    const inputs = [{ key: "U", label: "Velocity", value: 2, unit: "m/s", uncertainty: 0.02, sensitivities: { q: 2 } }];
    const found = rule(evidenceOf(FAMILY, { inputs }));
    const size = 10.015625 / 10;
    expect(found.sources.find((s) => s.key === "inputs")?.relative).toBeCloseTo(0.02 * size, 12);
    expect(found.uInput).toBeCloseTo(0.01 * size, 12);
    expect(rule(evidenceOf()).uInput).toBe(0);
    expect(rule(evidenceOf(FAMILY, { kind: "measured" })).uInput).toBeUndefined();
  });
  test("every open source is named once, and the largest known one dominates", () => {
    const r = rule(evidenceOf(FAMILY.slice(1), { kind: "measured" }));
    expect(r.missing).toEqual(["mesh", "domain", "inputs"]);
    expect(r.uNum).toBeUndefined();
    expect(rule(evidenceOf()).dominant).toBe("reference");
    const coarse = [16, 32, 64].map((n) => runOf(n, 10 + 640 / n ** 2));
    expect(rule(evidenceOf(coarse)).dominant).toBe("mesh");
  });
});

describe("round-off", () => {
  test("the bench: last digit of a double times the root of the cells", () =>
    expect(source(evidenceOf(), "round-off")?.relative).toBe(Number.EPSILON * 64));
  test("a stated precision: 6e-8 or half of epsilon, times the root of the cells", () => {
    const values = [9, 10, 10.25];
    const at = (precision: "single" | "double") => source(evidenceOf([foreign(values)], { precision: { Lintel: precision } }), "round-off");
    expect(at("single")?.relative).toBeCloseTo(6e-8 * 64, 18);
    expect(at("double")?.relative).toBe((Number.EPSILON / 2) * 64);
    expect(at("double")?.note).toContain("Lintel works in double precision, as stated");
    expect(source(evidenceOf([foreign(values, { mesh: undefined })], { precision: { Lintel: "single" } }), "round-off")?.relative).toBe(6e-8);
  });
  test("not stated: half the last digit that was printed, of the last 200 rows", () => {
    const printed = Array.from({ length: 300 }, (_, i) => (i < 90 ? 9.123456 : Number((10 + (i % 7) / 100).toFixed(2))));
    expect(source(evidenceOf([foreign(printed)]), "round-off")?.relative).toBeCloseTo(0.005 / 10, 12);
    expect(source(evidenceOf([foreign(Array.from({ length: 50 }, (_, i) => 10 + 1 / (i + 3)))]), "round-off")?.relative).toBe(Number.EPSILON * 64);
    expect(source(evidenceOf([foreign(undefined)]), "round-off")).toMatchObject({
      note: expect.stringContaining("half the last digit of the value in the file"),
    });
    expect(source(evidenceOf([foreign([10.5])].map((r) => ({ ...r, history: undefined }))), "round-off")?.relative).toBeCloseTo(0.05 / 10, 12);
  });
  test("without a run, or without a value, it is open", () => {
    expect(source(evidenceOf([]), "round-off")).toMatchObject({ note: "no run" });
    const silent = foreign(undefined, { result: { quantities: {}, profiles: [], errorNorms: [] } });
    expect(source(evidenceOf([silent]), "round-off")).toMatchObject({ note: "the precision of Lintel is not stated" });
    expect(source(evidenceOf([silent]), "round-off")?.relative).toBeUndefined();
  });
});

describe("iteration and balance", () => {
  test("what the record of the finest run leaves, over the scale", () => {
    // A record that halves its distance at every entry has as much left as the last entry is away.
    const left = 0.5 ** 39;
    const values = FAMILY.map((r) => r.result?.quantities.q ?? 0);
    expect(source(evidenceOf(), "iteration")?.relative).toBeCloseTo(left / 10, 14);
    expect(values).toHaveLength(3);
    const none = FAMILY.map((r) => ({ ...r, history: { ...r.history!, quantities: {} } }));
    expect(source(evidenceOf(none), "iteration")).toMatchObject({ note: "no record of this quantity over the iterations" });
    expect(source(evidenceOf(none), "iteration")?.relative).toBeUndefined();
  });
  test("a transient bench run has what its steps leave, an explicit one nothing", () => {
    const inTime = (residuals: Record<string, number[]>) => {
      const r = FAMILY[2];
      return { ...r, history: readHistory({ iteration: [1, 2, 3], time: [0.1, 0.2, 0.3], residuals, quantities: { q: [1, 2, 3] } }) };
    };
    expect(source(evidenceOf([inTime({ mass: [1e-7, 1e-7, 1e-7] })]), "iteration")?.relative).toBeCloseTo(1e-7, 12);
    expect(source(evidenceOf([inTime({})]), "iteration")).toMatchObject({ relative: 0, note: "explicit steps leave nothing to iterate" });
  });
  test("mass, else what else is conserved, over its throughput", () => {
    const leak = (out: number) => [
      ...FAMILY.slice(0, 2),
      {
        ...FAMILY[2],
        result: {
          ...FAMILY[2].result!,
          balance: {
            boundaries: [
              { name: "i", mass: -1 },
              { name: "o", mass: out },
            ],
          },
        },
      },
    ];
    expect(source(evidenceOf(leak(0.9997)), "balance")?.relative).toBeCloseTo(3e-4, 12);
    const heat = {
      boundaries: [
        { name: "i", scalars: { energy: [-2, 0] as const } },
        { name: "o", scalars: { energy: [1.999, 0] as const } },
      ],
    };
    const box = source(evidenceOf([...FAMILY.slice(0, 2), { ...FAMILY[2], result: { ...FAMILY[2].result!, balance: heat } }]), "balance");
    expect(box).toMatchObject({ relative: expect.closeTo(5e-4, 12), note: "net energy over throughput of the finest run" });
    const nothing = FAMILY.map((r) => ({ ...r, result: { ...r.result!, balance: undefined } }));
    expect(source(evidenceOf(nothing), "balance")).toMatchObject({ note: "no boundary fluxes" });
  });
});

describe("the reference", () => {
  const stated = (standardUncertainty: number | undefined, change: Partial<typeof TABLE> = {}) => ({
    ...TABLE,
    ...change,
    values: [{ ...TABLE.values[0], standardUncertainty }],
  });
  test("twice its standard uncertainty over the scale", () => {
    expect(source(evidenceOf(FAMILY, { yardsticks: [stated(0.03)] }), "reference")?.relative).toBeCloseTo(0.006, 12);
    expect(source(evidenceOf(FAMILY, { yardsticks: [stated(undefined)] }), "reference")?.relative).toBeUndefined();
    expect(source(evidenceOf(FAMILY, { yardsticks: [] }), "reference")).toMatchObject({ note: "no yardstick for this quantity" });
  });
  test("of several: those that hold here before those that do not, truths before other codes, the best known first", () => {
    const value = (y: typeof TABLE) => ({ yardstick: y, value: y.values[0] });
    const outside = stated(0.001, { key: "outside", validity: { sentence: "", inside: false } });
    const code = stated(0.001, { key: "code", kind: "other-code" });
    const rough = stated(0.5, { key: "rough" });
    const fine = stated(0.1, { key: "fine" });
    const silent = stated(undefined, { key: "silent" });
    const first = (...list: (typeof TABLE)[]) => leading(list.map(value))?.yardstick.key;
    expect(first(outside, code, silent, rough, fine)).toBe("fine");
    expect(first(outside, code, silent, rough)).toBe("rough");
    expect(first(outside, code, silent)).toBe("silent");
    expect(first(outside, code)).toBe("code");
    expect(first({ ...code, key: "both", validity: { sentence: "", inside: false } }, outside)).toBe("outside");
    expect(first()).toBeUndefined();
    expect(first(silent, { ...silent, key: "second" })).toBe("silent");
  });
});

test("the mean that counts replaces the iteration error by its own uncertainty", () => {
  const wave = Array.from({ length: 400 }, (_, i) => 10 + Math.sin(i * 1.3) + 0.2 * Math.sin(i * i));
  const averaged = runOf(64, 10, {
    history: { iteration: Float64Array.from(wave.map((_, i) => i + 1)), residuals: {}, quantities: { q: Float64Array.from(wave) } },
    judging: { average: true },
  });
  const e = evidenceOf([averaged], { quantities: [DRAG] });
  const a = assessCase(e).settling[0].averages[0];
  expect(source(e, "averaging")?.relative).toBeCloseTo((a.taken?.expanded ?? Number.NaN) / 10, 12);
  expect(source(e, "averaging")?.note).toContain(`mean of ${a.samples} samples`);
  expect(source(e, "iteration")).toMatchObject({ relative: 0, note: "the mean stands for the value; see averaging" });
});
