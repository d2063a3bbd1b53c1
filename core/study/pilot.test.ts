import { describe, expect, test } from "vitest";
import { nextMove, type PilotGoal, type PilotPosition, type Tuning } from "./pilot.ts";

const GOAL: PilotGoal = { quantity: "drag", target: 0.005, mostCells: 20_000, longestS: 600 };
const rung = (n: number) => ({ nx: n, ny: n, cells: n * n, seconds: (n * n) / 1000 });
const at = (change: Partial<PilotPosition> = {}): PilotPosition => ({
  rungs: [rung(36), rung(24), rung(16)],
  start: { nx: 12, ny: 8 },
  settled: "holds",
  mesh: { kind: "monotone", order: 2 },
  sources: [{ name: "mesh", relative: 0.01 }],
  spentS: 5,
  tunings: [],
  ...change,
});
const refined = (p: PilotPosition, goal = GOAL) => {
  const m = nextMove(goal, p);
  if (m.kind !== "refine") throw new Error(m.kind);
  return m;
};
const ended = (p: PilotPosition, goal = GOAL) => {
  const m = nextMove(goal, p);
  if (m.kind !== "end") throw new Error(m.why);
  return m;
};
const retuned = (p: PilotPosition, goal = GOAL) => {
  const m = nextMove(goal, p);
  if (m.kind !== "retune") throw new Error(m.kind);
  return m;
};
const LENGTH: Tuning = { source: "domain", axis: "domain", label: "Length behind the step", own: 20, next: 30, cost: 1.5, cells: 1.5 };

describe("the next step towards a goal", () => {
  test("coarse meshes come first, each half as fine again, until there are three", () => {
    expect(refined(at({ rungs: [], mesh: undefined }))).toMatchObject({ nx: 12, ny: 8 });
    expect(refined(at({ rungs: [{ ...rung(12), ny: 8, cells: 96 }], mesh: undefined }))).toMatchObject({
      nx: 18,
      ny: 12,
      why: expect.stringContaining("number 2"),
    });
    expect(refined(at({ rungs: [rung(18), rung(12)], mesh: undefined }))).toMatchObject({ nx: 27, ny: 27 });
  });
  test("then as much finer as the observed order asks for, aiming a tenth below the target", () => {
    // 0.01 to 0.0045 at order 2: the root of 2.22.
    expect(refined(at())).toMatchObject({
      nx: Math.round(36 * Math.sqrt(0.01 / 0.0045)),
      why: expect.stringContaining("1.49 times as fine should do"),
    });
    // At order 1 it would take 2.22 times; twice is the most of one step.
    expect(refined(at({ mesh: { kind: "monotone", order: 1 } }))).toMatchObject({
      nx: 72,
      why: expect.stringContaining("2.2 times as fine is needed"),
    });
    // A hair above the target still takes a step worth its cost.
    expect(refined(at({ sources: [{ name: "mesh", relative: 0.00501 }] }))).toMatchObject({ nx: 47 });
    expect(refined(at({ mesh: { kind: "oscillating", order: 1 } })).why).toContain("with the set oscillating");
  });
  describe("a source that no mesh makes smaller is the largest", () => {
    const sources = [
      { name: "mesh", relative: 0.003 },
      { name: "domain", relative: 0.01 },
    ];
    test("what makes it smaller is changed, and the finest three meshes are computed again", () => {
      const m = retuned(at({ sources, tunings: [LENGTH] }));
      expect(m.tuning).toBe(LENGTH);
      expect(m.why.replaceAll("\u00a0", " ")).toBe(
        "Domain is the largest part with 1.0 %: “Length behind the step” goes from 20.0 to 30.0, and the finest 3 meshes are computed again.",
      );
    });
    test("where nothing can be changed, or all is at its end, that is the reason to stop", () => {
      const other = { ...LENGTH, source: "iteration" };
      for (const tunings of [[], [other]]) expect(ended(at({ sources, tunings })).reason).toContain("A finer mesh would not help");
    });
    test("cells and time are kept to", () => {
      expect(ended(at({ sources, tunings: [LENGTH] }), { ...GOAL, mostCells: 1900 }).reason).toMatch(
        /^Out of cells: the finest mesh would have 1.944,/,
      );
      // 5 s are spent; three meshes again at one and a half times 2.128 s.
      expect(ended(at({ sources, tunings: [LENGTH] }), { ...GOAL, longestS: 8 }).reason).toContain("Out of time: that would take about 3.2");
      expect(retuned(at({ sources, tunings: [LENGTH] }), { ...GOAL, longestS: 9 }).kind).toBe("retune");
    });
  });
  test("what the other sources take of the target is left to them", () => {
    const sources = [
      { name: "mesh", relative: 0.01 },
      { name: "iteration", relative: 0.003 },
    ];
    // The root of 0.005^2 - 0.003^2 is 0.004.
    expect(refined(at({ sources })).nx).toBe(Math.round(36 * Math.sqrt(0.01 / 0.0036)));
  });
  test("it is reached when all numerical sources together are within the target", () => {
    const within = [
      { name: "mesh", relative: 0.004 },
      { name: "iteration", relative: 0.003 },
    ];
    expect(ended(at({ sources: within }))).toEqual({ kind: "end", reached: true, reason: expect.stringContaining("0.50") });
    expect(nextMove(GOAL, at({ sources: [within[0], { name: "iteration", relative: 0.0031 }] })).kind).toBe("refine");
  });
});

describe("the end without reaching it", () => {
  test.each([
    [
      "another source dominates",
      {
        sources: [
          { name: "mesh", relative: 0.004 },
          { name: "iteration", relative: 0.02 },
        ],
      },
      "iteration is the largest part of it with 2.0",
    ],
    [
      "the others alone are over the target",
      {
        sources: [
          { name: "mesh", relative: 0.02 },
          { name: "iteration", relative: 0.004 },
          { name: "averaging", relative: 0.004 },
        ],
      },
      "what is not the mesh's alone makes 0.57",
    ],
    ["a run that failed", { failure: "Pressure -3 Pa." }, "gave nothing to go on from: Pressure -3 Pa."],
    ["a run that did not settle", { settled: "fails" as const, unsettled: "the residuals stall" }, "has not settled: the residuals stall"],
    [
      "nothing measured",
      { sources: [{ name: "mesh", relative: Number.POSITIVE_INFINITY }].slice(1), mesh: { kind: "monotone", order: 2 } },
      "Reached",
    ],
  ])("%s", (_, change, words) => {
    expect(ended(at(change)).reason).toContain(words);
  });
  test("six meshes that diverge are enough, five are not", () => {
    const many = (count: number) => at({ mesh: { kind: "diverging", order: 1 }, rungs: Array.from({ length: count }, (_, k) => rung(60 - 5 * k)) });
    expect(nextMove(GOAL, many(5)).kind).toBe("refine");
    expect(ended(many(6)).reason).toContain("over 6 meshes the drag does not converge");
    expect(ended({ ...many(6), mesh: undefined }).reason).toContain("fewer than three delivered");
  });
  test("the cells and the time that were allowed are kept, with what the next step would have cost", () => {
    expect(ended(at(), { ...GOAL, mostCells: 2915 }).reason).toMatch(
      /the next mesh would have 2[\s\u2009\u202f]?916, 2[\s\u2009\u202f]?915 were allowed/,
    );
    expect(nextMove({ ...GOAL, mostCells: 2916 }, at()).kind).toBe("refine");
    // Seconds go with the cells here: 2.916 s for 54 a side, after 5.
    expect(ended(at(), { ...GOAL, longestS: 7.9 }).reason).toContain("Out of time");
    expect(nextMove({ ...GOAL, longestS: 7.95 }, at()).kind).toBe("refine");
    // A steeper cost of the two finest is carried on: four times the cells took eight times as long.
    const steep = at({ rungs: [{ ...rung(32), seconds: 80 }, { ...rung(16), seconds: 10 }, rung(8)] });
    const next = refined(steep, { ...GOAL, longestS: 1000 });
    const cost = 80 * (next.nx / 32) ** 3;
    expect(ended(steep, { ...GOAL, longestS: 5 + cost - 1 }).reason).toContain("Out of time");
    expect(nextMove({ ...GOAL, longestS: 5 + cost + 1 }, steep).kind).toBe("refine");
  });
});
