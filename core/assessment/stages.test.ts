import { describe, expect, test } from "vitest";
import type { CaseEvidence } from "../records/case.ts";
import type { RunEvidence } from "../records/run.ts";
import { assessCase } from "./assessCase.ts";
import { CLOSED, DRAG, evidenceOf, FAMILY, runOf, TABLE } from "./evidenceForTests.ts";
import { reportLine } from "./registry.ts";
import { STAGES, type Stage } from "./results/stage.ts";

const line = (e: CaseEvidence, stage: Stage) => {
  const found = assessCase(e).stages.find((s) => s.stage === stage);
  return found && [found.line, found.state];
};
const bare = (state: RunEvidence["state"], id: string) => runOf(64, 10, { id, state, result: undefined, history: undefined, mesh: undefined });

test("every stage once, in the order of the work, by its name", () => {
  const { stages } = assessCase(evidenceOf());
  const resting = STAGES.filter((s) => s !== "report");
  expect(stages.map((s) => s.stage)).toEqual(resting);
  expect(stages.map((s) => s.title)).toEqual(resting.map((s) => `${s[0].toUpperCase()}${s.slice(1)}`));
});

describe("each line counts what it speaks of", () => {
  test("question: quantities, else doubts that nobody answered", () => {
    expect(line(evidenceOf(), "question")).toEqual(["1 quantity", "holds"]);
    expect(line(evidenceOf(FAMILY, { quantities: [DRAG, { ...DRAG, key: "p" }] }), "question")).toEqual(["2 quantities", "holds"]);
    const doubtful = { ...evidenceOf().setup, dropOrders: 3, schemeOrder: 1 as const };
    expect(line(evidenceOf(FAMILY, { setup: { ...doubtful, schemeOrder: 2 } }), "question")).toEqual(["1 doubt", "remark"]);
    expect(line(evidenceOf(FAMILY, { setup: doubtful }), "question")).toEqual(["2 doubts", "remark"]);
    expect(line(evidenceOf(FAMILY, { setup: { ...evidenceOf().setup, dropOrders: undefined } }), "question")).toEqual(["1 quantity", "holds"]);
  });
  test("yardsticks: one that holds here is enough", () => {
    const outside = { ...TABLE, key: "o", validity: { sentence: "", inside: false } };
    expect(line(evidenceOf(), "yardsticks")).toEqual(["1 yardstick", "holds"]);
    expect(line(evidenceOf(FAMILY, { yardsticks: [] }), "yardsticks")).toEqual(["none yet", "none"]);
    expect(line(evidenceOf(FAMILY, { yardsticks: [outside] }), "yardsticks")).toEqual(["1 yardstick", "fails"]);
    expect(line(evidenceOf(FAMILY, { yardsticks: [outside, TABLE] }), "yardsticks")).toEqual(["2 yardsticks", "holds"]);
  });
  test("meshes and runs", () => {
    expect(line(evidenceOf([]), "meshes")).toEqual(["0 meshes", "none"]);
    expect(line(evidenceOf([FAMILY[0]]), "meshes")).toEqual(["1 mesh", "holds"]);
    expect(line(evidenceOf([...FAMILY, runOf(64, 10, { id: "again" })]), "meshes")).toEqual(["3 meshes", "holds"]);
    expect(line(evidenceOf([]), "runs")).toEqual(["none yet", "none"]);
    expect(line(evidenceOf(), "runs")).toEqual(["3 done", "holds"]);
    const mixed = [FAMILY[0], bare("running", "a"), bare("waiting", "b"), bare("followed", "c"), bare("diverged", "d"), bare("failed", "e")];
    expect(line(evidenceOf(mixed), "runs")).toEqual(["1 done, 3 under way, 2 broken off", "remark"]);
    expect(line(evidenceOf([bare("interrupted", "a")]), "runs")).toEqual(["1 broken off", "fails"]);
    expect(line(evidenceOf([bare("paused", "a")]), "runs")).toEqual(["none yet", "none"]);
    expect(line(evidenceOf([runOf(64, 10, { state: "stopped" })]), "runs")).toEqual(["1 done", "holds"]);
  });
  test("settling, balance, refinement, comparison", () => {
    const e = evidenceOf();
    expect(line(e, "settling")).toEqual(["3 of 3", "holds"]);
    expect(line(evidenceOf([]), "settling")).toEqual(["needs a run", "none"]);
    expect(line(e, "balance")).toEqual(["mass", "holds"]);
    const push = { boundaries: [{ name: "a", mass: 0, momentumX: [1, -1, 0] as const, momentumY: [1, -1, 0] as const }] };
    const pushed = [runOf(64, 10, { result: { ...FAMILY[0].result!, balance: push } })];
    expect(line(evidenceOf(pushed), "balance")).toEqual(["x, y", "holds"]);
    const silent = FAMILY.map((r) => ({ ...r, result: { ...r.result!, balance: undefined } }));
    expect(line(evidenceOf(silent), "balance")).toEqual(["not measured", "none"]);
    expect(line(e, "refinement")).toEqual(["1 of 1 quantity", "holds"]);
    expect(line(evidenceOf(FAMILY.slice(1)), "refinement")).toEqual(["needs three meshes", "none"]);
    expect(line(e, "comparison")).toEqual(["1 of 1 done", "holds"]);
    expect(line(evidenceOf(FAMILY, { quantities: [DRAG, { ...DRAG, key: "p" }] }), "comparison")).toEqual(["1 of 2 done", "holds"]);
    expect(CLOSED.boundaries).toHaveLength(2);
  });
  test("verdict and report", () => {
    expect(line(evidenceOf(), "verdict")).toEqual(["1 of 1 hold", "holds"]);
    expect(line(evidenceOf([]), "verdict")).toEqual(["incomplete", "none"]);
    expect(reportLine(0)).toEqual({ stage: "report", title: "Report", line: "not issued", state: "none" });
    expect([reportLine(1), reportLine(2)].map((r) => [r.line, r.state])).toEqual([
      ["1 report issued", "holds"],
      ["2 reports issued", "holds"],
    ]);
  });
});

test("of old runs only the stages that rest on runs are stale, and those without a state stay so", () => {
  const states = Object.fromEntries(assessCase(evidenceOf(FAMILY.slice(1), { setupHash: "later" })).stages.map((s) => [s.stage, s.state]));
  expect(states).toMatchObject({ question: "holds", yardsticks: "holds", meshes: "holds", runs: "holds" });
  expect(states).toMatchObject({ settling: "stale", balance: "stale", refinement: "none", comparison: "none", verdict: "stale" });
});

describe("the board's cells", () => {
  test("figures of the finest run", () => {
    const { board } = assessCase(evidenceOf());
    expect(board.settled).toEqual({ state: "holds", figure: "10⁻¹¹" });
    expect(board.balanced.figure).toBe("0");
    expect(board.refined).toEqual({ state: "holds", figure: "0.20\u00a0%" });
    expect(board.compared).toEqual({ state: "holds", figure: "+0.16\u00a0%" });
  });
  test("a defect of a thousandth of a per cent and more is a percentage, less a power of ten", () => {
    const leak = (defect: number) => {
      const balance = {
        boundaries: [
          { name: "i", mass: -1 },
          { name: "o", mass: 1 - defect },
        ],
      };
      return assessCase(evidenceOf([runOf(64, 10, { result: { ...FAMILY[0].result!, balance } })])).board.balanced.figure;
    };
    expect(leak(2e-5)).toBe("0.0020\u00a0%");
    expect(leak(2e-6)).toMatch(/×10⁻⁶$/);
  });
  test("sets without an order say so; a set-up that fails drags the comparison down", () => {
    const equal = [16, 32, 64].map((n) => runOf(n, 10));
    expect(assessCase(evidenceOf(equal)).board.refined.figure).toBe("no order");
    expect(assessCase(evidenceOf([])).board).toEqual({
      settled: { state: "none", figure: "" },
      balanced: { state: "none", figure: "" },
      refined: { state: "none", figure: "" },
      compared: { state: "none", figure: "" },
    });
    const e = evidenceOf();
    const broken = { ...e, setup: { ...e.setup, reynoldsTyped: 1 } };
    expect(assessCase(broken).setup.state).toBe("fails");
    expect(assessCase(broken).board.compared.state).toBe("fails");
  });
});

describe("which runs the assessments rest on", () => {
  const ladder = (runs: readonly RunEvidence[], change: Partial<CaseEvidence> = {}) => assessCase(evidenceOf(runs, change)).ladder;
  test("finished ones with a result, the newest on each mesh, finest first", () => {
    const older = runOf(64, 10, { id: "older", finishedAt: "2026-03-01T00:00:00Z" });
    const undated = runOf(64, 10, { id: "undated", finishedAt: undefined });
    expect(ladder([...FAMILY, older, undated])).toEqual(["run-64", "run-32", "run-16"]);
    expect(ladder([undated, older, ...FAMILY])).toEqual(["run-64", "run-32", "run-16"]);
    expect(ladder([...FAMILY, runOf(128, 10, { id: "dead", state: "diverged" })])).not.toContain("dead");
    expect(ladder([...FAMILY, runOf(128, 10, { id: "empty", result: undefined })])).not.toContain("empty");
  });
  test("of two of one time the later in the list counts", () => expect(ladder([...FAMILY, runOf(64, 10, { id: "twin" })])[0]).toBe("twin"));
  test("meshes differ by cells or spacing; runs without a mesh are all kept, last", () => {
    const sparse = runOf(64, 10, { id: "sparse", mesh: { label: "", cells: 64 * 64, spacing: 0.02, dimension: 2 } });
    const free = [1, 2].map((k) => runOf(64, 10, { id: `free-${k}`, mesh: undefined }));
    expect(ladder([...free, sparse, FAMILY[2]])).toEqual(["run-64", "sparse", "free-1", "free-2"]);
  });
  test("old runs only while there is no new one", () => {
    const old = runOf(128, 10, { id: "old", setupHash: "before" });
    expect(ladder([old, FAMILY[0]])).toEqual(["run-16"]);
    expect(assessCase(evidenceOf([old, FAMILY[0]])).stale).toBe(false);
    expect(assessCase(evidenceOf([old])).stale).toBe(true);
    expect(assessCase(evidenceOf([])).stale).toBe(false);
  });
});
