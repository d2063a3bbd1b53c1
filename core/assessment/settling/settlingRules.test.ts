import { describe, expect, test } from "vitest";
import { randomFrom } from "../../numeric/random.ts";
import { readHistory } from "../../records/history.ts";
import type { HistoryEvidence, RunEvidence } from "../../records/run.ts";
import { assessDerived, derivedSet, withDerived } from "../derived/derivedQuantities.ts";
import { DRAG, runOf } from "../evidenceForTests.ts";
import { averagesOf, withMeans } from "./averages.ts";
import { assessSettling } from "./settling.ts";

const steps = (n: number) => Array.from({ length: n }, (_, i) => i);
const run = (history: HistoryEvidence | undefined, change: Partial<RunEvidence> = {}) => runOf(64, 10, { label: "R1", history, ...change });
const steady = (n: number, residual: (i: number) => number, value: (i: number) => number, more: Partial<HistoryEvidence> = {}): HistoryEvidence => ({
  iteration: Float64Array.from(steps(n).map((i) => i + 1)),
  residuals: { mass: Float64Array.from(steps(n).map(residual)) },
  quantities: { q: Float64Array.from(steps(n).map(value)) },
  ...more,
});
const assess = (r: RunEvidence, mesh?: number, target = 6, scale = 10) =>
  assessSettling({ run: r, quantities: [DRAG], scales: { q: scale }, meshUncertainty: { q: mesh }, dropTarget: target });
const rules = (r: RunEvidence, mesh?: number, target = 6) => assess(r, mesh, target).remarks.map((x) => [x.rule, x.severity]);

describe("records that say nothing", () => {
  test("none, or an empty one", () => {
    const note = { rule: "no-history", severity: "note", sentence: "R1 has no record of its iterations." };
    expect(assess(run(undefined))).toMatchObject({ state: "none", remarks: [note] });
    expect(assess(run({ iteration: new Float64Array(), residuals: {}, quantities: {} })).state).toBe("none");
  });
  test("neither residuals nor quantities that were asked for", () => {
    const s = assess(run({ iteration: Float64Array.of(1, 2, 3), residuals: {}, quantities: { other: Float64Array.of(1, 2, 3) } }));
    expect(s).toMatchObject({ state: "none", quantities: [], residuals: [], tolerance: [], marks: [] });
    expect(s.smallestDrop).toBeUndefined();
  });
});

describe("the threshold of a quantity", () => {
  const settled = run(
    steady(
      40,
      (i) => 0.5 ** i,
      (i) => 10 + 0.5 ** i,
    ),
  );
  test.each([
    [undefined, 0.002, "limit"],
    [0.01, 0.001, "mesh uncertainty"],
    [0.02, 0.002, "mesh uncertainty"],
    [0.0201, 0.002, "limit"],
    [1e-10, 0.002, "limit"],
    [1.1e-9, 1.1e-10, "mesh uncertainty"],
  ] as const)("with a mesh uncertainty of %d it is %d, a tenth of its %s", (mesh, threshold, against) => {
    const [q] = assess(settled, mesh).quantities;
    expect(q.threshold).toBeCloseTo(threshold, 15);
    expect(q.against).toBe(against);
  });
  test("below it the quantity holds, at it not; a doubt names both figures", () => {
    const left = (size: number) =>
      run(
        steady(
          41,
          (i) => 0.5 ** i,
          (i) => 10 + size * 10 * 0.5 ** (i - 40),
        ),
      );
    expect(assess(left(0.0019)).quantities[0]).toMatchObject({ holds: true, relative: expect.closeTo(0.0019, 5) });
    expect(assess(left(0.0021)).quantities[0].holds).toBe(false);
    const [remark] = assess(left(0.0021)).remarks;
    expect(remark).toMatchObject({ rule: "iteration-error", severity: "doubt" });
    expect(remark.sentence).toMatch(/^R1: the iteration error left in drag \(0\.21.*, to stay below 0\.20.*\) is too large\.$/);
  });
  test("what still moves one way, or grows, has not settled however little it does so", () => {
    const drift = run(
      steady(
        400,
        (i) => 0.9 ** i,
        (i) => 10 + 1e-7 * i,
      ),
    );
    expect(assess(drift).quantities[0]).toMatchObject({ kind: "moving", holds: false });
    const growing = run(
      steady(
        80,
        (i) => 0.5 ** i,
        (i) => 10 + 1e-9 * 1.08 ** i,
      ),
    );
    expect(assess(growing).quantities[0]).toMatchObject({ kind: "growing", holds: false });
  });
  test("from where it stands: after the last value outside its threshold", () => {
    const value = (i: number) => (i === 25 ? 11 : 10 + 0.5 ** i);
    expect(assess(run(steady(40, (i) => 0.5 ** i, value))).quantities[0].standsFrom).toBe(27);
  });
});

describe("residuals", () => {
  const flat = (level: number) => (i: number) => Math.max(0.5 ** i, level) * (1 + 0.02 * Math.sin(i * i));
  test("one remark for all in one state, with the smallest drop and the longest wait", () => {
    const falling = run(
      steady(
        60,
        (i) => 0.9 ** i,
        () => 10,
        { residuals: { mass: Float64Array.from(steps(60).map((i) => 0.9 ** i)), energy: Float64Array.from(steps(60).map((i) => 0.85 ** i)) } },
      ),
    );
    const [remark] = assess(falling).remarks;
    expect(remark).toMatchObject({ rule: "residual-drop", severity: "doubt" });
    expect(remark.sentence).toMatch(
      /^R1: the residuals of mass and energy are still falling after 2\.6 orders; 6 were asked\. At this pace about \d+ iterations are left\.$/,
    );
    const one = assess(
      run(
        steady(
          60,
          (i) => 0.9 ** i,
          () => 10,
        ),
      ),
    ).remarks[0];
    expect(one.sentence).toContain("the residual of mass is still falling");
  });
  test("a stall stops; where a mean counts it is a doubt; growth stops always", () => {
    const random = randomFrom(5);
    const noisy = steps(400).map(() => 10 + 0.5 * (random() - 0.5));
    const stalled = (judging?: RunEvidence["judging"]) =>
      run(
        steady(400, flat(1e-3), (i) => noisy[i]),
        { judging },
      );
    expect(rules(stalled())).toContainEqual(["residual-drop", "stop"]);
    expect(rules(stalled({ average: true }))).toContainEqual(["residual-drop", "doubt"]);
    expect(rules(stalled({ average: true })).map((r) => r[0])).not.toContain("iteration-error");
    const growing = run(
      steady(
        400,
        (i) => 1e-3 * 1.05 ** i,
        (i) => noisy[i],
      ),
      { judging: { average: true } },
    );
    expect(rules(growing)).toContainEqual(["residual-drop", "stop"]);
  });
  test("gaps are a note with their count; a record that ends in no number is said to", () => {
    const gappy = steps(60).map((i) => (i === 5 || i === 9 ? Number.NaN : 0.7 ** i));
    expect(
      assess(
        run(
          steady(
            60,
            (i) => gappy[i],
            (i) => 10 + 0.5 ** i,
          ),
        ),
      ).remarks,
    ).toContainEqual({
      rule: "history-gaps",
      severity: "note",
      sentence: "R1: 2 entries of mass are missing and were left out.",
    });
    const broken = run(
      steady(
        60,
        (i) => (i === 59 ? Number.NaN : 0.7 ** i),
        () => 10,
      ),
    );
    expect(
      assess(broken)
        .remarks.map((r) => r.sentence)
        .join(),
    ).toContain("The record ends in something that is no number.");
  });
  test("a start level: by hand, else as the run tells it, else the largest of the first five", () => {
    const h = steady(
      60,
      (i) => 0.5 ** i,
      () => 10,
    );
    expect(assess(run(h)).residuals[0].start).toBe(1);
    expect(assess(run({ ...h, starts: { mass: 4 } })).residuals[0].start).toBe(4);
    expect(assess(run({ ...h, starts: { mass: 4 } }, { judging: { startEntry: 3 } })).residuals[0].start).toBe(0.25);
    expect(assess(run({ ...h, starts: { mass: 4 } }, { judging: { startEntry: 999 } })).residuals[0].start).toBe(4);
    const zero = { ...h, residuals: { mass: h.residuals.mass.map((v, i) => (i === 2 ? 0 : v)) } };
    expect(assess(run(zero, { judging: { startEntry: 3 } })).residuals[0].start).toBe(1);
  });
  test("settings of its own: first order, and fewer than five orders", () => {
    const h = steady(
      60,
      (i) => 0.5 ** i,
      (i) => 10 + 0.5 ** i,
    );
    const own = (stated: RunEvidence["stated"]) => rules(run(h, { stated })).map((r) => r[0]);
    expect(own({ schemeOrder: 2, dropOrders: 5 })).toEqual([]);
    expect(own({ schemeOrder: 1 })).toEqual(["first-order-scheme"]);
    expect(own({ dropOrders: 4.9 })).toEqual(["stopping-tolerance"]);
  });
  test("marks: where all met the target for good", () => {
    const both = { mass: Float64Array.from(steps(60), (i) => 10 ** (-i / 5)), energy: Float64Array.from(steps(60), (i) => 10 ** (-i / 8)) };
    const s = assessSettling({
      run: run({ iteration: Float64Array.from(steps(60), (i) => 10 * i), residuals: both, quantities: {} }),
      quantities: [DRAG],
      scales: { q: 1 },
      meshUncertainty: {},
      dropTarget: 4,
    });
    expect(s.marks).toEqual([{ rule: "residual-drop", iteration: 320, label: "target met" }]);
    expect(s.smallestDrop).toBeCloseTo(-Math.log10((10 ** (-56 / 8) + 10 ** (-57 / 8)) / 2), 10);
  });
});

describe("in time", () => {
  const inTime = (residuals: Record<string, (number | null)[]>, change: Partial<RunEvidence> = {}) =>
    run(readHistory({ iteration: [1, 2, 3, 4], time: [0.1, 0.2, 0.3, 0.4], residuals, quantities: { q: [1, 2, 3, 4] } }), change);
  const made = (short: number) => ({ mass: steps(100).map((i) => (i < short ? 1e-4 : 1e-6)) });
  test("one in twenty steps may end short of the target; more is a doubt, more than half a stop", () => {
    expect(rules(inTime(made(5)))).toEqual([]);
    expect(rules(inTime(made(6)))).toEqual([["step-solved", "doubt"]]);
    expect(rules(inTime(made(50)))).toEqual([["step-solved", "doubt"]]);
    expect(rules(inTime(made(51)))).toEqual([["step-solved", "stop"]]);
    expect(assess(inTime(made(6))).remarks[0].sentence).toContain("R1: 6 of 100 time steps ended before the residual of mass had fallen by 6 orders");
  });
  test("a step at its target to the last digits met it; one that is no number did not", () => {
    expect(rules(inTime({ mass: steps(100).map(() => 1.00005e-6) }))).toEqual([]);
    expect(rules(inTime({ mass: steps(100).map(() => 1.001e-6) }))).toEqual([["step-solved", "stop"]]);
    expect(rules(inTime({ mass: steps(100).map((i) => (i < 6 ? null : 1e-7)) }))).toEqual([["step-solved", "doubt"]]);
  });
  test("the drop is what nineteen of twenty steps reach, of the worst equation", () => {
    const s = assess(inTime({ mass: steps(100).map((i) => (i < 4 ? 1 : 1e-8)), energy: steps(100).map(() => 1e-7) }));
    expect(s.smallestDrop).toBeCloseTo(7, 10);
    expect(assess(inTime({ mass: steps(100).map((i) => (i < 6 ? 1e-2 : 1e-8)) })).smallestDrop).toBeCloseTo(2, 10);
    expect(assess(inTime({ mass: [0, 0, 0, 0] })).smallestDrop).toBe(16);
    expect(assess(inTime({})).smallestDrop).toBeUndefined();
    expect(assess(inTime({})).state).toBe("holds");
  });
  test("its own settings are judged as well", () =>
    expect(rules(inTime({}, { stated: { schemeOrder: 1 } }))).toEqual([["first-order-scheme", "doubt"]]));
});

describe("averages", () => {
  const random = randomFrom(11);
  const noisy = steps(300).map((i) => 10 + 4 * Math.exp(-i / 10) + 0.4 * (random() - 0.5));
  const h = (n = 300): HistoryEvidence => ({
    iteration: Float64Array.from(steps(n).map((i) => i + 1)),
    residuals: {},
    quantities: { q: Float64Array.from(noisy.slice(0, n)) },
  });
  test("of a steady run only where a person asked, a statistic was chosen, or it never comes to rest", () => {
    expect(averagesOf(run(h()), [DRAG], false)).toEqual([]);
    expect(averagesOf(run(h()), [DRAG], true)[0]).toMatchObject({ key: "q", adopted: false, take: "last", abscissa: "iterations" });
    expect(averagesOf(run(h(), { judging: { average: true } }), [DRAG], false)[0]).toMatchObject({ adopted: true, take: "mean" });
    expect(averagesOf(run(h()), [{ ...DRAG, take: "rms" }], false)[0]).toMatchObject({ adopted: true, take: "rms" });
    expect(averagesOf(run(h(), { judging: { average: true } }), [{ ...DRAG, take: "last" }], false)[0]).toMatchObject({
      adopted: false,
      take: "last",
    });
    expect(averagesOf(run(undefined), [DRAG], true)).toEqual([]);
  });
  test("in time always, over seconds; from forty values on", () => {
    const timed = (n: number) => ({ ...h(n), time: Float64Array.from(steps(n), (i) => i / 10) });
    expect(averagesOf(run(timed(40)), [DRAG], false)[0]).toMatchObject({ abscissa: "s", adopted: false });
    expect(averagesOf(run(timed(39)), [DRAG], false)).toEqual([]);
    expect(averagesOf(run(timed(40)), [DRAG], false)[0].lastProposed).toBeUndefined();
  });
  test("an abscissa that does not rise cannot be averaged, and breaks nothing", () =>
    expect(averagesOf(run({ ...h(), time: Float64Array.from(steps(300), () => 1) }), [DRAG], false)).toEqual([]));
  test("a cut of this quantity before one of the whole run", () => {
    const cut = (judging: RunEvidence["judging"]) => averagesOf(run(h(), { judging: { average: true, ...judging } }), [DRAG], false)[0];
    expect(cut({})).toMatchObject({ cutBy: "test" });
    expect(cut({ cut: 50 })).toMatchObject({ cut: 50, cutBy: "hand" });
    expect(cut({ cut: 50, cuts: { q: 80 } })).toMatchObject({ cut: 80, cutBy: "hand" });
    expect(cut({ cut: 50, cuts: { other: 80 } })).toMatchObject({ cut: 50 });
  });
  test("the mean stands for the value; without the statistic asked for there is none, and the settling stops", () => {
    const averaged = withMeans(run(h(), { judging: { average: true } }), [DRAG], { lengthM: 1, velocityMS: 1 });
    const mean = noisy.slice(100).reduce((a, b) => a + b, 0) / 200;
    expect(Math.abs((averaged.result?.quantities.q ?? 0) - mean)).toBeLessThan(0.05);
    const ramp: HistoryEvidence = { ...h(), quantities: { q: Float64Array.from(steps(300).map((i) => 10 + i / 1000)) } };
    const frequency = withMeans(run(ramp), [{ ...DRAG, take: "frequency" }], { lengthM: 1, velocityMS: 1 });
    expect(frequency.result?.quantities).toEqual({});
    const s = assessSettling({
      run: run({ ...ramp, time: Float64Array.from(steps(300).map((i) => i / 10)) }),
      quantities: [{ ...DRAG, take: "frequency" }],
      scales: { q: 10 },
      meshUncertainty: {},
      dropTarget: 6,
    });
    expect(s.remarks).toContainEqual(expect.objectContaining({ rule: "statistic-absent", severity: "stop" }));
    expect(s.state).toBe("fails");
    const plain = run(h());
    expect(withMeans(plain, [DRAG], { lengthM: 1, velocityMS: 1 })).toBe(plain);
    expect(withMeans({ ...plain, result: undefined }, [DRAG], { lengthM: 1, velocityMS: 1 }).result).toBeUndefined();
  });
  test("a run that never quite settles is offered the shortest of its last stretches", () => {
    const two = {
      ...h(),
      residuals: { mass: Float64Array.from(steps(300), (i) => Math.max(0.5 ** i, 1e-3)) },
      quantities: { q: Float64Array.from(noisy), p: Float64Array.from(noisy, (v) => v * 2) },
    };
    const s = assessSettling({
      run: run(two),
      quantities: [DRAG, { ...DRAG, key: "p", name: "pressure" }],
      scales: { q: 10, p: 20 },
      meshUncertainty: {},
      dropTarget: 6,
    });
    const proposed = s.averages.map((a) => a.lastProposed ?? 0);
    expect(s.remarks.find((r) => r.rule === "average-last")?.sentence).toContain(`average over its last ${Math.min(...proposed)} iterations`);
    expect(proposed[0]).toBe(300 - s.averages[0].cut);
  });
});

describe("derived quantities", () => {
  const spec = { key: "d1", formula: "q / (rho * A)", unit: "N m/kg" };
  const derived = {
    specs: [spec],
    inputs: [
      { name: "rho", unit: "kg/m^3", value: 2 },
      { name: "A", unit: "m^2", value: 5 },
    ],
  };
  const quantities = [DRAG, { ...DRAG, key: "d1", unit: "N m/kg" }];
  const set = derivedSet(derived, quantities);
  test("values and records are worked out; what rests on no record makes none", () => {
    const r = withDerived(
      run(
        steady(
          3,
          () => 1,
          (i) => 10 * (i + 1),
        ),
      ),
      derived,
      set,
    );
    expect(r.result?.quantities).toEqual({ q: 10, d1: 1 });
    expect(Array.from(r.history?.quantities.d1 ?? [])).toEqual([1, 2, 3]);
    const constant = derivedSet({ ...derived, specs: [{ ...spec, formula: "rho * A", unit: "kg/m" }] }, quantities);
    expect(
      withDerived(
        run(
          steady(
            3,
            () => 1,
            () => 10,
          ),
        ),
        derived,
        constant,
      ).history?.quantities,
    ).not.toHaveProperty("d1");
  });
  test("a value that is no number is none", () => {
    const r = withDerived(runOf(64, Number.NaN), derived, set);
    expect(r.result?.quantities).not.toHaveProperty("d1");
    expect(withDerived({ ...runOf(64, 1), result: undefined, history: undefined }, derived, set)).toMatchObject({
      result: undefined,
      history: undefined,
    });
  });
  test("with the standard uncertainty its parts give it; inputs count as exact", () => {
    const [a] = assessDerived(derived, set, runOf(64, 10), { q: 0.3 });
    expect(a).toMatchObject({ key: "d1", value: 1, standard: expect.closeTo(0.03, 12), uses: expect.arrayContaining(["q", "rho", "A"]) });
    expect(assessDerived(derived, set, undefined, {})[0].value).toBeUndefined();
  });
});
