import { describe, expect, test } from "vitest";
import type { RunEvidence } from "../../records/run.ts";
import { assessCase } from "../assessCase.ts";
import { evidenceOf, FAMILY, runOf } from "../evidenceForTests.ts";

const OWN = { code: "bench", orders: 6, "Courant number": 1, scheme: "central" };
const asked = (r: RunEvidence, change: object = {}): RunEvidence => ({ ...r, questionHash: "q", made: { ...OWN, ...change } });
const family = FAMILY.map((r) => asked(r));
const assess = (more: readonly RunEvidence[], change: object = {}) =>
  assessCase(evidenceOf([...family, ...more], { questionHash: "q", ...change })).ladders;
const fine = (id: string, value: number, change: object) => asked(runOf(64, value, { id, setupHash: "other" }), change);

describe("quantities along a ladder", () => {
  test("three time steps of the bench are judged with an order of two in time", () => {
    // The finest mesh gives 10.015625 with a Courant number of 1; the error in time is 0.01 of its square.
    const value = (courant: number) => 10.015625 + 0.01 * (courant ** 2 - 1);
    const { list } = assess([fine("a", value(2), { "Courant number": 2 }), fine("b", value(4), { "Courant number": 4 })]);
    const [ladder] = list;
    expect(ladder).toMatchObject({ axis: "time-step", title: "time step, on 64 × 64" });
    expect(ladder.runs.map((r) => r.position)).toEqual([1, 2, 4]);
    const [own] = ladder.quantities;
    expect(own).toMatchObject({ key: "q", kind: "monotone", order: expect.closeTo(2, 6) });
    // 1.25 times a third of 0.03, over the yardstick's 10.
    expect(own.relative).toBeCloseTo(0.00125, 6);
    expect(own.spread).toBeCloseTo(0.015, 9);
  });
  test("two of them, and names without a direction, tell their spread alone", () => {
    const [steps] = assess([fine("a", 10.1, { "Courant number": 2 })]).list;
    expect(steps.quantities[0]).toEqual({ key: "q", values: [10.015625, 10.1], spread: expect.closeTo(0.0084375, 9) });
    const [schemes] = assess([fine("a", 10.1, { scheme: "limited" }), fine("b", 10.2, { scheme: "upwind" })]).list;
    expect(schemes.axis).toBe("scheme");
    expect(schemes.quantities[0]).not.toHaveProperty("relative");
    expect(schemes.quantities[0].spread).toBeCloseTo(0.0184375, 9);
  });
  test("runs of other numerics change nothing of the family, and what differs twice is apart", () => {
    const plain = assessCase(evidenceOf(family, { questionHash: "q" }));
    const more = assessCase(
      evidenceOf([...family, asked(runOf(128, 50, { id: "x", setupHash: "other" }), { scheme: "upwind", orders: 3 })], { questionHash: "q" }),
    );
    expect(more.refinement).toEqual(plain.refinement);
    expect(more.ladders.apart).toEqual([{ runId: "x", label: "128 × 128", differs: ["orders", "scheme"] }]);
  });
});

describe("space and time at once", () => {
  const value = (n: number, courant: number) => 10 + 64 / n ** 2 + 40 * (courant / n) ** 2;
  const inTime = (n: number, courant: number) =>
    asked(runOf(n, value(n, courant), { id: `t-${n}-${courant}`, setupHash: courant === 1 ? "now" : "other" }), { "Courant number": courant });
  test("runs that differ in both tell the error of each; a plain family asks for nothing", () => {
    const family = [16, 32, 64].map((n) => inTime(n, 1));
    const all = [...family, inTime(64, 2), inTime(64, 4)];
    const { together } = assessCase(evidenceOf(all, { questionHash: "q" })).ladders;
    expect(together?.runs).toHaveLength(5);
    expect(together?.fits[0].fit).toMatchObject({
      ok: true,
      limit: expect.closeTo(10, 8),
      space: expect.closeTo(64 / 64 ** 2, 8),
      time: expect.closeTo(40 / 64 ** 2, 8),
    });
    expect(assessCase(evidenceOf(family, { questionHash: "q" })).ladders.together).toBeUndefined();
    const leftOut = all.slice(3).map((r) => ({ runId: r.id, reason: "", by: "", at: "" }));
    expect(assessCase(evidenceOf(all, { questionHash: "q", leftOut })).ladders.together).toBeUndefined();
  });
});

describe("curves point by point", () => {
  const points = Array.from({ length: 21 }, (_, i) => i / 20);
  const curve = (n: number, error: (x: number) => number, at: readonly number[] = points) => ({
    key: "mid",
    name: "mid-plane",
    abscissa: { name: "y/L", unit: "1", values: at },
    value: { name: "u", unit: "m/s", values: at.map((x) => x ** 2 + error(x) / n ** 2) },
  });
  const carrying = (make: (n: number) => ReturnType<typeof curve>, ns = [16, 32, 64]) =>
    ns.map((n) => ({
      ...runOf(n, 10 + 64 / n ** 2),
      result: { quantities: { q: 10 + 64 / n ** 2 }, profiles: [make(n)], errorNorms: [] },
    }));
  test("of three meshes with the curve: the mean order, the share of each class, every mesh's own curve", () => {
    const [found] = assessCase(evidenceOf(carrying((n) => curve(n, (x) => 30 * (1 + x))))).curves;
    expect(found).toMatchObject({ key: "mid", name: "mid-plane", averageOrder: expect.closeTo(2, 6), value: { unit: "m/s" } });
    expect(found.rungs.map((g) => g.label)).toEqual(["64 × 64", "32 × 32", "16 × 16"]);
    expect(found.shares.monotone).toBe(1);
    expect(found.widest).toBeCloseTo((1.25 * 60) / 64 ** 2, 9);
    expect(found.at).toHaveLength(21);
  });
  test("a run left out, fewer than three meshes and abscissae that fall give none", () => {
    const runs = carrying((n) => curve(n, () => 30));
    const leftOut = [{ runId: "run-16", reason: "", by: "", at: "" }];
    expect(assessCase(evidenceOf(runs, { leftOut })).curves).toEqual([]);
    expect(assessCase(evidenceOf(runs.slice(1))).curves).toEqual([]);
    expect(assessCase(evidenceOf(carrying((n) => curve(n, () => 30, [...points].reverse())))).curves).toEqual([]);
  });
  test("long curves are thinned for drawing, their last place among them; the figures are of all places", () => {
    const many = Array.from({ length: 1001 }, (_, i) => i / 1000);
    const [found] = assessCase(evidenceOf(carrying((n) => curve(n, (x) => (x === 0.999 ? 60 : 30), many)))).curves;
    expect(found.at.length).toBeLessThanOrEqual(121);
    expect(found.at.at(-1)).toBe(1);
    expect(found.widest).toBeCloseTo((1.25 * 60) / 64 ** 2, 9);
    expect(found.orders.reduce((s, c) => s + c, 0)).toBe(1001);
  });
});

describe("a run that was left out", () => {
  const signed = { reason: "its mesh folds over", by: "AB", at: "2026-04-01T10:00:00Z" };
  test("is no evidence any more: the next finest gives the value, and says how the case settled", () => {
    const folded = runOf(128, 99, { id: "folded" });
    const a = assessCase(evidenceOf([...FAMILY, folded], { leftOut: [{ ...signed, runId: "folded" }] }));
    const plain = assessCase(evidenceOf(FAMILY));
    expect(a.ladder).toEqual(plain.ladder);
    expect(a.rules).toEqual(plain.rules);
    expect(a.settling).toEqual(plain.settling);
    expect(a.refinement[0].rungs.map((g) => [g.runId, g.used])).toEqual([["folded", false], ...plain.ladder.map((id) => [id, true])]);
    expect(a.refinement[0].uncertainty).toBe(plain.refinement[0].uncertainty);
  });
  test("of two runs on one mesh the older stands again when the newer is taken off", () => {
    const newer = runOf(64, 50, { id: "newer", finishedAt: "2026-04-02T10:00:00Z" });
    const both = [...FAMILY, newer];
    expect(assessCase(evidenceOf(both)).ladder[0]).toBe("newer");
    expect(assessCase(evidenceOf(both, { leftOut: [{ ...signed, runId: "newer" }] })).ladder[0]).toBe("run-64");
  });
  test("all left out leaves nothing to judge, and nothing is said to be stale", () => {
    const a = assessCase(evidenceOf(FAMILY, { leftOut: FAMILY.map((r) => ({ ...signed, runId: r.id })) }));
    expect(a).toMatchObject({ ladder: [], stale: false });
    expect(a.verdicts[0].word).toBe("incomplete");
    expect(a.refinement[0].rungs).toHaveLength(3);
  });
});
