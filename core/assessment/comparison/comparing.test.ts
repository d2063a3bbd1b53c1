import { describe, expect, test } from "vitest";
import type { ErrorBudget } from "../../method/budget/errorBudget.ts";
import { compareValue } from "../../method/comparison/compareValue.ts";
import { DRAG, evidenceOf, FAMILY, runOf, TABLE } from "../evidenceForTests.ts";
import type { QuantityComparison } from "../results/comparison.ts";
import type { CurveAssessment } from "../results/refinement.ts";
import { againstLimit, compareAll, compareCodes, compareProfiles, weigh } from "./comparing.ts";

const values = (simulated: number, uNum: number, open: readonly string[] = []) =>
  compareValue({ simulated, reference: 10, scale: 10, uNum, uInput: 0, uReference: 0, open });

describe("a difference against its limit of 2 %, with the noise counted both ways", () => {
  // A standard uncertainty of 0.05 on 10 is a band of 1 %.
  test.each([
    [10.099, "holds"],
    [10.101, "remark"],
    [10.299, "remark"],
    [10.301, "fails"],
    [9.901, "holds"],
    [9.899, "remark"],
    [9.701, "remark"],
    [9.699, "fails"],
  ] as const)("%d: %s", (simulated, state) => expect(againstLimit(values(simulated, 0.05), 0.02)).toBe(state));
  test("without noise only the limit decides", () => {
    expect(againstLimit(values(10.1999, 0), 0.02)).toBe("holds");
    expect(againstLimit(values(10.2001, 0), 0.02)).toBe("fails");
  });
  // A band of 1 %: the rules part where the difference alone keeps the limit and with its uncertainty does not, and the other way round.
  test.each([
    [10.099, "holds", "holds"],
    [10.15, "fails", "holds"],
    [10.199, "fails", "holds"],
    [10.201, "fails", "fails"],
    [9.801, "fails", "holds"],
    [9.799, "fails", "fails"],
  ] as const)("%d by guarded acceptance %s, by simple acceptance %s", (simulated, guarded, simple) => {
    expect(againstLimit(values(simulated, 0.05), 0.02, "guarded")).toBe(guarded);
    expect(againstLimit(values(simulated, 0.05), 0.02, "simple")).toBe(simple);
    expect(againstLimit(values(simulated, 0.05, ["mesh"]), 0.02, "simple")).toBe("none");
  });
  test("an open source decides nothing, however far off", () => expect(againstLimit(values(99, 0, ["mesh"]), 0.02)).toBe("none"));
});

const rule = (change: Partial<ErrorBudget> = {}): ErrorBudget => ({
  quantityKey: "q",
  scale: 10,
  missing: [],
  sources: [
    { key: "mesh", name: "mesh", group: "numerical", stage: "refinement", note: "", relative: 0.006 },
    { key: "round-off", name: "round-off", group: "machine", stage: "verdict", note: "", relative: 0.008 },
    { key: "inputs", name: "inputs", group: "input", stage: "question", note: "", relative: 0.004 },
  ],
  ...change,
});
const yard = (value: number, change: Partial<typeof TABLE> = {}, standardUncertainty: number | undefined = 0.01) => ({
  ...TABLE,
  ...change,
  values: [{ ...TABLE.values[0], value, standardUncertainty }],
});
const all = (yardsticks: (typeof TABLE)[], r = rule(), run = runOf(64, 10.1)) => compareAll(evidenceOf(FAMILY, { yardsticks }), DRAG, run, r);

test("the reason says by which rule a difference fails", () => {
  const failing = (decision?: "guarded" | "simple") =>
    weigh(
      compareAll(evidenceOf(FAMILY, { yardsticks: [yard(10)], ...(decision ? { decision } : {}) }), DRAG, runOf(64, 10.25), rule()),
    ).reasons.join();
  expect(failing("guarded")).toContain("added exceeds the limit of 2.0 %, as guarded acceptance counts it");
  expect(failing("simple")).toContain("decides nothing by the rule of simple acceptance");
  expect(failing()).toContain("may be kept or broken");
});

describe("each yardstick", () => {
  test("the three parts of u_val: numerical sources with the machine's, inputs, reference", () => {
    const [c] = all([yard(10)]);
    expect(c.uNum).toBeCloseTo(0.05, 12);
    expect(c.uInput).toBeCloseTo(0.02, 12);
    expect(c.uReference).toBe(0.01);
    expect(c.uVal).toBeCloseTo(Math.hypot(0.05, 0.02, 0.01), 12);
    expect(c).toMatchObject({ yardstick: "Table", kind: "table", inside: true, decides: true, limit: 0.02, difference: expect.closeTo(0.1, 12) });
  });
  test("an uncertainty nobody published is open, unless a person estimated it: then half of the 95 % figure", () => {
    const silent = yard(10, {}, undefined);
    expect(all([{ ...silent, values: [{ ...silent.values[0], standardUncertainty: undefined }] }])[0].open).toEqual([
      "the uncertainty of the yardstick",
    ]);
    const estimated = rule({
      sources: [
        ...rule().sources,
        {
          key: "reference",
          name: "reference",
          group: "input",
          stage: "yardsticks",
          note: "",
          relative: 0.03,
          settled: { kind: "estimated", by: "H. M.", reason: "r" },
        },
      ],
    });
    const unstated = { ...silent, values: [{ ...silent.values[0], standardUncertainty: undefined }] };
    expect(all([unstated], estimated)[0].uReference).toBeCloseTo(0.15, 12);
    expect(all([unstated], estimated)[0].open).toEqual([]);
    expect(all([yard(10)], estimated)[0].uReference).toBe(0.01);
  });
  test("open numerical sources and inputs are named", () => {
    const open = rule({ sources: rule().sources.map((s) => ({ ...s, relative: undefined })) });
    expect(all([yard(10)], open)[0].open).toEqual(["mesh", "round-off", "inputs"]);
    expect(all([yard(10)], open)[0].state).toBe("none");
  });
  test("no run, no value, or one without a number compares nothing", () => {
    const e = evidenceOf();
    expect(compareAll(e, DRAG, undefined, rule())).toEqual([]);
    expect(compareAll(e, { ...DRAG, key: "other" }, runOf(64, 10), rule())).toEqual([]);
    expect(compareAll(e, DRAG, runOf(64, Number.NaN), rule())).toEqual([]);
  });
  test("those that decide come first, of them the worst, of equals the best known", () => {
    const list = all([
      yard(10, { key: "code", kind: "other-code" }),
      yard(10, { key: "outside", validity: { sentence: "", inside: false } }),
      yard(10.1, { key: "rough" }, 0.02),
      yard(10.1, { key: "fine" }, 0.001),
      yard(14, { key: "far" }),
    ]);
    expect(list.map((c) => [c.yardstickKey, c.decides, c.state])).toEqual([
      ["far", true, "fails"],
      ["fine", true, "holds"],
      ["rough", true, "holds"],
      ["outside", false, "fails"],
      ["code", false, "remark"],
    ]);
  });
});

describe("all of them together", () => {
  const state = (yardsticks: (typeof TABLE)[], r = rule()) => weigh(all(yardsticks, r));
  test("none at all", () => expect(weigh([])).toEqual({ state: "none", reasons: ["there is no yardstick to compare with"] }));
  test("the worst of those that decide, with its figures", () => {
    const w = state([yard(10.1), yard(14, { name: "Far" })]);
    expect(w.state).toBe("fails");
    expect(w.first?.yardstick).toBe("Far");
    expect(w.reasons[0]).toMatch(/^the difference from Far, 39.*exceeds the limit of 2\.0.*by more than its uncertainty of 1\.1/);
    const doubtful = state([yard(9.95)]);
    expect(doubtful.state).toBe("remark");
    expect(doubtful.reasons[0]).toMatch(/^with the difference from Table at 1\.5.*± 1\.1.*the limit of 2\.0.*may be kept or broken$/);
    expect(state([yard(10.1)]).reasons).toEqual([]);
  });
  test("outside its range alone fails; another code alone leaves it open; both leave it open", () => {
    const outside = yard(10.1, { name: "Old", validity: { sentence: "", inside: false } });
    const code = yard(10.1, { name: "Lintel", kind: "other-code" });
    expect(state([outside])).toMatchObject({ state: "fails", reasons: ["Old is used outside its range and no other yardstick is there"] });
    expect(state([code])).toMatchObject({ state: "none", reasons: [expect.stringContaining("only another code's result (Lintel)")] });
    expect(state([outside, code]).state).toBe("none");
    expect(state([outside, code, yard(10.1)]).state).toBe("holds");
  });
  const quiet = rule({ sources: [{ ...rule().sources[0], relative: 1e-6 }] });
  test("two that lie further apart than twice both their uncertainties contradict each other", () => {
    // 2 hypot(0.03, 0.04) = 0.1
    expect(state([yard(10.05, { name: "A" }, 0.03), yard(10.149, { name: "B" }, 0.04)], quiet).reasons.join()).not.toContain("differ by");
    const apart = state([yard(10.05, { name: "A" }, 0.03), yard(10.151, { name: "B" }, 0.04)], quiet);
    expect(apart.reasons.join()).toMatch(/A and B differ by 1\.0.*more than their uncertainties allow/);
    expect(apart.state).toBe("remark");
  });
  test("a difference below a tenth of the limit is no contradiction however sure both are", () => {
    expect(state([yard(10.1, {}, 1e-6), yard(10.119, {}, 1e-6)], quiet).state).toBe("holds");
    expect(state([yard(10.1, {}, 1e-6), yard(10.121, {}, 1e-6)], quiet).state).toBe("remark");
  });
  test("those that decide nothing contradict nobody", () =>
    expect(state([yard(10.1, {}, 1e-6), yard(14, { kind: "other-code" }, 1e-6)], quiet).state).toBe("holds"));
  test("what is open stays open beside what holds", () => {
    const open: QuantityComparison = { ...all([yard(10.1)])[0], state: "none" };
    expect(weigh([open, all([yard(10.1)])[0]]).state).toBe("none");
  });
});

test("curves: compared by kind with every yardstick that has one; refusals say why", () => {
  const curve = {
    key: "mid",
    name: "Mid line",
    abscissa: { name: "x", unit: "m", values: [0, 1, 2] },
    value: { name: "u", unit: "m/s", values: [0, 1, 2] },
  };
  const run = runOf(64, 10, { result: { quantities: {}, profiles: [curve, { ...curve, key: "other" }], errorNorms: [] } });
  const inside = { ...TABLE, profiles: [{ profileKey: "mid", abscissa: [0.5, 1.5], value: [0.5, 1.5], uncertaintyNote: "" }] };
  const away = { ...TABLE, name: "Away", profiles: [{ profileKey: "mid", abscissa: [7], value: [7], uncertaintyNote: "" }] };
  const found = compareProfiles(evidenceOf([], { yardsticks: [inside, away] }), run, []);
  expect(found.profiles.map((p) => [p.yardstick, p.name, p.runLabel, p.points.length])).toEqual([["Table", "Mid line", "64 × 64", 2]]);
  expect(found.refused).toEqual([{ yardstick: "Away", name: "Mid line", sentence: expect.stringContaining("no point in common") }]);
  expect(compareProfiles(evidenceOf([], { yardsticks: [inside] }), undefined, [])).toEqual({ profiles: [], refused: [] });
});

test("curves counted in other units are turned into the run's, with their uncertainties and window; of other kinds they are refused", () => {
  const axes = (x: string, y: string) => ({ name: "mid", abscissa: { name: "height", unit: x }, value: { name: "speed", unit: y } });
  const curve = {
    key: "mid",
    name: "Mid line",
    abscissa: { name: "x", unit: "m", values: [0, 1, 2] },
    value: { name: "u", unit: "m/s", values: [0, 1, 2] },
  };
  const run = runOf(64, 10, { result: { quantities: {}, profiles: [curve], errorNorms: [] } });
  const profile = {
    profileKey: "mid",
    axes: axes("mm", "cm/s"),
    abscissa: [500, 1500, 1900],
    value: [40, 150, 190],
    standardUncertainty: [3, 3, 3],
    systematicUncertainty: 4,
    abscissaUncertainty: 0,
    window: [0, 1600] as const,
    uncertaintyNote: "",
  };
  const band = { key: "mid", at: [0, 2], band: [0.1, 0.1] } as unknown as CurveAssessment;
  const with_ = (p: object) => compareProfiles(evidenceOf([], { yardsticks: [{ ...TABLE, profiles: [{ ...profile, ...p }] }] }), run, [band]);
  const [found] = with_({}).profiles;
  expect(found.points.map((p) => [p.at, p.simulated, p.reference])).toEqual([
    [0.5, expect.closeTo(0.5, 12), expect.closeTo(0.4, 12)],
    [1.5, expect.closeTo(1.5, 12), expect.closeTo(1.5, 12)],
  ]);
  expect(found.points[0].uReference).toBeCloseTo(0.05, 12);
  expect(found.points[0].uNum).toBeCloseTo(0.05, 12);
  expect(found.notes).toEqual(["1 points lie outside the yardstick's window of validity and were left out."]);
  expect(with_({ axes: axes("mm", "Pa") }).refused[0].sentence).toBe("speed of the yardstick is counted in Pa, u of the run in m/s.");
  expect(with_({ axes: axes("1", "m/s") }).refused[0].sentence).toBe("height of the yardstick is counted in pure numbers, x of the run in m.");
});

test("codes among one another: the finest run of each that has the quantity, of the present set-up alone", () => {
  const of = (n: number, value: number, change: object) => runOf(n, value, { id: `${n} ${value}`, ...change });
  const runs = [
    runOf(64, 10),
    of(16, 12, { code: "Purlin" }),
    of(32, 11, { code: "Purlin" }),
    of(32, 90, { code: "Old", setupHash: "before" }),
    of(32, Number.NaN, { code: "Empty" }),
  ];
  const found = compareCodes(evidenceOf(runs), DRAG, runs[0], rule());
  expect(found?.each.map((p) => [p.label, p.value])).toEqual([
    ["bench, 64 × 64", 10],
    ["Purlin, 32 × 32", 11],
  ]);
  expect(compareCodes(evidenceOf([runs[0]]), DRAG, runs[0], rule())).toBeUndefined();
  expect(compareCodes(evidenceOf([]), DRAG, undefined, rule())).toBeUndefined();
});

describe("runs put beside those of the codes", () => {
  const of = (n: number, value: number, change: object) => runOf(n, value, { id: `${n} ${value}`, ...change });
  const runs = [runOf(64, 10), of(32, 10.4, {}), of(32, 11, { code: "Purlin" }), of(32, 90, { setupHash: "before" })];
  const chosen = (...ids: string[]) => ({ amongst: ids.map((runId) => ({ runId, at: "" })) });
  test("a coarser run of the same code stands in the table once, with the yardsticks beside; what was made otherwise or is gone does not", () => {
    const e = evidenceOf(runs, { ...chosen("32 10.4", "32 10.4", "32 90", "gone"), yardsticks: [yard(9)] });
    const found = compareCodes(e, DRAG, runs[0], rule());
    expect(found?.each.map((p) => p.value).sort((a, b) => a - b)).toEqual([10, 10.4, 11]);
    expect(found?.sentence).toContain("3 runs of 2 codes");
    expect(found?.beside).toEqual([{ label: "Table", value: 9, uncertainty: 0.02, difference: expect.closeTo(31.4 / 3 - 9, 12) }]);
  });
  test("with one code alone a run put beside makes the comparison", () => {
    expect(compareCodes(evidenceOf(runs.slice(0, 2)), DRAG, runs[0], rule())).toBeUndefined();
    expect(compareCodes(evidenceOf(runs.slice(0, 2), chosen("32 10.4")), DRAG, runs[0], rule())?.each.length).toBe(2);
  });
});

describe("what u_val is made of", () => {
  const spread = { spread: { spread: "shifted" as const, reason: "one side", by: "AB", at: "" } };
  test("with the error to one side the part of refinement is divided by 1.15, the others by two", () => {
    const [c] = compareAll(evidenceOf(FAMILY, { yardsticks: [yard(10)], ...spread }), DRAG, runOf(64, 10.1), rule());
    expect(c.uNum).toBeCloseTo(10 * Math.hypot(0.006 / 1.15, 0.008 / 2), 12);
  });
  const inputs = [{ key: "speed", label: "Speed", value: 2, unit: "m/s", uncertainty: 0.04, sensitivities: { q: 1 } }];
  const budget = { shares: [{ key: "speed", label: "Speed", sensitivity: { value: 1, by: "typed" as const }, relative: 0.02 }], relative: 0.02 };
  const answering = (answers: Record<string, number>) => ({ ...yard(10), values: [{ ...yard(10).values[0], answers }] });
  const against = (y: typeof TABLE, r = rule()) => compareAll(evidenceOf(FAMILY, { yardsticks: [y], inputs }), DRAG, runOf(64, 10.1), r, budget)[0];
  test("a condition that the yardstick answers to as well counts with the difference alone", () => {
    const c = against(answering({ speed: 1 }));
    expect(c.uInput).toBeCloseTo((0.1 * 0.02) / 2, 12);
    expect(c.sharedInputs).toEqual({ uncertainty: expect.closeTo(0.002, 12), alone: expect.closeTo(0.202, 12), shared: ["Speed"] });
  });
  test("a yardstick that answers to nothing leaves the inputs as they were", () => {
    const c = against(yard(10));
    expect(c.uInput).toBeCloseTo(0.02, 12);
    expect(c).not.toHaveProperty("sharedInputs");
  });
  test("inputs that a person settled, or that are not known, are not worked out again", () => {
    const said = { kind: "estimated" as const, by: "AB", reason: "as before" };
    const byHand = rule({ sources: rule().sources.map((s) => (s.key === "inputs" ? { ...s, settled: said } : s)) });
    expect(against(answering({ speed: 1 }), byHand).uInput).toBeCloseTo(0.02, 12);
    const unknown = compareAll(evidenceOf(FAMILY, { yardsticks: [answering({ speed: 1 })], inputs }), DRAG, runOf(64, 10.1), rule(), { shares: [] });
    expect(unknown[0].uInput).toBeCloseTo(0.02, 12);
  });
});
