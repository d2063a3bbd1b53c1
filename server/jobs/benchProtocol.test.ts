import { writeFile } from "node:fs/promises";
import path from "node:path";
import { afterAll, afterEach, beforeAll, describe, expect, test, vi } from "vitest";
import { bytesToDoubles } from "../blobs/blobStore.ts";
import type { Store } from "../db/store.ts";
import { hashBytes } from "../hash.ts";
import { addRows, endLeased, leaseRun, releaseLost, takeFollowed } from "../repositories/leases.ts";
import {
  findRun,
  insertRun,
  listFields,
  listHistoryParts,
  listMoments,
  type RunRow,
  updateRun,
  waitingRuns,
  writeSetting,
} from "../repositories/runs.ts";
import { createCase } from "../usecases/cases.ts";
import { loadHistory } from "../usecases/histories.ts";
import { newCase, temporaryStore } from "../usecases/testStore.ts";
import { Bench } from "./bench.ts";
import { type RunEvent, subscribe } from "./events.ts";
import { GO_ON, PAUSE, STOP_AND_KEEP, type WorkerMessage } from "./messages.ts";
import { CHECKPOINT, done, PLAYER, plain, READY, RESULT, rows, rowsFrom, SETTINGS, type Step } from "./playerForTests.ts";
import { keepCheckpoint } from "./runFiles.ts";

let opened: Store;
let close: () => Promise<void>;
let entry = "";
let caseId = "";
const benches: Bench[] = [];
const makeBench = () => {
  const b = new Bench(opened, entry);
  benches.push(b);
  return b;
};

beforeAll(async () => {
  const made = await temporaryStore("protocol");
  ({ store: opened, close } = made);
  entry = path.join(made.root, "player.mjs");
  await writeFile(entry, PLAYER);
  caseId = (await createCase(opened, newCase())).id;
});
afterEach(async () => {
  for (const b of benches.splice(0)) await b.close();
  for (const r of await waitingRuns(opened.db)) await updateRun(opened.db, r.id, { state: "interrupted" });
});
afterAll(() => close());

const put = (steps: readonly Step[], change: Partial<RunRow> = {}) =>
  insertRun(opened.db, {
    caseId,
    label: "r",
    origin: "bench",
    code: "bench",
    state: "waiting",
    settingsHash: "",
    setupHash: "",
    ...change,
    settings: { ...(change.settings ?? SETTINGS), code: plain(steps) },
  });
const row = async (id: string) => (await findRun(opened.db, id))!;
const heard = () => {
  const events: RunEvent[] = [];
  const end = subscribe(caseId, (e) => events.push(e));
  return { events, end, states: (id: string) => events.flatMap((e) => (e.type === "state" && e.runId === id ? [e.state] : [])) };
};
const until = async (holds: () => Promise<boolean> | boolean) => {
  for (let k = 0; k < 2000 && !(await holds()); k++) await new Promise((r) => setTimeout(r, 5));
  expect(await holds()).toBe(true);
};

describe("what a worker tells is stored", () => {
  test("rows in the order they came, starts as last told, fields by content, the count and the time", async () => {
    const bench = makeBench();
    const h = heard();
    const run = await put([READY, rows([1, 0.5], [2, 0.25]), rows([3, 0.125]), done("done", "in good order")]);
    await bench.idle();
    h.end();
    const stored = await row(run.id);
    expect(stored).toMatchObject({
      state: "done",
      iterations: 3,
      seconds: 3,
      failure: "in good order",
      checkpoint: null,
      attempt: 1,
      result: RESULT,
    });
    expect(stored.finishedAt).not.toBeNull();
    expect(stored.startedAt).not.toBeNull();
    expect(await loadHistory(opened, run.id)).toEqual({
      iteration: [1, 2, 3],
      residuals: { mass: [0.5, 0.25, 0.125] },
      quantities: {},
      starts: { mass: 8 },
    });
    expect(await listHistoryParts(opened.db, run.id)).toEqual([]);
    const [field] = await listFields(opened.db, run.id);
    expect(field).toMatchObject({ name: "u", unit: "m/s", count: 2, mesh: null });
    expect([...bytesToDoubles(await opened.blobs.get(field.blob))]).toEqual([1.5, 2.5]);
    expect(h.states(run.id)).toEqual(["running", "done"]);
    expect(h.events.flatMap((e) => (e.type === "rows" ? [e.from] : []))).toEqual([0, 2]);
  });
  test("moments as they come, each once, however often it is told", async () => {
    const bench = makeBench();
    const moment = (sequence: number, value: number): WorkerMessage => ({
      type: "moment",
      sequence,
      timeS: sequence / 4,
      fields: [{ name: "u", unit: "m/s", values: Float32Array.of(value, 2) }],
    });
    const run = await put([READY, rows([1, 1]), moment(1, 0.5), rows([2, 1]), moment(2, 1.5), moment(2, 9), done()]);
    await bench.idle();
    expect((await row(run.id)).state).toBe("done");
    const kept = await listMoments(opened.db, run.id);
    expect(kept.map((m) => [m.sequence, m.timeS, m.fields[0].name, m.fields[0].unit])).toEqual([
      [1, 0.25, "u", "m/s"],
      [2, 0.5, "u", "m/s"],
    ]);
    const bytes = await opened.blobs.get(kept[1].fields[0].blob);
    expect([...new Float32Array(Uint8Array.from(bytes).buffer)]).toEqual([1.5, 2]);
  });
  test("the mesh of the fields is kept by its content, once for all of them", async () => {
    const bench = makeBench();
    const told = { ...(done() as Extract<WorkerMessage, { type: "done" }>), mesh: Uint8Array.of(7, 8, 9) };
    const [a, b] = [await put([READY, told]), await put([READY, told])];
    await bench.idle();
    const [first] = await listFields(opened.db, a.id);
    const [second] = await listFields(opened.db, b.id);
    expect(second.mesh).toBe(first.mesh);
    expect([...(await opened.blobs.get(first.mesh ?? ""))]).toEqual([7, 8, 9]);
  });
  test.each(["failed", "diverged"] as const)("a run that %s keeps its record and its sentence, not its checkpoint", async (state) => {
    const bench = makeBench();
    const run = await put([
      READY,
      rows([1, 9]),
      { type: "checkpoint", data: CHECKPOINT },
      { type: "failed", state, sentence: "blew up", seconds: 2 },
    ]);
    await bench.idle();
    expect(await row(run.id)).toMatchObject({ state, failure: "blew up", seconds: 2, iterations: 1, checkpoint: null, result: null });
    expect((await loadHistory(opened, run.id))?.iteration).toEqual([1]);
  });
  test("a stopped run keeps its checkpoint to go on from; a finished one needs none", async () => {
    const bench = makeBench();
    const stopped = await put([READY, rows([1, 1]), { type: "checkpoint", data: CHECKPOINT }, done("stopped")]);
    const finished = await put([READY, rows([1, 1]), { type: "checkpoint", data: CHECKPOINT }, done()]);
    await bench.idle();
    const kept = await row(stopped.id);
    expect(kept.state).toBe("stopped");
    expect(Uint8Array.from(await opened.blobs.get(kept.checkpoint ?? ""))).toEqual(CHECKPOINT);
    expect((await row(finished.id)).checkpoint).toBeNull();
  });
  test("a later attempt begins with the checkpoint and tells its record anew", async () => {
    const bench = makeBench();
    const run = await put([READY, rows([1, 1], [2, 1]), { type: "checkpoint", data: CHECKPOINT }, { type: "paused", seconds: 4 }]);
    await bench.idle();
    const paused = await row(run.id);
    expect(paused).toMatchObject({ state: "paused", seconds: 4, leasedBy: null, leaseUntil: null, finishedAt: null });
    expect(paused.checkpoint).not.toBeNull();
    await updateRun(opened.db, run.id, { settings: { ...paused.settings, code: plain([READY, rows([1, 2]), "start"]) } });
    await bench.resume(run.id);
    await bench.idle();
    const again = await row(run.id);
    expect(again).toMatchObject({ state: "failed", attempt: 2, iterations: 1, failure: "[[5,0,255],null]" });
    expect((await loadHistory(opened, run.id))?.residuals.mass).toEqual([2]);
  });
  test("fields another run left are handed to one that starts from them", async () => {
    const bench = makeBench();
    const told = { ...(done() as Extract<WorkerMessage, { type: "done" }>), mesh: Uint8Array.of(7, 8, 9) };
    const source = await put([READY, told]);
    await bench.idle();
    const [field] = await listFields(opened.db, source.id);
    const { settings } = await row(source.id);
    const startFrom = {
      label: "s",
      problemId: "plates",
      parameters: {},
      mesh: settings.mesh as never,
      fields: [{ name: "u", unit: "m/s", hash: field.blob }],
      meshHash: field.mesh ?? undefined,
    };
    const run = await put(["start"], { settings: { ...settings, startFrom } });
    await bench.idle();
    expect((await row(run.id)).failure).toBe('[null,[[7,8,9],["u",1.5,2.5]]]');
  });
});

describe("workers that break off", () => {
  test.each([
    ["crash", "The worker ended without an answer (code 3). Run it again; if it repeats, use a smaller mesh. It was tried 3 times."],
    ["throw", "The worker broke off: out of paper It was tried 3 times."],
  ] as const)("%s: three attempts and no more, then a sentence", async (step, sentence) => {
    const bench = makeBench();
    const h = heard();
    const run = await put([READY, rows([1, 1]), step]);
    await bench.idle();
    h.end();
    expect(await row(run.id)).toMatchObject({ state: "failed", attempt: 3, failure: sentence });
    expect(h.states(run.id)).toEqual(["running", "waiting", "running", "waiting", "running", "failed"]);
  });
  test("what comes after the answer changes nothing", async () => {
    const bench = makeBench();
    const run = await put([READY, rows([1, 1]), done(), rows([2, 2]), "crash"]);
    await bench.idle();
    await new Promise((r) => setTimeout(r, 60));
    expect(await row(run.id)).toMatchObject({ state: "done", iterations: 1, attempt: 1 });
  });
});

describe("writes are in the name of an attempt", () => {
  const leave = { change: { state: "done", result: RESULT } } as const;
  test("once a later attempt has begun, rows, state and end of the one before are refused whole", async () => {
    const run = await put([]);
    const old = (await leaseRun(opened.db, run.id, "a", new Date(Date.now() - 1)))!;
    const row0 = { sequence: 0, columns: [], rows: [[1, 1]] };
    expect(await addRows(opened.db, old, row0)).toBe(true);
    await releaseLost(opened.db, { now: new Date() });
    const late = { sequence: 1, columns: [], rows: [[2, 2]] };
    expect(await addRows(opened.db, old, late)).toBe(false);
    const now = (await leaseRun(opened.db, run.id, "b", new Date(Date.now() + 60_000)))!;
    const fields = [{ runId: run.id, name: "u", unit: "m/s", count: 1, blob: "b" }];
    expect(await endLeased(opened.db, old, { ...leave, fields, record: { runId: run.id, columns: [], rows: 9, blob: "b" } })).toBe(false);
    expect(await keepCheckpoint(opened, old, CHECKPOINT)).toBe(false);
    expect(await row(run.id)).toMatchObject({ state: "running", attempt: 2, result: null, checkpoint: null, breaks: 1 });
    expect(await listFields(opened.db, run.id)).toEqual([]);
    expect((await listHistoryParts(opened.db, run.id)).map((p) => p.rows)).toEqual([[[1, 1]]]);
    expect(await keepCheckpoint(opened, now, CHECKPOINT)).toBe(true);
    expect((await row(run.id)).breaks).toBe(0);
    expect(await endLeased(opened.db, now, leave)).toBe(true);
    expect(await endLeased(opened.db, now, leave)).toBe(false);
  });
  test("rows told twice are stored once, whole or in part; rows that never came end the attempt", async () => {
    const bench = makeBench();
    const h = heard();
    const twice = await put([READY, rowsFrom(0, [1, 1], [2, 2]), rowsFrom(0, [1, 1], [2, 2]), rowsFrom(1, [2, 2], [3, 3]), done()]);
    await bench.idle();
    expect((await loadHistory(opened, twice.id))?.iteration).toEqual([1, 2, 3]);
    expect(h.events.flatMap((e) => (e.type === "rows" ? [[e.from, e.rows.length]] : []))).toEqual([
      [0, 2],
      [2, 1],
    ]);
    h.end();
    const gap = await put([READY, rowsFrom(0, [1, 1]), rowsFrom(5, [6, 6]), "wait"]);
    await bench.idle();
    expect(await row(gap.id)).toMatchObject({
      state: "failed",
      attempt: 3,
      iterations: 1,
      failure: "Rows 1 to 4 of the record never came. It was tried 3 times.",
    });
  });
  test("a worker whose run was taken over is ended and stores nothing more", async () => {
    const bench = makeBench();
    const run = await put([READY, rows([1, 1]), "wait", rows([2, 2]), done()]);
    await bench.turn();
    await until(async () => (await listHistoryParts(opened.db, run.id)).length === 1);
    await updateRun(opened.db, run.id, { attempt: 2, leasedBy: "another", leaseUntil: new Date(Date.now() + 60_000) });
    await bench.keepLeases();
    expect(bench.holders).toEqual([]);
    expect(await row(run.id)).toMatchObject({ state: "running", leasedBy: "another", attempt: 2 });
    await updateRun(opened.db, run.id, { state: "interrupted" });
  });
  test("one that notices only when it tells of its end stores nothing either", async () => {
    const bench = makeBench();
    const run = await put([READY, rows([1, 1]), "wait", done()]);
    await bench.turn();
    await until(async () => (await listHistoryParts(opened.db, run.id)).length === 1);
    await updateRun(opened.db, run.id, { attempt: 2, leasedBy: "another" });
    await bench.stop(run.id);
    await until(() => bench.holders.length === 0);
    expect(await row(run.id)).toMatchObject({ state: "running", attempt: 2, result: null });
    await updateRun(opened.db, run.id, { state: "interrupted" });
  });
  test("a worker that hangs is ended, and the run given up after three times", async () => {
    const bench = new Bench(opened, entry, 20);
    benches.push(bench);
    const run = await put([READY, rows([1, 1]), "hang"]);
    await bench.turn();
    for (let k = 1; k <= 3; k++) {
      await until(async () => bench.holders.length === 1 && (await listHistoryParts(opened.db, run.id)).length === 1);
      await new Promise((r) => setTimeout(r, 60));
      await bench.keepLeases();
    }
    expect(await row(run.id)).toMatchObject({
      state: "failed",
      attempt: 3,
      failure: "The worker said nothing for 0 s and was ended. It was tried 3 times.",
    });
  });
  test("a run whose holder vanishes again and again is given up; one that got further is not", async () => {
    const bench = makeBench();
    const vanishing = await put([READY, done()], { breaks: 2 } as Partial<RunRow>);
    await leaseRun(opened.db, vanishing.id, "gone", new Date(Date.now() - 1));
    await bench.recover();
    await bench.idle();
    expect(await row(vanishing.id)).toMatchObject({ state: "failed", failure: expect.stringContaining("broke off 3 times without getting further") });
    const further = await put([READY, { type: "checkpoint", data: CHECKPOINT }, "crash"], { breaks: 2 } as Partial<RunRow>);
    await bench.turn();
    await until(async () => (await row(further.id)).attempt >= 4);
    await bench.stop(further.id);
    await updateRun(opened.db, further.id, { state: "interrupted" });
  });
  test("what cannot be stored is kept and tried again until there is room", async () => {
    const quiet = vi.spyOn(console, "error").mockImplementation(() => {});
    let full = 3;
    const blobs = Object.create(opened.blobs) as Store["blobs"];
    blobs.put = async (bytes) => {
      if (full-- > 0) throw Object.assign(new Error("no space left on device"), { code: "ENOSPC" });
      return opened.blobs.put(bytes);
    };
    const bench = new Bench({ ...opened, blobs }, entry);
    benches.push(bench);
    const run = await put([READY, rows([1, 1], [2, 2]), done()]);
    await bench.idle();
    expect(quiet).toHaveBeenCalledTimes(3);
    quiet.mockRestore();
    expect(await row(run.id)).toMatchObject({ state: "done", attempt: 1, iterations: 2 });
    expect((await loadHistory(opened, run.id))?.iteration).toEqual([1, 2]);
  });
  test("a state that is gone is begun anew, a result to start from that is gone ends the run with a sentence", async () => {
    const quiet = vi.spyOn(console, "error").mockImplementation(() => {});
    const bench = makeBench();
    const stateless = await put(["start"], { checkpoint: "0".repeat(64) } as Partial<RunRow>);
    const startFrom = {
      label: "s",
      problemId: "plates",
      parameters: {},
      mesh: SETTINGS.mesh as never,
      fields: [{ name: "u", unit: "m/s", hash: "0".repeat(64) }],
    };
    const orphan = await put([READY, done()], { settings: { ...SETTINGS, startFrom } as never });
    await bench.idle();
    expect((await row(stateless.id)).failure).toBe("[null,null]");
    expect(quiet).toHaveBeenCalledWith(expect.stringContaining("begins anew. Stored file 000000000000 is missing"));
    quiet.mockRestore();
    expect(await row(orphan.id)).toMatchObject({ state: "failed", failure: "Stored file 000000000000 is missing from the data folder." });
    const nodes = await put([], { settings: { ...SETTINGS, startFrom } as never });
    expect(await bench.takeForNode("n")).toBeUndefined();
    expect((await row(nodes.id)).state).toBe("failed");
  });
});

test("of the states a run leaves only the last is kept, and one that something else names", async () => {
  const run = await put([]);
  const lease = (await leaseRun(opened.db, run.id, "a", new Date(Date.now() + 60_000)))!;
  const other = await put([], { state: "paused", checkpoint: await opened.blobs.put(Uint8Array.of(1)) } as Partial<RunRow>);
  const there = (bytes: Uint8Array) =>
    opened.blobs.get(hashBytes(bytes)).then(
      () => true,
      () => false,
    );
  const states = [1, 2, 3].map((n) => Uint8Array.of(n));
  const real = opened.blobs.drop.bind(opened.blobs);
  const drop = vi.spyOn(opened.blobs, "drop").mockImplementation((hash) => real(hash, -1000));
  for (const s of states) expect(await keepCheckpoint(opened, lease, s)).toBe(true);
  drop.mockRestore();
  expect(await Promise.all(states.map(there))).toEqual([true, false, true]);
  // What was put a moment ago may be about to be named.
  await opened.blobs.drop(hashBytes(states[2]));
  expect(await there(states[2])).toBe(true);
  for (const r of [run, other]) await updateRun(opened.db, r.id, { state: "interrupted" });
});

describe("wishes", () => {
  test("stop reaches the worker; a waiting run leaves the queue, and says whether it had begun", async () => {
    const bench = makeBench();
    const live = await put([READY, rows([1, 1]), "wait", done("stopped")]);
    await bench.turn();
    const waiting = await put([READY, done()]);
    await bench.stop(waiting.id);
    expect(await row(waiting.id)).toMatchObject({ state: "interrupted", failure: "Taken off the queue before it began." });
    const held = await put([READY, done()], { state: "paused", checkpoint: "x" });
    await bench.stop(held.id);
    expect(await row(held.id)).toMatchObject({ state: "interrupted", failure: "Stopped while it was paused." });
    const begun = await put([READY, done()], { checkpoint: "x" });
    await bench.stop(begun.id);
    expect(await row(begun.id)).toMatchObject({ state: "interrupted", failure: "Stopped while it was paused." });
    const early = await put([READY, done()], { state: "paused" });
    await bench.stop(early.id);
    expect(await row(early.id)).toMatchObject({ state: "interrupted", failure: "Stopped while it was paused." });
    await expect(bench.stop("00000000-0000-4000-8000-000000000000")).resolves.toBeUndefined();
    await bench.stop(live.id);
    await bench.idle();
    expect((await row(live.id)).state).toBe("stopped");
    await bench.stop(live.id);
    expect((await row(live.id)).state).toBe("stopped");
  });
  test("pause of a waiting run holds it where it is; of a live one it is on its way until the worker says so", async () => {
    const bench = makeBench();
    const h = heard();
    const waiting = await put([READY, done()], { priority: -5 });
    await bench.pause(waiting.id);
    expect((await row(waiting.id)).state).toBe("paused");
    const live = await put([READY, rows([1, 1]), "wait", { type: "paused", seconds: 1 }]);
    await bench.turn();
    await bench.pause(live.id);
    await bench.idle();
    h.end();
    expect(h.states(live.id)).toEqual(["running", "pausing", "paused"]);
    await bench.pause(live.id);
    expect((await row(live.id)).state).toBe("paused");
  });
  test("only what is paused, or left a checkpoint when it was stopped, is taken up again", async () => {
    const bench = makeBench();
    const states = async (state: RunRow["state"], checkpoint: string | null) => {
      const run = await put([READY, done()], { state, checkpoint });
      await bench.pause(run.id);
      await bench.resume(run.id);
      const now = (await row(run.id)).state;
      if (now !== state) await bench.idle().catch(() => undefined);
      return now === state ? "as it was" : "taken up";
    };
    expect(await states("paused", null)).toBe("taken up");
    expect(await states("stopped", null)).toBe("as it was");
    expect(await states("interrupted", null)).toBe("as it was");
    expect(await states("done", null)).toBe("as it was");
    expect(await states("failed", "x")).toBe("as it was");
  });
  test("the field shown is chosen by its name; an unknown one changes nothing", async () => {
    const bench = makeBench();
    const run = await put([READY, rows([1, 1]), "wait", "shown"]);
    await bench.turn();
    await until(async () => (await listHistoryParts(opened.db, run.id)).length === 1);
    bench.show(run.id, "p");
    bench.show(run.id, "nothing");
    await bench.stop(run.id);
    await bench.idle();
    expect((await row(run.id)).failure).toBe("shown 1");
  });
  test("a page that begins to listen is told the last state, field and progress of what is under way", async () => {
    const bench = makeBench();
    const status = { iteration: 9 } as never;
    const run = await put([
      READY,
      { type: "climbing", cells: 16, left: 2 },
      { type: "status", status },
      { type: "field", iteration: 3, name: "u", values: Float32Array.of(1, 2) },
      "wait",
      done("stopped"),
    ]);
    await bench.turn();
    await until(() => bench.replay(caseId).length === 3);
    const [climbing, told, field] = bench.replay(caseId);
    expect(climbing).toEqual({ type: "climbing", runId: run.id, cells: 16, left: 2 });
    expect(told).toEqual({ type: "status", runId: run.id, status });
    expect(field).toMatchObject({ type: "field", name: "u", names: ["u", "p"], iteration: 3 });
    expect([...new Float32Array(Uint8Array.from(Buffer.from((field as { values: string }).values, "base64")).buffer)]).toEqual([1, 2]);
    expect(bench.replay("another case")).toEqual([]);
    expect(bench.holders).toEqual([{ runId: run.id, by: "this machine" }]);
    expect(bench.running).toBe(1);
    await bench.stop(run.id);
    await bench.idle();
    expect(bench.replay(caseId)).toEqual([]);
  });
});

describe("turns", () => {
  test("as many at once as there are cores, the most urgent first, of equals the oldest", async () => {
    const bench = makeBench();
    const h = heard();
    const [a, b, c] = [await put([READY, "wait", done()]), await put([READY, "wait", done()]), await put([READY, "wait", done()], { priority: 1 })];
    await bench.turn();
    expect(bench.holders.map((x) => x.runId)).toEqual([c.id]);
    await writeSetting(opened.db, "cores", 2);
    await bench.turn();
    expect(bench.holders.map((x) => x.runId)).toEqual([c.id, a.id]);
    await writeSetting(opened.db, "cores", 1);
    for (const r of [c, a]) await bench.stop(r.id);
    await until(async () => (await row(b.id)).state === "running");
    await bench.stop(b.id);
    await bench.idle();
    h.end();
    expect(h.events.flatMap((e) => (e.type === "state" && e.state === "running" ? [e.runId] : []))).toEqual([c.id, a.id, b.id]);
  });
  test("a bench that is closed starts nothing", async () => {
    const bench = makeBench();
    await bench.close();
    const run = await put([READY, done()]);
    await bench.turn();
    expect((await row(run.id)).state).toBe("waiting");
    expect(await bench.takeForNode("n")).toBeUndefined();
  });
});

describe("leases", () => {
  const soon = () => new Date(Date.now() + 60_000);
  test("runs of a holder, or those that ran out, go back; others stay", async () => {
    const mine = await put([]);
    const late = await put([]);
    await leaseRun(opened.db, mine.id, "a", soon());
    await leaseRun(opened.db, late.id, "b", new Date(Date.now() - 1000));
    expect((await releaseLost(opened.db, { now: new Date() })).map((r) => r.id)).toEqual([late.id]);
    expect((await row(mine.id)).state).toBe("running");
    expect((await releaseLost(opened.db, { holder: "b" })).length).toBe(0);
    expect((await releaseLost(opened.db, { holder: "a" })).map((r) => r.id)).toEqual([mine.id]);
    expect(await row(mine.id)).toMatchObject({ state: "waiting", leasedBy: null, leaseUntil: null, attempt: 1 });
  });
  test("a run that no longer waits, or was deleted, is not leased", async () => {
    const run = await put([], { deletedAt: new Date() });
    expect(await leaseRun(opened.db, run.id, "a", soon())).toBeUndefined();
    const paused = await put([], { state: "paused" });
    expect(await leaseRun(opened.db, paused.id, "a", soon())).toBeUndefined();
  });
  test("what a killed process left running is computed again", async () => {
    const run = await put([READY, rows([1, 1]), done()]);
    await leaseRun(opened.db, run.id, "a process that is no more", soon());
    const bench = makeBench();
    await bench.recover();
    await bench.idle();
    expect(await row(run.id)).toMatchObject({ state: "done", attempt: 2 });
  });
  test("followed logs: one's own are renewed, silent ones taken over, live ones of others left", async () => {
    const follow = (leasedBy: string | null, leaseUntil: Date | null) => put([], { state: "followed", leasedBy, leaseUntil } as Partial<RunRow>);
    const [own, silent, fresh, free] = [
      await follow("me", new Date(Date.now() - 5000)),
      await follow("other", new Date(Date.now() - 5000)),
      await follow("other", soon()),
      await follow(null, null),
    ];
    const to = soon();
    const taken = await takeFollowed(opened.db, "me", new Date(), to, [own.id]);
    expect(taken.map((r) => r.id).sort()).toEqual([silent.id, free.id].sort());
    expect((await row(own.id)).leaseUntil).toEqual(to);
    expect((await row(fresh.id)).leasedBy).toBe("other");
    expect((await row(silent.id)).leasedBy).toBe("me");
  });
});

describe("nodes", () => {
  test("a node is told what to do, its words count only with the attempt it was given, and a lost lease ends its part", async () => {
    const bench = makeBench();
    const run = await put([]);
    const taken = await bench.takeForNode("n1");
    expect(taken?.run.id).toBe(run.id);
    expect(bench.holders).toEqual([{ runId: run.id, by: "node n1" }]);
    const tell = (attempt: number, ...m: WorkerMessage[]) => bench.hearFromNode(run.id, attempt, m);
    const before = (await row(run.id)).leaseUntil?.getTime() ?? 0;
    await new Promise((r) => setTimeout(r, 5));
    expect(await tell(1, READY, rowsFrom(0, [1, 1]))).toEqual({ control: GO_ON, field: 0 });
    expect((await row(run.id)).leaseUntil?.getTime()).toBeGreaterThan(before);
    bench.show(run.id, "p");
    await bench.pause(run.id);
    expect(await tell(1)).toEqual({ control: PAUSE, field: 1 });
    await bench.stop(run.id);
    expect(await tell(1)).toEqual({ control: STOP_AND_KEEP, field: 1 });
    expect(await tell(2, rowsFrom(1, [9, 9]))).toBeUndefined();
    await updateRun(opened.db, run.id, { attempt: 5 });
    expect(await tell(1, rowsFrom(1, [9, 9]))).toBeUndefined();
    expect(bench.holders).toEqual([]);
    expect((await listHistoryParts(opened.db, run.id)).flatMap((p) => p.rows)).toEqual([[1, 1]]);
    expect(await bench.hearFromNode("00000000-0000-4000-8000-000000000000", 1, [])).toBeUndefined();
    await updateRun(opened.db, run.id, { state: "interrupted" });
  });
  test("a run of a worker here is no node's to speak of", async () => {
    const bench = makeBench();
    const run = await put([READY, "wait", done()]);
    await bench.turn();
    expect(await bench.hearFromNode(run.id, 1, [rowsFrom(0, [9, 9])])).toBeUndefined();
    await bench.stop(run.id);
    await bench.idle();
  });
});
