import { afterAll, beforeAll, expect, test } from "vitest";
import type { MeshSpec } from "../../core/problems/describe/runSettings.ts";
import type { Store } from "../db/store.ts";
import { listRuns, type RunRow, updateRun } from "../repositories/runs.ts";
import { createCase } from "./cases.ts";
import { openCase } from "./evidence.ts";
import { LadderInput, startLadder } from "./ladders.ts";
import { startFamily } from "./runs.ts";
import { newCase, standIn, temporaryStore } from "./testStore.ts";

let opened: Store;
let close: () => Promise<void>;
let leave: () => void;
beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("ladders"));
  leave = standIn(opened, { bench: { put: async () => {}, turn: async () => {} }, follower: { finish: async () => false } });
});
afterAll(async () => {
  leave();
  await close();
});

const uniform = { kind: "uniform" as const };
async function caseWith(problemId: "step" | "post-shedding" | "plates", counts: readonly [number, number]): Promise<{ id: string; runs: RunRow[] }> {
  const { id } = await createCase(opened, newCase({ problemId, parameters: {} }));
  const [baseNx, baseNy] = counts;
  const runs = await startFamily(opened, id, { baseNx, baseNy, ratio: 2, count: 1, gradingX: uniform, gradingY: uniform }, false);
  return { id, runs };
}
const plan = (id: string, input: object) => startLadder(opened, id, LadderInput.parse(input), false);
const finish = (run: RunRow, value: number) =>
  updateRun(opened.db, run.id, {
    state: "done",
    result: { quantities: { reattachment: value, pressureRise: value }, profiles: [], errorNorms: [] },
    finishedAt: new Date(),
  });

test("larger domains have as many more cells along them, answer the same question, and become a source of the rule", async () => {
  const { id, runs } = await caseWith("step", [40, 16]);
  const wider = await plan(id, { axis: "domain", runId: runs[0].id, values: [30, 40] });
  expect(wider.map((r) => [(r.settings.mesh as MeshSpec).nx, r.settings.parameters.lengthSteps])).toEqual([
    [60, 30],
    [80, 40],
  ]);
  expect(new Set([...runs, ...wider].map((r) => r.setupHash)).size).toBe(3);
  for (const [k, run] of [...runs, ...wider].entries()) await finish(run, [5.3, 5.25, 5.24][k]);
  const { assessment } = await openCase(opened, id);
  expect(assessment.stale).toBe(false);
  // The case rests on the mesh of its own domain alone.
  expect(assessment.ladder).toEqual([runs[0].id]);
  expect(assessment.ladders.list.map((l) => [l.axis, ...l.runs.map((r) => r.place)])).toContainEqual([
    "domain",
    "extent 40",
    "extent 30",
    "extent 20",
  ]);
  const rule = assessment.rules.find((r) => r.quantityKey === "reattachment");
  const domain = rule?.sources.find((s) => s.key === "domain");
  // Three times the last change, and what 20 steps differ from 40.
  expect((domain?.relative ?? 0) * (rule?.scale ?? 0)).toBeCloseTo(3 * 0.01 + 0.06, 9);
});

test("time steps and tolerances change the numerics alone", async () => {
  const shedding = await caseWith("post-shedding", [8, 8]);
  const steps = await plan(shedding.id, { axis: "time-step", runId: shedding.runs[0].id, values: [0.5, 1] });
  expect(steps.map((r) => r.settings.numerics.courant)).toEqual([0.5, 1]);
  expect(steps[0].settings).toMatchObject({ mesh: shedding.runs[0].settings.mesh, parameters: shedding.runs[0].settings.parameters });
  const plates = await caseWith("plates", [8, 8]);
  const [loose] = await plan(plates.id, { axis: "tolerance", runId: plates.runs[0].id, values: [4] });
  expect(loose.settings.numerics.dropOrders).toBe(4);
});

test("what makes no ladder is refused in words, before anything is queued", async () => {
  const { id, runs } = await caseWith("step", [40, 16]);
  const other = await caseWith("plates", [8, 8]);
  const at = { axis: "domain", runId: runs[0].id };
  await expect(plan(id, { ...at, values: [20] })).rejects.toThrow("20 is what the case itself has: name others.");
  await expect(plan(id, { ...at, values: [30, 30] })).rejects.toThrow("A value stands there twice.");
  await expect(plan(id, { ...at, values: [1] })).rejects.toMatchObject({ details: { values: "1 is outside 4 to 200." } });
  await expect(plan(id, { ...at, axis: "time-step", values: [1] })).rejects.toThrow("This case has no such axis.");
  await expect(plan(other.id, { ...at, values: [30] })).rejects.toThrow("This case has no such axis.");
  await expect(plan(id, { ...at, runId: other.runs[0].id, values: [30] })).rejects.toMatchObject({ code: "not-found" });
  await expect(plan(other.runs[0].id, { ...at, values: [30] })).rejects.toMatchObject({ code: "not-found" });
  const fine = await startFamily(opened, id, { baseNx: 1000, baseNy: 100, ratio: 2, count: 1, gradingX: uniform, gradingY: uniform }, false);
  await expect(plan(id, { axis: "domain", runId: fine[0].id, values: [80] })).rejects.toThrow("4000 × 100 cells are more than the bench takes");
  expect(await listRuns(opened.db, id)).toHaveLength(2);
});
