import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { build } from "esbuild";
import { afterAll, beforeAll, describe, expect, test, vi } from "vitest";
import { Bench } from "../jobs/bench.ts";
import { type Message, openExchange } from "../jobs/exchange.ts";
import { listRuns } from "../repositories/runs.ts";
import { createCase } from "../usecases/cases.ts";
import { startFamily } from "../usecases/runs.ts";
import { hasPostgres, startPostgres } from "./postgresForTests.ts";
import { openStore, type Store } from "./store.ts";

// The embedded database serves everybody else; this needs a PostgreSQL server on the machine.
describe.skipIf(!hasPostgres)("a PostgreSQL server that two processes share", () => {
  let root = "";
  let server: Awaited<ReturnType<typeof startPostgres>>;
  let stores: Store[] = [];
  let entry = "";
  const port = 54_329;

  beforeAll(async () => {
    root = await mkdtemp(path.join(tmpdir(), "tin-ruler-shared-"));
    server = await startPostgres(root, port);
    entry = path.join(root, "solver.mjs");
    await build({ entryPoints: ["server/jobs/solverWorker.ts"], outfile: entry, bundle: true, format: "esm", platform: "node", target: "node20" });
    stores = [];
    for (let k = 0; k < 2; k++) stores.push(await openStore(path.join(root, "files"), undefined, server.address));
  }, 120_000);
  afterAll(async () => {
    for (const s of stores) await s.close();
    await server.stop();
    await rm(root, { recursive: true, force: true });
  }, 60_000);

  test("runs put in by one are taken by both, each once", async () => {
    const [a, b] = stores;
    const benches = stores.map((s) => new Bench(s, entry));
    const row = await createCase(a, {
      title: "x",
      purpose: "",
      problemId: "plates",
      fluidName: "air",
      temperature: "",
      pressure: "",
      parameters: {},
    });
    const uniform = { kind: "uniform" as const };
    const runs = await startFamily(a, row.id, { baseNx: 8, baseNy: 8, ratio: 1.3, count: 6, gradingX: uniform, gradingY: uniform }, false);
    for (const r of runs) await benches[0].put(r, false);
    // One run is put in twice, as after a crash between two writes.
    await benches[0].put(runs[0], false);
    await Promise.all(benches.map((x) => x.recover()));
    await Promise.all(benches.map((x) => x.idle()));
    const done = await listRuns(b.db, row.id);
    expect(done.map((r) => [r.state, r.attempt])).toEqual(done.map(() => ["done", 1]));
    expect(new Set(done.map((r) => r.leasedBy)).size).toBe(2);
    for (const x of benches) await x.close();
  }, 120_000);

  test("work under one name is done one after the other by both; broken work lets go of it", async () => {
    let inside = 0;
    let most = 0;
    const work = async () => {
      most = Math.max(most, ++inside);
      await new Promise((r) => setTimeout(r, 15));
      inside--;
    };
    const broken = stores[0].alone("a case", () => Promise.reject(new Error("broken")));
    await expect(broken).rejects.toThrow("broken");
    await Promise.all([0, 1, 0, 1, 0, 1].map((k) => stores[k].alone("a case", work)));
    expect(most).toBe(1);
    // Under two names each waits for the other: were they done one after the other, it would wait in vain.
    let together = 0;
    const meeting = async () => {
      together++;
      await vi.waitFor(() => expect(together).toBe(2), { timeout: 20_000 });
    };
    await Promise.all(["a case", "another"].map((name, k) => stores[k].alone(name, meeting)));
  });

  test("a run computed by one is watched and stopped from the other", async () => {
    const [a, b] = stores;
    const told: Message[] = [];
    const ear = await openExchange(b.shared, (m) => told.push(m));
    const [computing, asking] = stores.map((s) => new Bench(s, entry));
    const row = await createCase(a, {
      title: "long",
      purpose: "",
      problemId: "eddies",
      fluidName: "air",
      temperature: "",
      pressure: "",
      parameters: {},
    });
    const uniform = { kind: "uniform" as const };
    const [run] = await startFamily(a, row.id, { baseNx: 128, baseNy: 128, ratio: 2, count: 1, gradingX: uniform, gradingY: uniform }, false);
    await computing.put(run, false);
    await computing.recover();
    const heard = (kind: string) => told.some((m) => m.kind === "event" && m.event.runId === run.id && m.event.type === kind);
    await vi.waitFor(() => expect(heard("rows")).toBe(true), { timeout: 60_000 });
    await asking.stop(run.id);
    await vi.waitFor(async () => expect((await listRuns(b.db, row.id))[0].state).toBe("stopped"), { timeout: 60_000, interval: 200 });
    await vi.waitFor(() => expect(told).toContainEqual(expect.objectContaining({ event: expect.objectContaining({ state: "stopped" }) })));
    // A picture of 16,384 cells comes over in pieces and whole.
    const field = told.flatMap((m) => (m.kind === "event" && m.event.type === "field" ? [m.event] : []))[0];
    if (field) expect(Buffer.from(field.values, "base64").byteLength).toBe(4 * 16_384);
    for (const x of [computing, asking]) await x.close();
    await ear.close();
  }, 150_000);
});
