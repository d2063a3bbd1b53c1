import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { build } from "esbuild";
import { afterAll, beforeAll, expect, test } from "vitest";
import { openStore, type Store } from "../db/store.ts";
import { findRun, listJobs, listRuns, updateRun } from "../repositories/runs.ts";
import { createCase } from "../usecases/cases.ts";
import { loadHistory, openCase } from "../usecases/evidence.ts";
import { startFamily } from "../usecases/runs.ts";
import { Bench } from "./bench.ts";
import { type RunEvent, subscribe } from "./events.ts";

let root = "";
let opened: Store;
let entry = "";
const uniform = { kind: "uniform" as const };
const small = { baseNx: 8, baseNy: 8, ratio: 2, count: 2, gradingX: uniform, gradingY: uniform };
const make = (parameters: Record<string, string> = {}, problemId: "plates" | "lidded-box" = "plates") =>
  createCase(opened, { title: "x", purpose: "", problemId, fluidName: "air", temperature: "", pressure: "", parameters });

beforeAll(async () => {
  root = await mkdtemp(path.join(tmpdir(), "tin-ruler-bench-"));
  entry = path.join(root, "solver.mjs");
  await build({ entryPoints: ["server/jobs/solverWorker.ts"], outfile: entry, bundle: true, format: "esm", platform: "node", target: "node20" });
  opened = await openStore(path.join(root, "data"));
});
afterAll(async () => {
  await opened.close();
  await rm(root, { recursive: true, force: true });
});

test("a family runs through the queue; what the page hears is what is stored", async () => {
  const bench = new Bench(opened, entry);
  const row = await make({ pressureGradientPaM: "-0.05" });
  const heard: RunEvent[] = [];
  const end = subscribe(row.id, (e) => heard.push(e));
  const runs = await startFamily(opened, row.id, small, false);
  await bench.idle();
  end();
  expect((await listRuns(opened.db, row.id)).map((r) => r.state)).toEqual(["done", "done"]);
  expect(await listJobs(opened.db)).toEqual([]);
  for (const r of runs) {
    const streamed = heard.flatMap((e) => (e.type === "rows" && e.runId === r.id ? e.rows : []));
    const stored = await loadHistory(opened, r.id);
    expect(stored?.iteration).toEqual(streamed.map((x) => x[0]));
    expect(stored?.residuals.mass).toEqual(streamed.map((x) => x[3]));
    expect(heard.filter((e) => e.type === "state" && e.runId === r.id).map((e) => e.type === "state" && e.state)).toEqual(["running", "done"]);
  }
  const { assessment } = await openCase(opened, row.id);
  expect(assessment.comparison.orders?.verdict).toBe("formal-order");
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

test("what a killed server left running is marked, keeps its record, and the queue goes on", async () => {
  const row = await make();
  const [first, second] = await startFamily(opened, row.id, small, false);
  await updateRun(opened.db, first.id, { state: "running" });
  const { addHistoryPart } = await import("../repositories/runs.ts");
  await addHistoryPart(opened.db, {
    runId: first.id,
    sequence: 0,
    columns: [
      { role: "iteration", key: "iteration" },
      { role: "residual", key: "mass" },
    ],
    rows: [
      [1, 0.5],
      [2, 0.25],
    ],
    starts: { mass: 1 },
  });
  const bench = new Bench(opened, entry);
  await bench.recover();
  await bench.idle();
  expect(await findRun(opened.db, first.id)).toMatchObject({ state: "interrupted", iterations: 2 });
  expect((await loadHistory(opened, first.id))?.residuals.mass).toEqual([0.5, 0.25]);
  expect((await findRun(opened.db, second.id))?.state).toBe("done");
  await bench.close();
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
  const row = await make({}, "lidded-box");
  const [first, second] = await startFamily(opened, row.id, { ...small, baseNx: 96, baseNy: 96, ratio: 1.1 }, false);
  const begun = new Promise<void>((resolve) => {
    const end = subscribe(row.id, (e) => {
      if (e.type !== "rows") return;
      end();
      resolve();
    });
  });
  await bench.turn();
  await begun;
  await bench.stop(second.id);
  await bench.stop(first.id);
  await bench.idle();
  const stopped = await findRun(opened.db, first.id);
  expect(stopped?.state === "stopped" || stopped?.state === "done").toBe(true);
  expect(stopped?.result?.quantities.uMin).toBeLessThan(0);
  expect((await loadHistory(opened, first.id))?.iteration.length).toBe(stopped?.iterations);
  expect((await findRun(opened.db, second.id))?.state).toBe("interrupted");
  await bench.close();
});
