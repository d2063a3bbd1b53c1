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
