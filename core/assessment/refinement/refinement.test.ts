import { describe, expect, test } from "vitest";
import type { QuantitySpec } from "../../records/quantity.ts";
import type { RunEvidence } from "../../records/run.ts";
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
  test("of more than three the finest three are used, whatever their order", () => {
    const r = assess([run(8, 99), ...family(64, 2).reverse()]);
    expect(r.rungs.map((x) => x.used)).toEqual([true, true, true, false]);
    expect(r.relative).toBeCloseTo((1.25 * (64 / 32 ** 2 - 64 / 64 ** 2)) / 3 / 10, 12);
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
    // Three times half the range of 1.5 sizes.
    expect(swing(0.08).relative).toBeCloseTo((1.5 * 0.12) / 10, 12);
    expect(rules(swing(0.08))).toEqual([["oscillating", "doubt"]]);
    expect(rules(swing(0.1))).toEqual([
      ["oscillating", "doubt"],
      ["mesh-over-limit", "stop"],
    ]);
    expect(swing(0.08).headline).toContain("no order is claimed");
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
