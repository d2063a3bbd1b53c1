import path from "node:path";
import { build } from "esbuild";
import { afterAll, beforeAll, expect, test } from "vitest";
import { BenchJob } from "../../core/problems/build/benchJob.ts";
import { fromPlain, toPlain } from "../../core/solver/wire.ts";
import type { Store } from "../db/store.ts";
import { readFields } from "../desk/fields.ts";
import { assessPack } from "../pack/assessPack.ts";
import { unpacked } from "../pack/readPack.ts";
import { updateCase } from "../repositories/cases.ts";
import { leaseRun, updateLeased } from "../repositories/leases.ts";
import { findRun, listRuns, updateRun, waitingRuns } from "../repositories/runs.ts";
import { createCase } from "../usecases/cases.ts";
import { openCase } from "../usecases/evidence.ts";
import { fieldSource } from "../usecases/fields.ts";
import { loadHistory } from "../usecases/histories.ts";
import { issueReport } from "../usecases/reports.ts";
import { startFamily } from "../usecases/runs.ts";
import { temporaryStore } from "../usecases/testStore.ts";
import { timeLine } from "../usecases/timeLine.ts";
import { Bench } from "./bench.ts";
import { type RunEvent, subscribe } from "./events.ts";
import type { WorkerMessage } from "./messages.ts";

let root = "";
let opened: Store;
let close: () => Promise<void>;
let entry = "";
const uniform = { kind: "uniform" as const };
const small = { baseNx: 8, baseNy: 8, ratio: 2, count: 2, gradingX: uniform, gradingY: uniform };
const make = (parameters: Record<string, string> = {}, problemId = "plates") =>
  createCase(opened, { title: "x", purpose: "", problemId, fluidName: "air", temperature: "", pressure: "", parameters });

beforeAll(async () => {
  ({ store: opened, root, close } = await temporaryStore("bench"));
  entry = path.join(root, "solver.mjs");
  await build({ entryPoints: ["server/jobs/solverWorker.ts"], outfile: entry, bundle: true, format: "esm", platform: "node", target: "node20" });
});
afterAll(() => close());

test("a family runs through the queue; what the page hears is what is stored", async () => {
  const bench = new Bench(opened, entry);
  const row = await make({ pressureGradientPaM: "-0.05" });
  const heard: RunEvent[] = [];
  const end = subscribe(row.id, (e) => heard.push(e));
  const runs = await startFamily(opened, row.id, small, false);
  await bench.idle();
  end();
  expect((await listRuns(opened.db, row.id)).map((r) => r.state)).toEqual(["done", "done"]);
  expect(await waitingRuns(opened.db)).toEqual([]);
  for (const r of runs) {
    const streamed = heard.flatMap((e) => (e.type === "rows" && e.runId === r.id ? e.rows : []));
    const stored = await loadHistory(opened, r.id);
    expect(stored?.iteration).toEqual(streamed.map((x) => x[0]));
    expect(stored?.residuals.mass).toEqual(streamed.map((x) => x[3]));
    expect(heard.filter((e) => e.type === "state" && e.runId === r.id).map((e) => e.type === "state" && e.state)).toEqual(["running", "done"]);
  }
  // That they ended is entered in the time line, by the bench and not by a page.
  expect((await timeLine(opened, { caseId: row.id })).map((e) => [e.method, e.says])).toEqual(
    [...runs].reverse().map((r) => ["bench", `The bench ended a run, done: ${r.label}`]),
  );
  const { assessment } = await openCase(opened, row.id);
  expect(assessment.comparison.orders?.verdict).toBe("formal-order");
  // Its evidence pack holds mesh and fields, and is made again from them alone.
  const pack = await opened.blobs.get((await issueReport(opened, row.id, "H. M.")).archive);
  const files = Object.keys(unpacked(pack));
  expect(files.filter((f) => f.startsWith("blobs/")).length).toBeGreaterThan(4);
  expect(files.filter((f) => /^(fields|pictures)\//.test(f)).length).toBeGreaterThan(1);
  expect(await assessPack(pack)).toMatchObject({ holds: true, differences: [], otherFiles: [], asPacked: true });
  // Fields lie on the mesh they were computed on, whatever a generator would make of the settings later.
  const shown = await readFields(opened.blobs.folder, await fieldSource(opened, runs[0].id));
  await updateRun(opened.db, runs[0].id, { settings: { ...runs[0].settings, mesh: { ...runs[0].settings.mesh, nx: 4, ny: 16 } as never } });
  const later = await readFields(opened.blobs.folder, await fieldSource(opened, runs[0].id));
  expect(later.mesh.centroidM).toEqual(shown.mesh.centroidM);
  expect(later.fields).toEqual(shown.fields);
  await bench.close();
});

test("the same settings give the same hash and the same bits when run again", async () => {
  const bench = new Bench(opened, entry);
  const row = await make();
  await startFamily(opened, row.id, { ...small, count: 1 }, false);
  await startFamily(opened, row.id, { ...small, count: 1 }, false);
  await bench.idle();
  const [a, b] = await listRuns(opened.db, row.id);
  expect(b.settingsHash).toBe(a.settingsHash);
  expect(b.result).toEqual(a.result);
  expect(await loadHistory(opened, b.id)).toEqual(await loadHistory(opened, a.id));
  await bench.close();
});

/** Result and record of a run, without what tells when and where it was computed. */
const outcome = async (id: string) => {
  const run = await findRun(opened.db, id);
  return { state: run?.state, result: run?.result, iterations: run?.iterations, record: await loadHistory(opened, id) };
};
const begun = (caseId: string, type: RunEvent["type"] = "rows") =>
  new Promise<void>((resolve) => {
    const end = subscribe(caseId, (e) => {
      if (e.type !== type) return;
      end();
      resolve();
    });
  });
const boxes = { ...small, baseNx: 32, baseNy: 32, count: 1 };
/** A case whose runs go on to their last iteration whatever they reach, so that a wish always finds them under way. */
const endless = async (problemId: string, iterations: number) => {
  const row = await make({}, problemId);
  await updateCase(opened.db, row.id, { setup: { ...row.setup, numerics: { ...row.setup.numerics, dropOrders: 14, maxIterations: iterations } } });
  return row;
};

test("paused and resumed, killed with its worker, or begun by a server that died: the same result to the last bit, once", async () => {
  const bench = new Bench(opened, entry);
  const row = await endless("lidded-box", 120);
  const [plain] = await startFamily(opened, row.id, boxes, false);
  await bench.idle();
  const [paused] = await startFamily(opened, row.id, boxes, false);
  const first = begun(row.id);
  await bench.turn();
  await first;
  await bench.pause(paused.id);
  while ((await findRun(opened.db, paused.id))?.state === "running") await new Promise((r) => setTimeout(r, 20));
  const held = await findRun(opened.db, paused.id);
  expect(held?.state).toBe("paused");
  expect(held?.checkpoint).not.toBeNull();
  await bench.resume(paused.id);
  await bench.idle();
  const [killed] = await startFamily(opened, row.id, boxes, false);
  const second = begun(row.id);
  await bench.turn();
  await second;
  await bench.close();
  expect((await findRun(opened.db, killed.id))?.state).toBe("running");
  const next = new Bench(opened, entry);
  await next.recover();
  await next.idle();
  const truth = await outcome(plain.id);
  expect(await outcome(paused.id)).toEqual(truth);
  expect(await outcome(killed.id)).toEqual(truth);
  expect((await findRun(opened.db, killed.id))?.attempt).toBe(2);
  await next.close();
});

test("a lease is given once, and a result that comes after it was lost is dropped", async () => {
  const row = await make();
  const [run] = await startFamily(opened, row.id, { ...small, count: 1 }, false);
  const soon = new Date(Date.now() + 1e6);
  const mine = await leaseRun(opened.db, run.id, "a", soon);
  expect(mine?.attempt).toBe(1);
  expect(await leaseRun(opened.db, run.id, "b", soon)).toBeUndefined();
  await updateRun(opened.db, run.id, { state: "waiting" });
  expect((await leaseRun(opened.db, run.id, "b", soon))?.attempt).toBe(2);
  expect(await updateLeased(opened.db, { id: run.id, attempt: 1 }, { state: "done" })).toBe(false);
  expect(await updateLeased(opened.db, { id: run.id, attempt: 2 }, { state: "done" })).toBe(true);
});

test("a node computes the same bits; what it says of a run that is no longer its own is refused", async () => {
  const bench = new Bench(opened, entry);
  const row = await make({ pressureGradientPaM: "-0.05" });
  const [here] = await startFamily(opened, row.id, { ...small, count: 1 }, false);
  await bench.idle();
  const [there] = await startFamily(opened, row.id, { ...small, count: 1 }, false);
  const taken = await bench.takeForNode("n1", { version: "9.9+theirs", options: "-O1" });
  expect(taken?.run.build).toEqual({ version: "9.9+theirs", options: "-O1", machine: "node n1" });
  expect(taken?.run.id).toBe(there.id);
  expect(await bench.takeForNode("n2")).toBeUndefined();
  const job = new BenchJob(there.settings);
  const rows: number[][] = [];
  while (job.underWay) {
    const r = job.step();
    if (r) rows.push(r);
  }
  const wired = (m: WorkerMessage) => fromPlain(JSON.parse(JSON.stringify(toPlain(m)))) as unknown as WorkerMessage;
  const tell = (attempt: number, ...messages: WorkerMessage[]) => bench.hearFromNode(there.id, attempt, messages.map(wired));
  expect(await tell(7, { type: "paused", seconds: 1 })).toBeUndefined();
  await tell(
    1,
    { type: "ready", columns: [...job.columns], starts: job.starts, fieldNames: job.fieldNames },
    { type: "rows", from: 0, rows, starts: job.starts },
  );
  const fields = job.simulation.fields().map((f) => ({ ...f }));
  expect(await tell(1, { type: "done", state: "done", result: job.result(), fields, seconds: 1 })).toEqual({ control: 0, field: 0 });
  expect(await outcome(there.id)).toEqual(await outcome(here.id));
  expect(await tell(1, { type: "failed", state: "failed", sentence: "late", seconds: 1 })).toBeUndefined();
  await bench.close();
});

test("the most urgent run is taken first", async () => {
  const row = await make();
  const [a, b] = await startFamily(opened, row.id, small, false);
  await updateRun(opened.db, b.id, { priority: 5 });
  expect((await waitingRuns(opened.db)).map((r) => r.id)).toEqual([b.id, a.id]);
  for (const r of [a, b]) await updateRun(opened.db, r.id, { state: "interrupted" });
});

test("a set-up that cannot be solved ends with a sentence, not with a hung worker", async () => {
  const bench = new Bench(opened, entry);
  const row = await make();
  const [run] = await startFamily(opened, row.id, { ...small, count: 1 }, false);
  await updateRun(opened.db, run.id, { settings: { ...run.settings, parameters: { ...run.settings.parameters, viscosityPaS: 0 } } });
  await bench.idle();
  expect(await findRun(opened.db, run.id)).toMatchObject({ state: "failed", failure: expect.stringContaining("must be positive and finite") });
  await bench.close();
});

test("stopping keeps what a run has; a waiting one leaves the queue", async () => {
  const bench = new Bench(opened, entry);
  const row = await endless("lidded-box", 2000);
  const [first, second] = await startFamily(opened, row.id, { ...small, baseNx: 96, baseNy: 96, ratio: 1.1 }, false);
  const under = begun(row.id);
  await bench.turn();
  await under;
  await bench.stop(second.id);
  await bench.stop(first.id);
  await bench.idle();
  const stopped = await findRun(opened.db, first.id);
  expect(stopped?.state).toBe("stopped");
  expect(stopped?.iterations).toBeLessThan(2000);
  expect(stopped?.result?.quantities.uMin).toBeLessThan(0);
  expect((await loadHistory(opened, first.id))?.iteration.length).toBe(stopped?.iterations);
  expect((await findRun(opened.db, second.id))?.state).toBe("interrupted");
  await bench.close();
});

test("a stopped run goes on where it stood and ends like one that was never stopped", async () => {
  const bench = new Bench(opened, entry);
  const row = await make({ pressureGradientPaM: "-0.05 Pa/m" });
  const [whole] = await startFamily(opened, row.id, { ...small, count: 1, baseNx: 48, baseNy: 48 }, false);
  await bench.idle();
  const [again] = await startFamily(opened, row.id, { ...small, count: 1, baseNx: 48, baseNy: 48 }, false);
  const end = subscribe(row.id, (e) => {
    if (e.type === "rows" && e.runId === again.id) void bench.stop(again.id);
  });
  await bench.idle();
  end();
  const stopped = await findRun(opened.db, again.id);
  expect(stopped?.state).toBe("stopped");
  expect(stopped?.checkpoint).not.toBeNull();
  await bench.resume(again.id);
  await bench.idle();
  const [a, b] = [await findRun(opened.db, whole.id), await findRun(opened.db, again.id)];
  expect(b?.state).toBe("done");
  expect(b?.result?.quantities).toEqual(a?.result?.quantities);
  expect(b?.iterations).toBe(a?.iterations);
  await bench.close();
});
