import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, test } from "vitest";
import type { Store } from "../db/store.ts";
import { findCase, updateCase } from "../repositories/cases.ts";
import { findPilot, listPilots, type PilotRow } from "../repositories/pilots.ts";
import { findRun, listRuns, updateRun } from "../repositories/runs.ts";
import { createCase } from "./cases.ts";
import { startLadder } from "./ladders.ts";
import { advancePilot, advancePilots, PilotInput, startPilot, stopPilot } from "./pilots.ts";
import { startFamily } from "./runs.ts";
import { newCase, standIn, temporaryStore } from "./testStore.ts";

const calls: string[] = [];
const bench = {
  put: async (run: { id: string }) => void calls.push(`put ${run.id}`),
  turn: async () => undefined,
  stop: async (id: string) => {
    calls.push(`stop ${id}`);
    await updateRun(opened.db, id, { state: "interrupted", failure: "Taken off." });
  },
};
let opened: Store;
let close: () => Promise<void>;
let leave: () => void;
let caseId = "";

beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("pilots"));
  leave = standIn(opened, { bench, follower: { finish: async () => false } });
});
afterAll(async () => {
  leave();
  await close();
});
beforeEach(async () => {
  caseId = (await createCase(opened, newCase({ problemId: "plates", parameters: {} }))).id;
});
afterEach(() => {
  calls.length = 0;
});

const asked = (change: object = {}) => PilotInput.parse({ quantityKey: "flowRate", target: "1 %", mostCells: 10_000, minutes: 1, ...change });
const now = async (p: PilotRow) => (await findPilot(opened.db, p.id)) as PilotRow;
const waiting = async () => (await listRuns(opened.db, caseId)).filter((r) => r.state === "waiting");

/** Lets the run that waits end with a flow rate that is 1 + c h^2 of the truth. */
async function compute(c: number, change: object = {}): Promise<void> {
  const [run] = await waiting();
  const { nx } = run.settings.mesh as { nx: number };
  const flowRate = 0.0005 * (1 + c / nx ** 2);
  const result = { quantities: { flowRate }, profiles: [], errorNorms: [] };
  await updateRun(opened.db, run.id, { state: "done", result, seconds: nx ** 2 / 100, finishedAt: new Date(), ...change });
}

async function fly(c: number, p: PilotRow, most = 12): Promise<PilotRow> {
  for (let k = 0; k < most && (await now(p)).state === "under way"; k++) {
    await compute(c);
    await advancePilots(opened);
  }
  return now(p);
}

describe("a case on autopilot", () => {
  test("takes coarse meshes first, one after the other, until the target is reached, and says why at each step", async () => {
    const p = await startPilot(opened, caseId, asked());
    expect(p).toMatchObject({ state: "under way", target: 0.01, longestS: 60 });
    expect(p.steps).toHaveLength(1);
    // Nothing is done while its run waits.
    await advancePilots(opened);
    expect((await now(p)).steps).toHaveLength(1);
    const done = await fly(4, p);
    expect(done).toMatchObject({ state: "reached", reason: expect.stringMatching(/^Reached: .*1\.0.%? ?.*was asked for/) });
    expect(done.endedAt).toBeInstanceOf(Date);
    expect(done.steps.length).toBeGreaterThanOrEqual(3);
    expect(done.steps.map((s) => s.why)).toEqual(
      expect.arrayContaining([expect.stringContaining("coarse mesh first"), expect.stringContaining("number 3")]),
    );
    const runs = await listRuns(opened.db, caseId);
    expect(runs.map((r) => r.id).sort()).toEqual(done.steps.map((s) => s.runId).sort());
    expect(calls.filter((c) => c.startsWith("put"))).toHaveLength(done.steps.length);
    const { nx } = runs[0].settings.mesh as { nx: number };
    expect((runs[1].settings.mesh as { nx: number }).nx).toBe(Math.round(nx * 1.5));
  });
  test("where the domain is the largest part it is made larger: the case changes, its finest meshes are computed again, and the reason is told", async () => {
    const { id } = await createCase(opened, newCase({ problemId: "step", parameters: {} }));
    const uniform = { kind: "uniform" as const };
    const family = { baseNx: 20, baseNy: 8, ratio: 2, count: 3, gradingX: uniform, gradingY: uniform };
    const end = (runId: string, reattachment: number) =>
      updateRun(opened.db, runId, {
        state: "done",
        result: { quantities: { reattachment }, profiles: [], errorNorms: [] },
        seconds: 1,
        finishedAt: new Date(),
      });
    const meshes = await startFamily(opened, id, family, false);
    for (const [k, run] of meshes.entries()) await end(run.id, 5 + 0.01 / 4 ** k);
    const wider = await startLadder(opened, id, { axis: "domain", runId: meshes[2].id, values: [30] }, false);
    await end(wider[0].id, 5.2);
    const p = await startPilot(opened, id, asked({ quantityKey: "reattachment", target: "2 %" }));
    expect(p.steps.map((s) => s.label)).toEqual(["30 × 8", "60 × 16", "120 × 32"]);
    expect(new Set(p.steps.map((s) => s.why))).toEqual(new Set([expect.stringMatching(/^Domain is the largest part .*goes from 20\.0 to 30\.0/)]));
    const changed = (await findCase(opened.db, id))?.setup;
    expect(changed?.parameters.lengthSteps).toBe(30);
    expect(changed?.typed ?? {}).not.toHaveProperty("lengthSteps");
    // All three are waited for; the question did not change under way.
    await end(p.steps[2].runId, 5.2);
    await advancePilot(opened, p.id);
    expect((await now(p)).steps).toHaveLength(3);
    for (const s of p.steps) await end(s.runId, 5.2);
    await advancePilot(opened, p.id);
    const after = await now(p);
    // What the old domain differs from this one is told three times over, and the next larger one is tried.
    expect(after.steps.length).toBe(6);
    expect(after.steps[5]).toMatchObject({ label: "180 × 32", why: expect.stringContaining("goes from 30.0 to 45.0") });
    await stopPilot(opened, p.id);
    expect(calls.filter((c) => c.startsWith("stop"))).toHaveLength(3);
  });
  test("a target too small for the cells ends with what the next mesh would have had", async () => {
    const done = await fly(4, await startPilot(opened, caseId, asked({ target: "0.001 %", mostCells: 200 })));
    expect(done).toMatchObject({ state: "ended", reason: expect.stringContaining("Out of cells") });
    expect((await waiting()).length).toBe(0);
  });
  test("a set that swings is refined as if at order one, one of a low order at its own", async () => {
    const off = (list: readonly number[]) => async () => {
      const p = await startPilot(opened, caseId, asked());
      for (const share of list) {
        const [run] = await waiting();
        const { nx } = run.settings.mesh as { nx: number };
        await compute(share * nx ** 2);
        await advancePilots(opened);
      }
      const { steps } = await now(p);
      await stopPilot(opened, p.id);
      return steps.at(-1)?.why;
    };
    expect(await off([0.02, -0.01, 0.004])()).toContain("with the set oscillating, as if at order 1,");
    caseId = (await createCase(opened, newCase({ problemId: "plates", parameters: {} }))).id;
    // Each mesh half as fine again: errors that fall by 1.5 are of order one.
    expect(await off([0.09, 0.06, 0.04])()).toMatch(/; at order (0\.9|1\.0)/);
  });
  test("a run that fails ends it with the run's own words", async () => {
    const p = await startPilot(opened, caseId, asked());
    await compute(4, { state: "failed", result: null, failure: "The residuals grew beyond bounds." });
    await advancePilots(opened);
    expect(await now(p)).toMatchObject({ state: "ended", reason: expect.stringContaining("The residuals grew beyond bounds.") });
  });
  test("stopped by hand, its run is stopped too; what follows moves it no more", async () => {
    const p = await startPilot(opened, caseId, asked());
    const [step] = p.steps;
    await stopPilot(opened, p.id);
    expect(calls).toContain(`stop ${step.runId}`);
    expect(await now(p)).toMatchObject({ state: "stopped", reason: "Stopped by hand." });
    await advancePilot(opened, p.id);
    await stopPilot(opened, p.id);
    expect((await now(p)).steps).toHaveLength(1);
    expect((await findRun(opened.db, step.runId))?.state).toBe("interrupted");
  });
  test("a question changed on the way ends it, and so does a case that was deleted", async () => {
    const p = await startPilot(opened, caseId, asked());
    await compute(4);
    const row = await findCase(opened.db, caseId);
    if (!row) throw new Error("gone");
    await updateCase(opened.db, caseId, { setup: { ...row.setup, parameters: { ...row.setup.parameters, gapM: 0.02 } } });
    await advancePilots(opened);
    expect((await now(p)).reason).toContain("The question was changed");
    const second = await startPilot(opened, caseId, asked());
    await updateCase(opened.db, caseId, { deletedAt: new Date() });
    await compute(4);
    await advancePilots(opened);
    expect((await now(second)).reason).toBe("The case was deleted.");
  });
  test("two who take the step at once leave one run; a second autopilot beside the first is refused", async () => {
    const p = await startPilot(opened, caseId, asked());
    await expect(startPilot(opened, caseId, asked())).rejects.toMatchObject({ code: "conflict" });
    await compute(4);
    await Promise.all([advancePilot(opened, p.id), advancePilot(opened, p.id), advancePilots(opened)]);
    expect((await now(p)).steps).toHaveLength(2);
    expect(await waiting()).toHaveLength(1);
    expect(await listPilots(opened.db, caseId)).toHaveLength(1);
  });
  test("meshes that are there already are made use of", async () => {
    await fly(4, await startPilot(opened, caseId, asked({ target: "2 %" })));
    const before = (await listRuns(opened.db, caseId)).length;
    const finer = await startPilot(opened, caseId, asked({ target: "0.2 %" }));
    expect(finer.steps[0].why).toMatch(/^The mesh is the largest part, .*; at order 2\.00 a mesh/);
    const [next] = await waiting();
    expect((next.settings.mesh as { nx: number }).nx).toBeGreaterThan(before);
  });
  test("another code's case, a missing quantity and targets that are none are refused", async () => {
    const foreign = await createCase(opened, newCase());
    await expect(startPilot(opened, foreign.id, asked())).rejects.toThrow("only the bench");
    await expect(startPilot(opened, caseId, asked({ quantityKey: "none" }))).rejects.toThrow("no such quantity");
    await expect(startPilot(opened, caseId, asked({ target: "soon" }))).rejects.toMatchObject({ details: { target: expect.any(String) } });
    expect(PilotInput.safeParse({ quantityKey: "q", target: "1 %", mostCells: 4, minutes: 1 }).success).toBe(false);
    expect(await listPilots(opened.db, caseId)).toEqual([]);
  });
});
