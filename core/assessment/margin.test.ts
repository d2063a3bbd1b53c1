import { describe, expect, test } from "vitest";
import type { CaseEvidence } from "../records/case.ts";
import type { RunEvidence } from "../records/run.ts";
import type { State } from "../remarks/remark.ts";
import { assessCase } from "./assessCase.ts";
import { DRAG, evidenceOf, FAMILY, runOf, TABLE } from "./evidenceForTests.ts";
import { marginFor } from "./registry.ts";
import type { CaseAssessment } from "./results/case.ts";
import type { MarginNote } from "./results/margin.ts";
import type { Stage } from "./results/stage.ts";

const margin = (stage: Stage, e: CaseEvidence, change: (a: CaseAssessment) => CaseAssessment = (a) => a, key = "q") => {
  const found = marginFor(stage, e, change(assessCase(e)), key);
  if (!found) throw new Error(`no margin for ${stage}`);
  return found;
};
const note = (stage: Stage, e: CaseEvidence, heading: string, change?: (a: CaseAssessment) => CaseAssessment) =>
  margin(stage, e, change).notes.find((n) => n.heading === heading);
const last = (stage: Stage, e: CaseEvidence, change?: (a: CaseAssessment) => CaseAssessment): MarginNote | undefined =>
  margin(stage, e, change).notes.at(-1);
const finest = (change: Partial<RunEvidence>) => evidenceOf([...FAMILY.slice(0, 2), { ...FAMILY[2], ...change }]);
const steps = Array.from({ length: 40 }, (_, i) => i);
const recorded = (residual: (i: number) => number, value: (i: number) => number = (i) => 10 + 0.5 ** i): Partial<RunEvidence> => ({
  history: {
    iteration: Float64Array.from(steps.map((i) => i + 1)),
    residuals: { mass: Float64Array.from(steps.map(residual)) },
    quantities: { q: Float64Array.from(steps.map(value)) },
  },
});

describe("refinement: what the other quantities do", () => {
  const quantities = [DRAG, { ...DRAG, key: "a", name: "lift" }, { ...DRAG, key: "b", name: "pressure drop" }];
  const with_ = (own: State, a: State, b: State) => (found: CaseAssessment) => ({
    ...found,
    refinement: found.refinement.map((r) => ({ ...r, state: { q: own, a, b }[r.key] ?? r.state })),
  });
  const said = (own: State, a: State, b: State) =>
    margin("refinement", evidenceOf(FAMILY, { quantities }), with_(own, a, b)).notes.find((n) =>
      /^(Another quantity|Other quantities)$/.test(n.heading),
    );
  test.each([
    ["holds", "holds", "holds", undefined],
    ["fails", "holds", "none", undefined],
    ["remark", "holds", "holds", undefined],
    ["holds", "remark", "holds", "Another quantity: Lift holds with a remark."],
    ["holds", "holds", "fails", "Another quantity: Pressure drop fails here."],
    ["fails", "fails", "remark", "Other quantities: Lift fails here; pressure drop holds with a remark."],
  ] as const)("own %s, others %s and %s", (own, a, b, words) => {
    const found = said(own, a, b);
    expect(found && `${found.heading}: ${found.sentence}`).toBe(words);
  });
});

test("no quantities, or a page without a margin, have none; an unknown quantity falls back on the first", () => {
  const none = evidenceOf(FAMILY, { quantities: [] });
  expect(marginFor("settling", none, assessCase(none), "q")).toBeUndefined();
  for (const stage of ["yardsticks", "meshes", "runs", "report"] as const)
    expect(marginFor(stage, evidenceOf(), assessCase(evidenceOf()), "q")).toBeUndefined();
  expect(margin("verdict", evidenceOf(), undefined, "unknown").label).toBe("drag");
});

describe("question", () => {
  test("the Reynolds number, and that nothing contradicts itself", () => {
    const m = margin("question", evidenceOf());
    expect(m).toMatchObject({ label: "Reynolds number, computed", figure: "10000", verdict: "" });
    expect(m.notes.map((n) => n.heading)).toEqual(["Nothing contradicts itself", "Next"]);
    expect(m.notes[1]).toMatchObject({ go: "settling" });
  });
  test("what comes next: runs that wait, or meshes to plan", () => {
    expect(last("question", evidenceOf([]))?.go).toBe("meshes");
    expect(last("question", evidenceOf([runOf(64, 1, { state: "running", result: undefined })]))?.go).toBe("runs");
  });
  test("contradictions are counted, accepted ones are not", () => {
    const e = evidenceOf();
    const one = { ...e, setup: { ...e.setup, reynoldsTyped: 1 } };
    expect(margin("question", one).verdict).toBe("The set-up contradicts itself");
    expect(last("question", one)?.sentence).toMatch(/^Mend what contradicts itself, or accept it with/);
    const two = { ...one, setup: { ...one.setup, facts: { startFieldsKept: 1, roundBody: 1, axisymmetricSet: 0 } } };
    expect(last("question", two)?.sentence).toMatch(/^Mend the 2 contradictions, or accept each with/);
    const [remark] = assessCase(one).setup.remarks;
    const answered = { ...one, answers: [{ rule: remark.rule, sentence: remark.sentence, reason: "r", at: "t" }] };
    expect(margin("question", answered).notes[0].heading).toBe("Accepted");
    expect(last("question", answered)?.go).toBe("settling");
    expect(margin("question", two).notes.map((n) => n.heading)).toContain("A doubt");
  });
});

describe("settling", () => {
  test("without a run it says what fills it", () => {
    expect(margin("settling", evidenceOf([]))).toMatchObject({ label: "Settled", figure: "–", notes: [{ heading: "What fills this", go: "runs" }] });
  });
  test("a run that settled: the drop, and what is left of the quantity against a tenth of its mesh uncertainty", () => {
    const m = margin("settling", evidenceOf());
    expect(m.label).toBe("Smallest drop, 64 × 64");
    expect(m.figure).toBe("11 orders");
    expect(m.verdict).toBe("Settled: 6.0 were asked");
    expect(m.notes.map((n) => n.heading)).toEqual(["Settled", "What is left", "Where one could have stopped", "Next"]);
    expect(m.notes[0].sentence).toContain("fell by at least 11 orders where 6.0 were asked, and what is left in every quantity");
    expect(m.notes[1].sentence).toMatch(
      /shrinks steadily, by a factor of 0\.50 an iteration\. About .* is left, below 0\.020.*a tenth of its mesh uncertainty/,
    );
    expect(m.notes[3].go).toBe("balance");
  });
  test("the tolerance at which the value was already within its threshold: the loosest of those", () => {
    const found = note("settling", evidenceOf(), "Where one could have stopped");
    // 0.5^i is below a tenth of 0.2 % of 10 from the ninth entry on; a drop of three orders is met at the tenth.
    expect(found?.sentence).toMatch(/From a tolerance of 10⁻³ on, iteration 11,/);
  });
  test.each<[string, Partial<RunEvidence>, RegExp, Stage | undefined]>([
    ["falling", recorded((i) => 0.9 ** i), /^Let 64 × 64 run on for about \d+ iterations; nothing else is needed to reach 6 orders/, "runs"],
    ["diverging", recorded((i) => 1e-4 * 1.4 ** i), /^Take the run back to where it still fell/, "runs"],
    [
      "stalled",
      recorded((i) => Math.max(0.5 ** i, 1e-2) * (1 + 0.1 * Math.sin(i * i))),
      /fall no further: look for the cells|Average what wanders/,
      undefined,
    ],
    [
      "a quantity behind",
      recorded(
        (i) => 0.5 ** i,
        (i) => 10 + 0.96 ** i,
      ),
      /^Tighten what is left in the quantities/,
      "runs",
    ],
  ])("%s: what to do next", (_name, change, words, go) => {
    const n = last("settling", finest(change));
    expect(n?.heading).toBe("Next");
    expect(n?.sentence).toMatch(words);
    expect(n?.go).toBe(go);
  });
  test("a run that fails says so in the figure's line", () => {
    expect(margin("settling", finest(recorded((i) => 1e-4 * 1.4 ** i))).verdict).toBe("Not settled");
    const silent = finest({ history: { iteration: Float64Array.of(1, 2), residuals: {}, quantities: {} } });
    expect(margin("settling", silent)).toMatchObject({ figure: "–", verdict: "" });
  });
  const wave = Array.from({ length: 600 }, (_, i) => 10 + Math.sin(i * 0.37) + 0.3 * Math.sin(i * i));
  const inTime = (judging?: RunEvidence["judging"]) =>
    finest({
      history: {
        iteration: Float64Array.from(wave.map((_, i) => i + 1)),
        time: Float64Array.from(wave.map((_, i) => i * 0.01)),
        residuals: { mass: Float64Array.from(wave.map(() => 1e-8)) },
        quantities: { q: Float64Array.from(wave) },
      },
      judging,
    });
  test("a mean that counts, with its frequency in time; one that is only at hand", () => {
    const counts = note("settling", inTime({ average: true }), "The mean counts");
    expect(counts?.sentence).toMatch(
      /^Mean .* ± .* \(95 %\) of \d+ samples, .* independent; the first .* s are left out by test\. Dominant frequency 5\.8.* Hz\.$/,
    );
    expect(last("settling", inTime({ average: true }))).toMatchObject({ sentence: "The means count. See whether the runs balance.", go: "balance" });
    expect(note("settling", inTime({ average: true, cut: 100 }), "The mean counts")?.sentence).toContain("by hand");
    expect(note("settling", inTime(), "An average is at hand")).toBeDefined();
    expect(note("settling", inTime({ average: true }), "What is left")).toBeUndefined();
  });
});

describe("balance", () => {
  const closing = (out: number) =>
    finest({
      result: {
        ...FAMILY[2].result!,
        balance: {
          boundaries: [
            { name: "i", mass: -1 },
            { name: "o", mass: out },
          ],
        },
      },
    });
  test("closed: the figure, its limit and where to go", () => {
    const m = margin("balance", closing(1));
    expect(m).toMatchObject({ label: "Net mass over throughput", figure: "0\u00a0%", verdict: "Limit is 0.10\u00a0%" });
    expect(m.notes[0]).toMatchObject({ heading: "Everything closes", sentence: "Net mass is 0\u00a0% against a limit of 0.10\u00a0%." });
    expect(m.notes.at(-1)?.go).toBe("refinement");
  });
  test("close, open and turned round", () => {
    expect(last("balance", closing(0.9995))).toMatchObject({ go: "settling", sentence: expect.stringContaining("not far below its limit") });
    const open = margin("balance", closing(0.99));
    expect(open.verdict).toBe("Does not close");
    expect(open.notes.map((n) => n.heading)).toEqual(["Does not hold", "Next"]);
    expect(open.notes[1].sentence).toContain("which boundary the missing mass leaves by");
    expect(last("balance", closing(-1))?.go).toBe("runs");
  });
  test("laws and second computations that hold are said, broken ones come next", () => {
    const result = {
      ...FAMILY[2].result!,
      laws: [
        { law: "wall-flow" as const, share: 0 },
        { law: "mirror" as const, share: 0 },
      ],
    };
    const kept = finest({ result });
    expect(note("balance", kept, "Every rule of its kind holds")?.sentence).toBe(
      "Nothing flows through a wall or a line of symmetry. A symmetric set-up has a symmetric answer.",
    );
    const broken = finest({
      result: {
        ...result,
        laws: [
          { law: "wall-flow", share: 0 },
          { law: "mirror", share: 1 },
        ],
      },
    });
    expect(note("balance", broken, "Other rules hold")?.sentence).toBe("Nothing flows through a wall or a line of symmetry.");
    expect(last("balance", broken)?.sentence).toContain("A flow that breaks such a rule is wrong somewhere");
    const twice = finest({
      result: {
        ...result,
        second: [{ quantityKey: "q", name: "drag", unit: "N", first: 10, firstBy: "the surface", second: 10.001, secondBy: "a box" }],
      },
    });
    expect(note("balance", twice, "Worked out twice")?.sentence).toMatch(
      /^Drag by the surface and by a box agree within 0\.010.*; 0\.28.* is let pass\.$/,
    );
  });
  test("nothing measured: what fills it; only laws: no figure", () => {
    const silent = evidenceOf(FAMILY.map((r) => ({ ...r, result: { ...r.result!, balance: undefined } })));
    expect(margin("balance", silent).notes[0].sentence).toContain("Bring in a table with the mass through every boundary");
    expect(margin("balance", evidenceOf([])).notes[0].go).toBe("runs");
    const laws = finest({ result: { ...FAMILY[2].result!, balance: undefined, laws: [{ law: "mirror", share: 0 }] } });
    expect(margin("balance", laws).figure).toBe("–");
  });
});

describe("refinement", () => {
  test("too few meshes", () => {
    const m = margin("refinement", evidenceOf(FAMILY.slice(1)));
    expect(m).toMatchObject({ figure: "–", notes: [{ heading: "What fills this", go: "meshes" }] });
    expect(m.notes[0].sentence).toBe("Needs three meshes; two meshes have delivered drag.");
  });
  test("a sound set: order, extrapolated value, how far away the finest is", () => {
    const m = margin("refinement", evidenceOf());
    expect(m).toMatchObject({ label: "Mesh uncertainty, fine mesh", figure: "± 0.20\u00a0%", verdict: "Holds: limit is 2.0\u00a0%" });
    expect(m.notes[0]).toMatchObject({
      heading: "Observed order 2.00",
      sentence: "Formal order 2. The three meshes agree with it: order 2.00 and a safety factor of 1.25 are used.",
    });
    expect(m.notes[1].heading).toBe("Extrapolated 10.000");
    expect(m.notes[1].sentence).toContain("The finest mesh gives 10.016, 0.16\u00a0% away.");
  });
  test("the range of the order where the runs leave one", () => {
    const loose = evidenceOf(
      [16, 32, 64].map((n) =>
        runOf(
          n,
          10 + 64 / n ** 2,
          recorded(
            (i) => 0.5 ** i,
            (i) => 10 + 64 / n ** 2 + 0.03 * 0.8 ** i,
          ),
        ),
      ),
    );
    const r = assessCase(loose).refinement[0].result;
    if (r?.kind !== "monotone" || !r.orderRange) throw new Error("monotone");
    const text = `lets it lie between ${r.orderRange[0].toFixed(2)} and ${r.orderRange[1].toFixed(2)}.`;
    if (r.orderRange[1] - r.orderRange[0] > 0.02) expect(margin("refinement", loose).notes[0].sentence).toContain(text);
    const open = (a: CaseAssessment): CaseAssessment => ({
      ...a,
      refinement: a.refinement.map((x) => ({ ...x, result: { ...r, orderRange: [1.5, Number.POSITIVE_INFINITY] as const } })),
    });
    expect(margin("refinement", loose, open).notes[0].sentence).toContain("between 1.50 and any.");
  });
  test("what the next mesh would cost, or that a finer one buys nothing", () => {
    const coarse = evidenceOf([16, 32, 64].map((n) => runOf(n, 10 + 6400 / n ** 2)));
    const next = assessCase(coarse).refinement[0].next;
    expect(note("refinement", coarse, "Next mesh")?.sentence).toMatch(/ cells would bring it to 2\.0.*, in about /);
    expect(next?.cells).toBeGreaterThan(4096);
    expect(margin("refinement", coarse).verdict).toBe("Fails: limit is 2.0\u00a0%");
    const rough = evidenceOf(FAMILY, { yardsticks: [{ ...TABLE, values: [{ ...TABLE.values[0], standardUncertainty: 0.5 }] }] });
    expect(note("refinement", rough, "Cheapest next gain")?.sentence).toContain("reference is. A finer mesh buys nothing.");
    expect(note("refinement", coarse, "Cheapest next gain")).toBeUndefined();
  });
  test("sets without an order are named by their kind", () => {
    const set = (values: readonly number[]) => margin("refinement", evidenceOf([16, 32, 64].map((n, i) => runOf(n, values[i]))));
    expect(set([10.04, 9.95, 10]).notes[0].heading).toBe("The set is oscillating");
    expect(set([10, 11, 13]).notes[0].heading).toBe("The set is diverging");
    expect(set([10, 10, 10]).notes[0].heading).toBe("No order, and none needed");
    expect(set([10.04, 9.95, 10]).verdict).toMatch(/^Holds with a remark: limit is/);
  });
  test("other quantities that lag behind are named", () => {
    const both = [16, 32, 64].map((n) => {
      const r = runOf(n, 10 + 64 / n ** 2);
      return { ...r, result: { ...r.result!, quantities: { ...r.result!.quantities, p: 10 + 640 / n ** 1, s: 10 + 900 / n } } };
    });
    const quantities = [DRAG, { ...DRAG, key: "p", name: "pressure drop" }];
    expect(note("refinement", evidenceOf(both, { quantities }), "Another quantity")?.sentence).toBe("Pressure drop fails here.");
    const three = [...quantities, { ...DRAG, key: "s", name: "shear" }];
    expect(note("refinement", evidenceOf(both, { quantities: three }), "Other quantities")?.sentence).toBe(
      "Pressure drop fails here; shear fails here.",
    );
  });
});

describe("comparison", () => {
  const against = (value: number, change: Partial<typeof TABLE> = {}) =>
    evidenceOf(FAMILY, { yardsticks: [{ ...TABLE, ...change, values: [{ ...TABLE.values[0], value }] }] });
  test("the difference, its claim and its limit", () => {
    expect(margin("comparison", against(10))).toMatchObject({
      label: "Difference from the yardstick",
      figure: "+0.16\u00a0%",
      verdict: "Holds: limit is 2.0\u00a0%",
    });
    expect(margin("comparison", against(10)).notes[0].heading).toBe("Within the noise");
    expect(margin("comparison", against(11))).toMatchObject({ verdict: "Fails: limit is 2.0\u00a0%", notes: [{ heading: "Larger than the noise" }] });
    expect(margin("comparison", against(10.2)).verdict).toBe("Holds with a remark: limit is 2.0\u00a0%");
    const open = evidenceOf(FAMILY.slice(2));
    expect(margin("comparison", open)).toMatchObject({ verdict: "Open: limit is 2.0\u00a0%", notes: [{ heading: "Cannot be claimed yet" }] });
  });
  test("outside its range, and nothing to compare with", () => {
    const outside = against(10, { validity: { sentence: "", inside: false } });
    expect(note("comparison", outside, "Outside its range")).toMatchObject({
      sentence: "Table is used where it does not hold; it decides nothing.",
      go: "yardsticks",
    });
    const none = evidenceOf(FAMILY, { yardsticks: [] });
    expect(margin("comparison", none)).toMatchObject({
      figure: "–",
      verdict: "",
      notes: [{ heading: "No yardstick", sentence: "Nothing to compare drag with." }],
    });
    expect(margin("comparison", evidenceOf([])).notes[0].go).toBe("runs");
  });
  test("worst points of two curves at most, with what is doubtful, and refusals", () => {
    const curve = (key: string) => ({
      key,
      name: key,
      abscissa: { name: "x", unit: "m", values: [0, 1, 2] },
      value: { name: "u", unit: "m/s", values: [0, 1, 2] },
    });
    const profile = (profileKey: string, doubtful = false) => ({
      profileKey,
      abscissa: [0.5, 1.5],
      value: [0.5, 1],
      uncertaintyNote: "",
      ...(doubtful ? { doubtful: [{ index: 1, reason: "is a misprint" }] } : {}),
    });
    const e = finest({ result: { ...FAMILY[2].result!, profiles: ["a", "b", "c"].map(curve) } });
    const yardsticks = [{ ...TABLE, profiles: [profile("a"), profile("b", true), profile("c"), { ...profile("a"), abscissa: [9, 10] }] }];
    const notes = margin("comparison", { ...e, yardsticks }).notes;
    expect(notes.filter((n) => n.heading === "Worst point").map((n) => n.sentence)).toEqual([
      "a, Table: 0.50 m/s at 1.50 m, 100\u00a0% of the range.",
      "c, Table: 0.50 m/s at 1.50 m, 100\u00a0% of the range.",
    ]);
    const doubted = margin("comparison", { ...e, yardsticks: [{ ...TABLE, profiles: [profile("b", true)] }] }).notes;
    expect(doubted.find((n) => n.heading === "Worst point")?.sentence).toBe(
      "b, Table: 0.50 m/s at 1.50 m, 100\u00a0% of the range. That point is a misprint.",
    );
    expect(notes.filter((n) => n.heading === "Cannot be compared")).toHaveLength(1);
  });
  test("orders of a field, and exactness", () => {
    const norms = (l2: number) => [{ field: "u", unit: "m/s", l1: l2, l2, linf: l2, scale: 1, worstAtM: [0, 0] as const }];
    const e = (f: (n: number) => number) =>
      evidenceOf(FAMILY.map((r, i) => ({ ...r, result: { ...r.result!, errorNorms: norms(f(2 ** (4 + i))) } })));
    expect(
      note(
        "comparison",
        e((n) => 1 / n ** 2),
        "Order of the field",
      )?.rule,
    ).toBe("field-order");
    expect(
      note(
        "comparison",
        e(() => 1e-12),
        "Exact on every mesh",
      ),
    ).toBeDefined();
  });
});

describe("verdict", () => {
  test("a sound one: report it", () => {
    const m = margin("verdict", evidenceOf());
    expect(m).toMatchObject({ label: "drag", figure: "holds" });
    expect(m.notes.map((n) => n.heading)).toEqual(["What may be claimed", "Next", "Largest source"]);
    expect(m.notes[1]).toMatchObject({ sentence: "Nothing is left to settle. Issue the report.", go: "report" });
    expect(m.notes[2].sentence).toBe("Reference dominates.");
  });
  test("reasons numbered, and the cheapest step where something is open", () => {
    const m = margin("verdict", evidenceOf(FAMILY.slice(1), { kind: "measured" }));
    expect(m.notes.map((n) => n.heading)).toEqual([
      "What may be claimed",
      "Why, 1 of 3",
      "Why, 2 of 3",
      "Why, 3 of 3",
      "Cheapest next step",
      "Largest source",
    ]);
    const one = margin("verdict", evidenceOf(FAMILY.slice(1)));
    expect(one.notes.map((n) => n.heading)).toEqual(["What may be claimed", "Why", "Cheapest next step", "Largest source"]);
    expect(one.notes[1].sentence).toMatch(/^The mesh error is open: .*\.$/);
  });
});
