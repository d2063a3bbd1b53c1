import { describe, expect, test } from "vitest";
import type { QuantitySpec } from "../../records/quantity.ts";
import type { RunEvidence } from "../../records/run.ts";
import { byTrouble, meshDecision, settledSince } from "./decides.ts";
import { assessRefinement, orderText } from "./refinement.ts";

const q: QuantitySpec = { key: "q", name: "drag", symbol: "F", unit: "N", limit: 0.02 };
const run = (n: number, value: number | undefined, change: Partial<RunEvidence> = {}): RunEvidence => ({
  id: `r${n}`,
  label: `${n}`,
  origin: "bench",
  code: "bench",
  state: "done",
  setupHash: "",
  mesh: { label: `${n}`, cells: n * n, spacing: 1 / n, dimension: 2 },
  result: { quantities: value === undefined ? {} : { q: value }, profiles: [], errorNorms: [] },
  seconds: n / 10,
  ...change,
});
/** 10 + c h^p on 16, 32, 64 cells a side */
const family = (c: number, p: number) => [64, 32, 16].map((n) => run(n, 10 + c / n ** p));
const assess = (ladder: readonly RunEvidence[], errors: Record<string, number> = {}, formal = 2, spec = q) =>
  assessRefinement({ ladder, quantity: spec, scale: 10, formalOrder: formal, iterationErrors: errors });
const rules = (r: ReturnType<typeof assessRefinement>) => r.remarks.map((x) => [x.rule, x.severity]);

describe("how many meshes", () => {
  test.each([
    [0, "no mesh has"],
    [1, "one mesh has"],
    [2, "two meshes have"],
  ])("%d values: says so and claims nothing", (count, words) => {
    const r = assess(family(64, 2).map((x, i) => (i < count ? x : run(x.mesh!.cells, undefined))));
    expect(r).toMatchObject({ state: "none", remarks: [], headline: `Needs three meshes; ${words} delivered drag.` });
    expect(r.result).toBeUndefined();
    expect(r.relative).toBeUndefined();
  });
  test("runs without a mesh or a result are no rungs; values without a number are rungs that are not used", () => {
    const [fine, medium, coarse] = family(64, 2);
    const r = assess([coarse, run(128, Number.NaN), medium, run(8, 11, { mesh: undefined }), run(4, 12, { result: undefined }), fine]);
    expect(r.rungs.map((x) => [x.runId, x.used])).toEqual([
      ["r128", false],
      ["r64", true],
      ["r32", true],
      ["r16", true],
    ]);
    expect(r.result?.kind).toBe("monotone");
  });
  test("of more than three the index takes the finest three, whatever their order; least squares takes all, and the larger stands", () => {
    const r = assess([run(8, 11.5), ...family(64, 2).reverse()]);
    expect(r.rungs.map((x) => x.used)).toEqual([true, true, true, true]);
    const index = (1.25 * (64 / 32 ** 2 - 64 / 64 ** 2)) / 3;
    expect(r.result?.uncertainty).toBeCloseTo(index, 12);
    expect(r.procedures?.map((p) => p.key)).toEqual(["three-mesh", "least-squares", "factor-of-safety", "correction-factor"]);
    expect(r.adopted).toEqual({ key: "least-squares", because: "the larger of the three-mesh index and least squares" });
    expect(r.uncertainty).toBe(r.procedures?.[1].uncertainty);
    expect(r.uncertainty).toBeGreaterThan(index);
    expect(r.relative).toBe((r.uncertainty ?? 0) / 10);
  });
});

describe("what persons decide", () => {
  const signed = { reason: "the mesh folds over", by: "AB", at: "2026-04-01T10:00:00Z" };
  const study = (change: object) =>
    assessRefinement({ ladder: [run(8, 99), ...family(64, 2)], quantity: q, scale: 10, formalOrder: 2, iterationErrors: {}, ...change });
  test("a run that was left out is a rung that takes no part, with the reason", () => {
    const r = study({ leftOut: [{ ...signed, runId: "r8" }] });
    expect(r.rungs.at(-1)).toMatchObject({ runId: "r8", used: false, leftOut: { reason: "the mesh folds over", by: "AB" } });
    expect(r.procedures?.map((p) => p.key)).not.toContain("least-squares");
    expect(r.state).toBe("holds");
    expect(
      study({
        leftOut: [
          { ...signed, runId: "r32" },
          { ...signed, runId: "r16" },
        ],
      }).headline,
    ).toContain("two meshes have");
  });
  test("a procedure adopted by hand stands; where it claims more than the rule would, that is a doubt with both figures", () => {
    const chosen = { ...signed, quantityKey: "q", procedure: "three-mesh" as const };
    const r = study({ chosen });
    expect(r.adopted).toMatchObject({ key: "three-mesh", because: "chosen by hand", by: { initials: "AB", reason: "the mesh folds over" } });
    expect(r.uncertainty).toBe(r.result?.uncertainty);
    const remark = r.remarks.find((m) => m.rule === "adopted-procedure");
    expect(remark).toMatchObject({ severity: "doubt" });
    expect(remark?.sentence).toContain("three-mesh index was adopted by hand, 0.20");
    // Larger than the rule's is no doubt.
    const safe = assessRefinement({
      ladder: family(64, 2),
      quantity: q,
      scale: 10,
      formalOrder: 2,
      iterationErrors: {},
      chosen: { ...chosen, procedure: "factor-of-safety" },
    });
    expect([safe.adopted?.key, safe.remarks]).toEqual(["factor-of-safety", []]);
  });
  test("a quantity that is known not to converge keeps its warning and stops nothing, by its template or by a person", () => {
    const grown = [run(64, 10), run(32, 12), run(16, 13)];
    const divergent = { ...signed, quantityKey: "q", reason: "a corner without bound." };
    const said = assessRefinement({ ladder: grown, quantity: q, scale: 10, formalOrder: 2, iterationErrors: {}, divergent });
    expect(said).toMatchObject({ state: "remark", divergent: { by: "AB" } });
    expect(rules(said)).toEqual([
      ["known-divergent", "doubt"],
      ["not-converging", "note"],
    ]);
    expect(said.remarks[0].sentence).toBe("Drag is known not to converge with the mesh: a corner without bound. No claim rests on it.");
    const known = assess(grown, {}, 2, { ...q, divergent: "a corner" });
    expect(known).toMatchObject({ state: "remark", divergent: { reason: "a corner", by: "the template" } });
  });
});

describe("which quantity decides", () => {
  const quantities = ["q", "lift", "moment"].map((key) => ({ ...q, key, name: key }));
  const of = (key: string, c: number, more: object = {}) =>
    assessRefinement({
      ladder: family(c, 2).map((r) => ({ ...r, result: { quantities: { [key]: r.result?.quantities.q ?? 0 }, profiles: [], errorNorms: [] } })),
      quantity: { ...q, key, name: key, ...more },
      scale: 10,
      formalOrder: 2,
      iterationErrors: {},
    });
  const found = [of("q", 0.4), of("lift", 900), of("moment", 30, { divergent: "x" })];
  test("sorted by trouble: what fails, then what has a doubt, then by the share of the limit", () => {
    expect(byTrouble(found).map((r) => r.key)).toEqual(["lift", "moment", "q"]);
    expect(byTrouble([of("q", 0.4), of("lift", 30)]).map((r) => r.key)).toEqual(["lift", "q"]);
  });
  test("it is named with the share of its limit; what settled two meshes ago and what does not count are too", () => {
    expect(meshDecision(found, quantities, { q: 10, lift: 10, moment: 10 })).toEqual([
      expect.stringMatching(/^The lift decides the mesh: its uncertainty takes 137/),
      "Settled since two meshes ago, within a tenth of the limit: q.",
      "Known not to converge, and not counted: moment.",
    ]);
    expect(
      meshDecision(
        [of("q", 0.4)].map((r) => ({ ...r, relative: undefined })),
        quantities,
        {},
      ),
    ).toEqual([]);
  });
  test("meshes count as settled up to a tenth of the limit, one after the other", () => {
    // 16 a side lies c (1/16^2 - 1/64^2) away, 32 c (1/32^2 - 1/64^2); a tenth of the limit is 0.02.
    const away = 1 / 16 ** 2 - 1 / 64 ** 2;
    expect(settledSince(of("q", 0.0199 / away), 10)).toBe(2);
    expect(settledSince(of("q", 0.0201 / away), 10)).toBe(1);
    expect(settledSince(of("q", 900), 10)).toBe(0);
  });
});

describe("remarks and where they begin", () => {
  test("a sound set draws none", () => expect(rules(assess(family(64, 2)))).toEqual([]));
  const spaced = (ratio: number) =>
    [1, ratio, ratio * 2].map((h, i) => run(100 - i, 10 + 0.01 * h * h, { mesh: { label: "", cells: 100, spacing: h, dimension: 2 } }));
  test.each([
    [1.09, [["ladder-ratio", "doubt"]]],
    [1.11, [["ladder-ratio", "note"]]],
    [1.29, [["ladder-ratio", "note"]]],
    [1.31, []],
  ])("a smallest ratio of %d", (ratio, expected) => {
    const r = assess(spaced(ratio));
    expect(rules(r)).toEqual(expected);
    if (expected.length) expect(r.remarks[0].sentence).toContain(ratio.toFixed(ratio < 1.1 ? 3 : 2));
  });
  test("a set that grows stops, and says why derivatives do first", () => {
    const grown = [run(64, 10), run(32, 12), run(16, 13)];
    const r = assess(grown);
    expect(rules(r)).toEqual([["not-converging", "stop"]]);
    expect(r.state).toBe("fails");
    expect(r.remarks[0].sentence).not.toContain("slopes");
    expect(assess(grown, {}, 2, { ...q, derivative: true }).remarks[0].sentence).toContain("slopes at walls");
    expect(r.headline).toContain("nothing can be extrapolated");
    expect(r.next).toBeUndefined();
  });
  test("a set that swings is a doubt while it keeps its limit, a stop beyond it", () => {
    const swing = (size: number) => assess([run(64, 10), run(32, 10 - size), run(16, 10 + size / 2)]);
    // Three times half the range of 1.5 sizes is less than the way to the limit of the parabola through 10, 10 - s, 10 + s/2 at 1, 2, 4: 13 s / 6.
    expect(swing(0.07).relative).toBeCloseTo((1.25 * 13 * 0.07) / 6 / 10, 12);
    expect(rules(swing(0.07))).toEqual([["oscillating", "doubt"]]);
    expect(rules(swing(0.08))).toEqual([
      ["oscillating", "doubt"],
      ["mesh-over-limit", "stop"],
    ]);
    expect(swing(0.07).headline).toContain("no order is claimed");
  });
  test("another order than the formal one is a doubt with both figures, and the uncertainty is threefold", () => {
    const r = assess(family(1, 1));
    expect(rules(r)).toEqual([["not-asymptotic", "doubt"]]);
    expect(r.remarks[0].sentence).toContain("1.00 was observed, 2 is formal");
    expect(r.relative).toBeCloseTo((3 * (1 / 32 - 1 / 64)) / 10, 10);
  });
  test("over its limit by a hair it stops, under by a hair it does not", () => {
    const u = (c: number) => (1.25 * (c / 32 ** 2 - c / 64 ** 2)) / 3 / 10;
    const atLimit = q.limit / u(1);
    expect(rules(assess(family(0.999 * atLimit, 2)))).toEqual([]);
    expect(rules(assess(family(1.001 * atLimit, 2)))).toEqual([["mesh-over-limit", "stop"]]);
  });
  test("errors of the rungs that make over half of the index are a doubt", () => {
    const clean = assess(family(64, 2)).result;
    if (clean?.kind !== "monotone") throw new Error("monotone");
    // Their part is the root of both squares over r^p - 1.
    const half = (0.5 * clean.indexFine * 3) / Math.SQRT2;
    expect(rules(assess(family(64, 2), { r64: 0.95 * half, r32: 0.95 * half }))).toEqual([]);
    const r = assess(family(64, 2), { r64: 1.05 * half, r32: 1.05 * half });
    expect(rules(r)).toEqual([["rung-errors", "doubt"]]);
    expect(r.remarks[0].sentence).toMatch(/makes 46.* of the mesh uncertainty/);
  });
  test("equal values are no order; what is left is the noise", () => {
    const r = assess([run(64, 10), run(32, 10), run(16, 10)], { r64: 0.05 });
    expect(r.result?.kind).toBe("degenerate");
    expect(r.relative).toBeCloseTo(0.005, 12);
    expect(rules(r)).toEqual([]);
    expect(r.headline).toContain("No order can be observed");
  });
  test("errors of runs are taken by their size; one without a number is none", () => {
    const r = assess(family(64, 2), { r64: -0.01, r32: Number.NaN });
    expect(r.rungs.map((x) => x.iterationError)).toEqual([0.01, 0, 0]);
  });
});

describe("truth", () => {
  const with_ = (truth: number, uncertainty: number) =>
    assessRefinement({
      ladder: family(64, 2),
      quantity: q,
      scale: 10,
      formalOrder: 2,
      iterationErrors: {},
      truth: { name: "Table", value: truth, uncertainty },
    }).remarks.map((r) => r.rule);
  test("an uncertainty that reaches the truth, by the root of both squares, is not remarked on; one that misses it is", () => {
    const [fine] = family(64, 2).map((r) => r.result?.quantities.q ?? 0);
    const u = (1.25 * (64 / 32 ** 2 - 64 / 64 ** 2)) / 3;
    const reach = Math.hypot(u, 0.03);
    expect(with_(fine - 0.999 * reach, 0.03)).toEqual([]);
    expect(with_(fine - 1.001 * reach, 0.03)).toEqual(["uncertainty-misses"]);
    expect(with_(fine + 1.001 * reach, 0.03)).toEqual(["uncertainty-misses"]);
  });
});

describe("the next mesh", () => {
  test("is planned only where the limit is broken, with cells and time by what the runs took", () => {
    expect(assess(family(64, 2)).next).toBeUndefined();
    const r = assess(family(6400, 2));
    const u = r.relative ?? 0;
    // Order 2: the spacing falls with the root of what is too much; time grew by the spacing's ratio while cells grew fourfold.
    const ratio = Math.sqrt(q.limit / u);
    expect(r.next?.spacing).toBeCloseTo(ratio / 64, 12);
    expect(r.next?.cells).toBe(Math.ceil(64 ** 2 / ratio ** 2));
    // An exponent of a half in the cells is counted as one: no run gets cheaper per cell for being larger.
    expect(r.next?.seconds).toBeCloseTo((6.4 * (r.next?.cells ?? 0)) / 64 ** 2, 6);
  });
  test("an exponent above one is followed; without times none is promised", () => {
    const slow = family(6400, 2).map((r, i) => ({ ...r, seconds: [1600, 100, 10][i] }));
    const r = assess(slow);
    expect(r.next?.seconds).toBeCloseTo(1600 * ((r.next?.cells ?? 0) / 64 ** 2) ** 2, 3);
    expect(assess(slow.map((x) => ({ ...x, seconds: undefined }))).next?.seconds).toBeUndefined();
    const faster = assess(slow.map((x, i) => ({ ...x, seconds: [5, 100, 10][i] })));
    expect(faster.next?.seconds).toBeCloseTo((5 * (faster.next?.cells ?? 0)) / 64 ** 2, 6);
  });
});

test("orders as tables show them", () => {
  expect(orderText(undefined)).toBe("");
  expect(orderText(assess(family(64, 2)).result)).toBe("2.00");
  expect(orderText(assess([run(64, 10), run(32, 12), run(16, 13)]).result)).toBe("diverging");
});

test("an order nothing is extrapolated from is said in the headline", () => {
  expect(assess(family(64, 2)).headline).toBe("Observed order 2.00; the extrapolated drag is 10.000.");
  const high = assess(family(640, 3));
  expect(high.headline).toContain("nothing is extrapolated");
});
