import { gunzipSync } from "node:zlib";
import { unzipSync } from "fflate";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { BenchJob } from "../../core/problems/build/benchJob.ts";
import { settingsOf } from "../../core/problems/build/problemRunsForTests.ts";
import { packMesh } from "../../core/solver/meshFile.ts";
import type { Store } from "../db/store.ts";
import { keepMoment, storedFields } from "../jobs/runFiles.ts";
import { namedBlobs } from "../repositories/blobs.ts";
import { findRun, insertRun, listMoments, saveField, updateRun } from "../repositories/runs.ts";
import { createCase } from "./cases.ts";
import { drawnMoment, momentList, momentsFile } from "./fields.ts";
import { newCase, temporaryStore } from "./testStore.ts";

let opened: Store;
let close: () => Promise<void>;
let runId = "";
const settings = settingsOf("shock-tube", { scale: 0.5, numerics: { moments: 3 } });

beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("moments"));
  const { id } = await createCase(opened, newCase({ problemId: "shock-tube", parameters: {} }));
  const row = { caseId: id, label: "tube", origin: "bench", code: "bench", settingsHash: "", setupHash: "", settings } as const;
  runId = (await insertRun(opened.db, { ...row, state: "running", attempt: 2 })).id;
  const run = await findRun(opened.db, runId);
  if (!run) throw new Error("no run");
  const job = new BenchJob(settings);
  while (job.underWay) {
    job.step();
    const m = job.dueMoment();
    if (!m) continue;
    expect(await keepMoment(opened, run, m)).toBe(true);
    // Told twice it is stored once; an attempt that is over stores nothing.
    expect(await keepMoment(opened, run, m)).toBe(true);
    expect(await keepMoment(opened, { ...run, attempt: 1 }, { ...m, sequence: 100 + m.sequence })).toBe(false);
  }
  for (const f of (await storedFields(opened, runId, job.simulation.fields(), packMesh(job.mesh))) ?? []) await saveField(opened.db, f);
  await updateRun(opened.db, runId, { state: "done" });
});
afterAll(() => close());

describe("moments of a run in time", () => {
  test("are listed in time, velocity and pressure first, and each field comes packed", async () => {
    const list = await momentList(opened, runId);
    expect(list.map((m) => m.at)).toEqual([1, 2, 3]);
    expect(list[0].timeS).toBeLessThan(list[1].timeS);
    expect(list[2].timeS).toBeCloseTo(settings.parameters.endTimeS, 12);
    expect(list[0].fields.slice(0, 3).map((f) => [f.name, f.unit])).toEqual([
      ["u", "m/s"],
      ["v", "m/s"],
      ["p", "Pa"],
    ]);
    const bytes = gunzipSync(await drawnMoment(opened, runId, 2, "p"));
    const values = new Float32Array(Uint8Array.from(bytes).buffer);
    expect(Math.min(...values)).toBeGreaterThan(0);
    await expect(drawnMoment(opened, runId, 9, "p")).rejects.toMatchObject({ code: "not-found" });
    await expect(drawnMoment(opened, runId, 2, "q")).rejects.toMatchObject({ code: "not-found" });
  });
  test("their blobs are named, so that no sweep takes them", async () => {
    const named = await namedBlobs(opened.db);
    for (const m of await listMoments(opened.db, runId)) for (const f of m.fields) expect(named.has(f.blob)).toBe(true);
  });
  test("are drawn on one scale, with a table of their times", async () => {
    const files = unzipSync(await momentsFile(opened, runId, "density"));
    expect(Object.keys(files).sort()).toEqual(["density-0001.png", "density-0002.png", "density-0003.png", "times.csv"]);
    expect([...files["density-0002.png"].subarray(1, 4)]).toEqual([..."PNG"].map((c) => c.charCodeAt(0)));
    const rows = new TextDecoder()
      .decode(files["times.csv"])
      .trim()
      .split(/\r?\n/)
      .map((l) => l.split(","));
    expect(rows).toHaveLength(4);
    expect(new Set(rows.slice(1).map((r) => r.slice(-2).join())).size).toBe(1);
    await expect(momentsFile(opened, runId, "nothing")).rejects.toMatchObject({ code: "not-found" });
  });
});
