import { describe, expect, test } from "vitest";
import type { RunEvidence } from "../records/run.ts";
import { chosenRuns, studyAlong } from "./study.ts";

let made = 0;
const run = (n: number | undefined, timeStepS?: number, change: Partial<RunEvidence> = {}): RunEvidence => ({
  id: `r${++made}`,
  label: `${n} ${timeStepS ?? ""}`.trim(),
  origin: "brought-in",
  code: "Lintel",
  state: "done",
  setupHash: "now",
  ...(n === undefined ? {} : { mesh: { label: `${n}`, cells: n * n, spacing: 1 / n, dimension: 2 } }),
  ...(timeStepS === undefined ? {} : { stated: { timeStepS } }),
  result: { quantities: {}, profiles: [], errorNorms: [] },
  finishedAt: "2026-04-01T10:00:00Z",
  ...change,
});
const mesh = (runs: readonly RunEvidence[]) => studyAlong("mesh", runs).runs.map((r) => r.label);
const steps = (runs: readonly RunEvidence[]) => studyAlong("time-step", runs).runs.map((r) => r.label);

describe("which runs count", () => {
  const old = run(8, undefined, { setupHash: "old" });
  test("those of the present set-up; the old ones while there are none, and that is said", () => {
    const now = run(8);
    expect(chosenRuns({ runs: [old, now], setupHash: "now" })).toEqual({ runs: [now], stale: false });
    expect(chosenRuns({ runs: [old], setupHash: "now" })).toEqual({ runs: [old], stale: true });
    expect(chosenRuns({ runs: [], setupHash: "now" })).toEqual({ runs: [], stale: false });
  });
  test("finished ones with a result alone", () => {
    const going = run(8, undefined, { state: "running" });
    const empty = run(8, undefined, { result: undefined });
    const stopped = run(8, undefined, { state: "stopped" });
    expect(chosenRuns({ runs: [going, empty, stopped, old], setupHash: "now" }).runs).toEqual([stopped]);
    // An old run that broke off makes nothing stale.
    expect(chosenRuns({ runs: [run(8, undefined, { setupHash: "old", state: "failed" })], setupHash: "now" }).stale).toBe(false);
  });
});

describe("along the mesh", () => {
  test("meshes of two codes are no family: those of the code with most meshes count, of equals the one that reaches the finest", () => {
    const purlin = { code: "Purlin" };
    expect(mesh([run(8), run(16), run(12, undefined, purlin), run(64, undefined, purlin)])).toEqual(["64", "12"]);
    expect(mesh([run(8), run(16), run(32), run(12, undefined, purlin), run(64, undefined, purlin)])).toEqual(["32", "16", "8"]);
    // Twice on one mesh is one mesh.
    expect(mesh([run(8), run(16), run(64, undefined, purlin), run(64, undefined, purlin), run(64, undefined, purlin)])).toEqual(["16", "8"]);
    const late = { ...purlin, finishedAt: "2026-05-01T10:00:00Z" };
    expect(mesh([run(8), run(8, undefined, late)])).toEqual(["8"]);
    expect(studyAlong("mesh", [run(8), run(8, undefined, late)]).runs[0].code).toBe("Purlin");
  });
  test("one run a mesh, the finest first, whatever the order they were made in", () => {
    expect(mesh([run(8), run(32), run(16)])).toEqual(["32", "16", "8"]);
    expect(mesh([])).toEqual([]);
  });
  test("of one mesh the newest; of equally new ones the later listed", () => {
    const [a, b] = [run(8, undefined, { finishedAt: "2026-04-02T10:00:00Z" }), run(8)];
    expect(studyAlong("mesh", [a, b]).runs).toEqual([a]);
    expect(studyAlong("mesh", [run(8), a, { ...a, id: "twin" }]).runs.map((r) => r.id)).toEqual(["twin"]);
  });
  test("runs without a mesh stand for themselves, last", () =>
    expect(mesh([run(undefined), run(16), run(undefined)])).toEqual(["16", "undefined", "undefined"]));
  test("meshes told apart by spacing where their cells are as many", () => {
    const wide = run(8);
    const other = { ...run(8), mesh: { label: "8 wide", cells: 64, spacing: 0.2, dimension: 2 as const } };
    expect(studyAlong("mesh", [other, wide]).runs).toEqual([wide, other]);
  });
  test("three time steps on the finest mesh do not mix into the ladder: the step that every mesh has is taken", () => {
    const runs = [run(8, 0.04), run(16, 0.04), run(32, 0.04), run(32, 0.02), run(32, 0.01, { finishedAt: "2026-05-01T10:00:00Z" })];
    expect(mesh(runs)).toEqual(["32 0.04", "16 0.04", "8 0.04"]);
    expect(steps(runs)).toEqual(["32 0.01", "32 0.02", "32 0.04"]);
  });
  test("of several steps that every mesh has the shortest", () => {
    const runs = [run(8, 0.04), run(8, 0.02), run(16, 0.02), run(16, 0.04)];
    expect(mesh(runs)).toEqual(["16 0.02", "8 0.02"]);
  });
  test("runs in larger domains do not mix into the ladder: the extent with most meshes is taken, of equals the largest", () => {
    const wide = (r: RunEvidence, domainM: number) => ({ ...r, stated: { ...r.stated, domainM } });
    const three = [8, 16, 32].map((n) => wide(run(n), 2));
    expect(studyAlong("mesh", [...three, wide(run(40), 3), wide(run(50), 4)]).runs).toEqual([...three].reverse());
    const [two, large] = [wide(run(8), 2), wide(run(9), 3)];
    expect(studyAlong("mesh", [two, large]).runs).toEqual([large]);
  });
  test("spacing and step refined together stay one ladder", () =>
    expect(mesh([run(8, 0.04), run(16, 0.02), run(32, 0.01)])).toEqual(["32 0.01", "16 0.02", "8 0.04"]));
});

describe("along the time step", () => {
  test("nothing where no step is known, or no mesh", () => {
    expect(steps([run(8), run(16)])).toEqual([]);
    expect(steps([run(undefined, 0.1), run(undefined, 0.2)])).toEqual([]);
  });
  test("on the mesh with the most steps; of equals on the finest", () => {
    expect(steps([run(8, 0.2), run(8, 0.1), run(16, 0.1)])).toEqual(["8 0.1", "8 0.2"]);
    expect(steps([run(8, 0.2), run(8, 0.1), run(16, 0.1), run(16, 0.2)])).toEqual(["16 0.1", "16 0.2"]);
  });
});
