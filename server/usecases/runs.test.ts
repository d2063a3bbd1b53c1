import { eq } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { writeAssessment } from "../../core/assessment/stored.ts";
import { assessmentCache } from "../db/schema.ts";
import type { Store } from "../db/store.ts";
import { findCase, updateCase } from "../repositories/cases.ts";
import { findRun, insertRun, listRuns, listSweeps, type RunRow, readSetting, saveField, updateRun } from "../repositories/runs.ts";
import { assessments } from "./assessed.ts";
import { createCase, saveQuestion } from "./cases.ts";
import { openCase, openCases } from "./evidence.ts";
import { createFinding, deleteFinding } from "./findings.ts";
import { issueReport } from "./reports.ts";
import {
  copyRun,
  deleteRun,
  deleteSweep,
  type FamilyInput,
  restoreRun,
  runAgain,
  runFamilyAgain,
  setCores,
  setPriority,
  startChoices,
  startFamily,
  startSweep,
  stopRun,
} from "./runs.ts";
import { newCase, questionOf, standIn, temporaryStore } from "./testStore.ts";

const calls: string[] = [];
const bench = {
  put: async (run: { label: string }, wake = true) => void calls.push(`put ${run.label}${wake ? "" : " quietly"}`),
  turn: async () => void calls.push("turn"),
  stop: async (id: string) => void calls.push(`stop ${id}`),
};
const follower = { finish: async (id: string) => id === "followed" };

let opened: Store;
let close: () => Promise<void>;
let leave: () => void;
beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("runs"));
  leave = standIn(opened, { bench, follower });
});
afterAll(async () => {
  leave();
  await close();
});
beforeEach(() => {
  calls.length = 0;
});

const gone = "00000000-0000-4000-8000-000000000000";
const uniform = { kind: "uniform" as const };
const family = (change: Partial<FamilyInput> = {}): FamilyInput => ({
  baseNx: 8,
  baseNy: 8,
  ratio: 2,
  count: 3,
  gradingX: uniform,
  gradingY: uniform,
  ...change,
});
const make = (problemId: "plates" | "lidded-box" | null = "plates", change = {}) =>
  createCase(opened, newCase({ problemId, parameters: problemId ? {} : newCase().parameters, ...change }));
const finish = (id: string, q = 1) =>
  updateRun(opened.db, id, { state: "done", result: { quantities: { flowRate: q, uMin: q }, profiles: [], errorNorms: [] }, finishedAt: new Date() });
const numerics = { nx: 16, ny: 16, scheme: "central" as const, dropOrders: 8, maxIterations: 400, priority: 0 };

describe("families", () => {
  test("one run a mesh, settings frozen with their hash, meshes of their sizes; the plan is kept", async () => {
    const row = await make();
    const runs = await startFamily(opened, row.id, family());
    expect(runs.map((r) => [r.label, r.state, r.origin])).toEqual([
      ["8 × 8", "waiting", "bench"],
      ["16 × 16", "waiting", "bench"],
      ["32 × 32", "waiting", "bench"],
    ]);
    expect(new Set(runs.map((r) => r.settingsHash)).size).toBe(3);
    expect(new Set(runs.map((r) => r.setupHash)).size).toBe(1);
    expect((await openCase(opened, row.id)).meshes.map((m) => m.cells)).toEqual([64, 256, 1024]);
    expect((await findCase(opened.db, row.id))?.setup.family).toEqual(family());
    expect(calls).toEqual(["put 8 × 8 quietly", "put 16 × 16 quietly", "put 32 × 32 quietly", "turn"]);
    const again = await runFamilyAgain(opened, row.id);
    expect(again.map((r) => r.settingsHash)).toEqual(runs.map((r) => r.settingsHash));
    expect((await openCase(opened, row.id)).meshes).toHaveLength(3);
  });
  test("labels tell graded and shaped meshes apart", async () => {
    const row = await make("lidded-box");
    const graded = { kind: "both-ends" as const, strength: 2 };
    const label = async (change: Partial<FamilyInput>) => (await startFamily(opened, row.id, family({ count: 1, ...change }), false))[0].label;
    expect(await label({ gradingX: graded })).toBe("8 × 8 graded");
    expect(await label({ gradingY: graded, shape: "rows" })).toBe("8 × 8 graded");
    expect(await label({ shape: "triangles" })).toBe("8 × 8 triangles");
    expect(calls).toEqual([]);
  });
  test("more cells than the bench takes are refused with their number, before anything is queued", async () => {
    const row = await make();
    await expect(startFamily(opened, row.id, family({ baseNx: 400, baseNy: 400, count: 2 }))).rejects.toThrow(/640000 cells; 300000 is the most/);
    expect(await listRuns(opened.db, row.id)).toEqual([]);
    await expect(startFamily(opened, (await make(null)).id, family())).rejects.toThrow(/no bench problem/);
    await expect(startFamily(opened, gone, family())).rejects.toMatchObject({ code: "not-found" });
    await expect(runFamilyAgain(opened, row.id)).rejects.toMatchObject({ code: "conflict" });
    await expect(runFamilyAgain(opened, gone)).rejects.toMatchObject({ code: "not-found" });
  });
});

describe("evidence", () => {
  test("a changed condition makes runs stale, a changed limit or name does not", async () => {
    const row = await make();
    const [run] = await startFamily(opened, row.id, family({ count: 1 }), false);
    await finish(run.id);
    const stale = async () => (await openCase(opened, row.id)).assessment.stale;
    expect(await stale()).toBe(false);
    await saveQuestion(opened, row.id, questionOf({ parameters: {}, title: "other", dropOrders: "8", limits: { flowRate: "3 %" } }));
    expect(await stale()).toBe(false);
    await saveQuestion(opened, row.id, questionOf({ parameters: { wallSpeedMS: "0.2 m/s" }, dropOrders: "8" }));
    expect(await stale()).toBe(true);
    const [fresh] = await startFamily(opened, row.id, family({ count: 1 }), false);
    await finish(fresh.id);
    expect(await stale()).toBe(false);
    expect((await openCase(opened, row.id)).assessment.ladder).toEqual([fresh.id]);
  });
  test("runs of sweeps are shown but are no evidence; they tell sensitivities where inputs were typed", async () => {
    const row = await make();
    await startSweep(opened, row.id, { axes: [{ key: "wallSpeedMS", values: ["0.05 m/s", "0.1 m/s", "0.2 m/s"] }], nx: 8, ny: 8, priority: 2 });
    const swept = await listRuns(opened.db, row.id);
    expect(swept.map((r) => [r.label, r.settings.parameters.wallSpeedMS, r.priority])).toEqual([
      ["0.050000", 0.05, 2],
      ["0.10000", 0.1, 2],
      ["0.20000", 0.2, 2],
    ]);
    for (const r of swept) await finish(r.id, r.settings.parameters.wallSpeedMS ** 2);
    const book = await openCase(opened, row.id);
    expect(book.evidence.runs).toEqual([]);
    expect(book.swept).toHaveLength(3);
    expect(book.assessment.ladder).toEqual([]);
    expect(book.evidence.swept).toBeUndefined();
    const inputs = { wallSpeedMS: { uncertainty: "1 %", sensitivities: {} } };
    await saveQuestion(opened, row.id, questionOf({ parameters: {}, inputs, dropOrders: "6" }));
    // They were asked to fall by eight orders: runs made otherwise than the case is set up tell nothing of it.
    expect((await openCase(opened, row.id)).evidence).toMatchObject({ swept: [], sweptEarlier: 1 });
    await saveQuestion(opened, row.id, questionOf({ parameters: {}, inputs, dropOrders: "8" }));
    expect((await openCase(opened, row.id)).evidence.swept).toHaveLength(3);
    expect((await openCase(opened, row.id)).assessment.rules[0].sources.find((s) => s.key === "inputs")?.note).toContain(
      "sensitivity 2.0, from a sweep",
    );
  });
});

describe("sweeps", () => {
  const sweep = (axes: { key: string; values: string[] }[], change = {}) => ({ axes, nx: 8, ny: 8, priority: 0, ...change });
  test("every pair of two parameters, named by both values", async () => {
    const row = await make();
    await startSweep(
      opened,
      row.id,
      sweep([
        { key: "wallSpeedMS", values: ["1 m/s", "2 m/s"] },
        { key: "densityKgM3", values: ["1 kg/m^3", "3 kg/m^3"] },
      ]),
    );
    const runs = await listRuns(opened.db, row.id);
    expect(runs.map((r) => [r.settings.parameters.wallSpeedMS, r.settings.parameters.densityKgM3])).toEqual([
      [1, 1],
      [1, 3],
      [2, 1],
      [2, 3],
    ]);
    expect(runs[1].label).toBe("1.0000, 3.0000");
    const [kept] = await listSweeps(opened.db, row.id);
    expect(kept.axes.map((a) => a.key)).toEqual(["wallSpeedMS", "densityKgM3"]);
    expect(calls.at(-1)).toBe("turn");
    await deleteSweep(opened, kept.id);
    expect(calls.filter((c) => c.startsWith("stop"))).toHaveLength(4);
    expect(await listSweeps(opened.db, row.id)).toEqual([]);
  });
  test("a similarity number sets the parameter it stands for, with the others as they are swept", async () => {
    const row = await make("lidded-box");
    await startSweep(opened, row.id, sweep([{ key: "reynolds", values: ["100", "400"] }]));
    for (const r of await listRuns(opened.db, row.id)) {
      const p = r.settings.parameters;
      expect((p.densityKgM3 * p.lidSpeedMS * p.sideM) / p.viscosityPaS).toBeCloseTo(Number(r.label), 8);
    }
  });
  test("what cannot be swept is refused", async () => {
    const row = await make();
    const refused = (axes: { key: string; values: string[] }[], change = {}) => startSweep(opened, row.id, sweep(axes, change));
    await expect(refused([{ key: "nothing", values: ["1", "2"] }])).rejects.toThrow(/no parameter "nothing"/);
    await expect(refused([{ key: "wallSpeedMS", values: ["1 m/s", "fast"] }])).rejects.toMatchObject({ details: { "axis-0": expect.any(String) } });
    await expect(refused([{ key: "lengthM", values: ["1 m", "101 m"] }])).rejects.toThrow(/101 m is outside/);
    await expect(
      refused([
        { key: "lengthM", values: ["1 m", "2 m"] },
        { key: "lengthM", values: ["1 m", "2 m"] },
      ]),
    ).rejects.toThrow(/two different/);
    await expect(refused([{ key: "lengthM", values: ["1 m", "2 m"] }], { nx: 1000, ny: 301 })).rejects.toThrow(/301000 cells are more/);
    await expect(startSweep(opened, (await make(null)).id, sweep([{ key: "lengthM", values: ["1 m", "2 m"] }]))).rejects.toThrow(
      /Only cases of the bench/,
    );
    expect(await listRuns(opened.db, row.id)).toEqual([]);
  });
});

test("runs planned together keep their order, whichever is changed first", async () => {
  const row = await make();
  const runs = await startFamily(opened, row.id, family({ count: 4, ratio: 1.5 }));
  for (const r of [...runs].reverse()) await finish(r.id);
  expect((await listRuns(opened.db, row.id)).map((r) => r.id)).toEqual(runs.map((r) => r.id));
  const times = runs.map((r) => r.createdAt.getTime());
  expect(new Set(times).size).toBe(4);
});

describe("again, alike, from another", () => {
  test("again: frozen settings and hashes, a run of its own", async () => {
    const row = await make();
    const [old] = await startFamily(opened, row.id, family({ count: 1 }), false);
    await saveQuestion(opened, row.id, questionOf({ parameters: { wallSpeedMS: "0.2 m/s" } }));
    const again = await runAgain(opened, old.id);
    expect(again.id).not.toBe(old.id);
    expect(again).toMatchObject({ settingsHash: old.settingsHash, setupHash: old.setupHash, meshId: old.meshId, state: "waiting" });
    await expect(runAgain(opened, gone)).rejects.toMatchObject({ code: "not-found" });
    await updateRun(opened.db, old.id, { origin: "brought-in" });
    await expect(runAgain(opened, old.id)).rejects.toThrow(/cannot be run here/);
  });
  test("alike: other cells and numerics, the old run's conditions; stop rules only where they are asked for", async () => {
    const row = await make();
    const [old] = await startFamily(opened, row.id, family({ count: 1 }), false);
    await saveQuestion(opened, row.id, questionOf({ parameters: { wallSpeedMS: "0.2 m/s" } }));
    const copy = await copyRun(opened, old.id, { ...numerics, scheme: "upwind", shape: "triangles", longestS: 5, onceSteady: true, priority: 3 });
    expect(copy.label).toBe("16 × 16 triangles");
    expect(copy.priority).toBe(3);
    expect(copy.settings.parameters).toEqual(old.settings.parameters);
    expect(copy.settings.numerics).toMatchObject({ scheme: "upwind", stop: { longestS: 5, onceSteady: true } });
    await expect(copyRun(opened, old.id, { ...numerics, moments: 5 })).rejects.toMatchObject({
      code: "invalid",
      details: { moments: expect.any(String) },
    });
    expect((await copyRun(opened, old.id, { ...numerics, moments: 0 })).settings.numerics.moments).toBeUndefined();
    expect((await copyRun(opened, old.id, numerics)).settings.numerics.stop).toBeUndefined();
    await expect(copyRun(opened, old.id, { ...numerics, nx: 1001, ny: 300 })).rejects.toThrow(/300300 cells/);
    await expect(copyRun(opened, gone, numerics)).rejects.toMatchObject({ code: "not-found" });
  });
  test("from another: a finished run of the same room and kind of flow that has its fields", async () => {
    const row = await make();
    const [coarse, fine] = await startFamily(opened, row.id, family({ count: 2 }), false);
    const box = await make("lidded-box");
    const [other] = await startFamily(opened, box.id, family({ count: 1 }), false);
    for (const r of [coarse, other]) await finish(r.id);
    const choices = await startChoices(opened, fine.id);
    expect(choices.map((c) => c.id)).toContain(coarse.id);
    expect(choices.map((c) => c.id)).not.toContain(other.id);
    expect(choices.map((c) => c.id)).not.toContain(fine.id);
    expect(choices.find((c) => c.id === coarse.id)).toMatchObject({ label: "Curtain: 8 × 8", cells: 64 });
    await expect(copyRun(opened, fine.id, { ...numerics, startFrom: coarse.id })).rejects.toThrow(/does not fit/);
    await saveField(opened.db, { runId: coarse.id, name: "u", unit: "m/s", count: 64, blob: "abc", mesh: "def" });
    const started = await copyRun(opened, fine.id, { ...numerics, startFrom: coarse.id });
    expect(started.settings.startFrom).toMatchObject({
      label: "Curtain: 8 × 8",
      problemId: "plates",
      fields: [{ name: "u", unit: "m/s", hash: "abc" }],
      meshHash: "def",
    });
    await expect(copyRun(opened, fine.id, { ...numerics, startFrom: other.id })).rejects.toThrow(/does not fit/);
    expect(await startChoices(opened, gone)).toEqual([]);
  });
});

describe("one run", () => {
  const row_ = async () => (await startFamily(opened, (await make()).id, family({ count: 1 }), false))[0];
  test("under way it is not deleted; deleted ones come back", async () => {
    const run = await row_();
    for (const state of ["running", "waiting", "paused", "followed"] as RunRow["state"][]) {
      await updateRun(opened.db, run.id, { state });
      await expect(deleteRun(opened, run.id), state).rejects.toMatchObject({ code: "conflict" });
    }
    await finish(run.id);
    await deleteRun(opened, run.id);
    expect(await listRuns(opened.db, run.caseId)).toEqual([]);
    await restoreRun(opened, run.id);
    expect(await listRuns(opened.db, run.caseId)).toHaveLength(1);
    await expect(deleteRun(opened, gone)).rejects.toMatchObject({ code: "not-found" });
  });
  test("priority, cores and stops reach the bench; a followed log is its follower's", async () => {
    const run = await row_();
    await setPriority(opened, run.id, 4);
    expect((await findRun(opened.db, run.id))?.priority).toBe(4);
    await setCores(opened, 3);
    expect(await readSetting(opened.db, "cores")).toBe(3);
    await stopRun("x");
    await stopRun("followed");
    expect(calls).toEqual(["turn", "turn", "stop x"]);
  });
});

test("a brought-in run judged by its own settings keeps its evidence apart from the case's", async () => {
  const row = await make(null);
  await insertRun(opened.db, {
    caseId: row.id,
    label: "r",
    origin: "brought-in",
    code: "Lintel",
    state: "done",
    settings: {
      problemId: null,
      parameters: {},
      numerics: row.setup.numerics,
      mesh: { cells: 1, spacingM: 1, dimension: 3 },
      code: "Lintel",
      stated: { schemeOrder: 1 },
    },
    settingsHash: "",
    setupHash: "",
    judging: { average: true },
    result: { quantities: { q1: 1 }, profiles: [], errorNorms: [] },
  });
  const { evidence } = await openCase(opened, row.id);
  expect(evidence.runs[0]).toMatchObject({ stated: { schemeOrder: 1 }, judging: { average: true }, origin: "brought-in" });
  expect(evidence.broughtIn).toBe(true);
  expect(evidence.formalOrder).toBe(2);
  await updateCase(opened.db, row.id, { setup: { ...row.setup, stated: { schemeOrder: 1 } } });
  expect((await openCase(opened, row.id)).evidence.formalOrder).toBe(1);
  await expect(openCase(opened, gone)).rejects.toMatchObject({ code: "not-found" });
});

describe("what the hash of the evidence rests on", () => {
  test("a report that is issued, another name or a deleted run's report change nothing; an open finding, a run, a limit or an answer do", async () => {
    const row = await make();
    const [run, other] = await startFamily(opened, row.id, family({ count: 2 }), false);
    await finish(run.id);
    const hash = async () => (await openCase(opened, row.id)).evidenceHash;
    const before = await hash();
    await issueReport(opened, row.id, "H. M.");
    await saveQuestion(opened, row.id, questionOf({ parameters: {}, title: "other name", purpose: "another purpose", dropOrders: "8" }));
    expect(await hash()).toBe(before);
    expect((await openCase(opened, row.id)).assessment.stages.at(-1)).toMatchObject({ stage: "report", line: "1 report issued" });
    const { id } = await createFinding(opened, row.id, { title: "t", what: "w", cause: "", change: "", shownBy: null, curedBy: null });
    expect(await hash()).not.toBe(before);
    await deleteFinding(opened, id);
    expect(await hash()).toBe(before);
    await saveQuestion(opened, row.id, questionOf({ parameters: {}, dropOrders: "8", limits: { flowRate: "3 %" } }));
    const limited = await hash();
    expect(limited).not.toBe(before);
    await finish(other.id, 2);
    expect(await hash()).not.toBe(limited);
  });
  test("a kept assessment that is damaged is worked out anew", async () => {
    const row = await make();
    const [run] = await startFamily(opened, row.id, family({ count: 1 }), false);
    await finish(run.id);
    const again = async () => (await openCases(opened, [row.id]))[0];
    // As another process would: nothing of it is at hand.
    const open = () => {
      assessments().clear();
      return again();
    };
    const first = await open();
    expect((await open()).assessment).toEqual(first.assessment);
    await opened.db
      .update(assessmentCache)
      .set({ result: { rules: "none" } })
      .where(eq(assessmentCache.caseId, row.id));
    expect((await open()).assessment).toEqual(first.assessment);
    const marked = { ...(writeAssessment(first.assessment) as object), stale: true };
    await opened.db.update(assessmentCache).set({ result: marked }).where(eq(assessmentCache.caseId, row.id));
    expect((await open()).assessment.stale).toBe(true);
    // What is at hand is not read again.
    await opened.db
      .update(assessmentCache)
      .set({ result: { rules: "none" } })
      .where(eq(assessmentCache.caseId, row.id));
    expect((await again()).assessment.stale).toBe(true);
  });
});
