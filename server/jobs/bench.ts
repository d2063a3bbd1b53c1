import path from "node:path";
import { Worker } from "node:worker_threads";
import { doublesToBytes } from "../blobs/blobStore.ts";
import { applicationFolder } from "../config.ts";
import type { HistoryColumn } from "../db/schema.ts";
import { type Store, store } from "../db/store.ts";
import {
  addHistoryPart,
  findRun,
  listHistoryParts,
  listJobs,
  type RunRow,
  readSetting,
  removeJob,
  runsInState,
  saveField,
  saveHistory,
  updateRun,
} from "../repositories/runs.ts";
import { publish } from "./events.ts";
import type { WorkerMessage } from "./messages.ts";

/** A run that a worker is computing now. */
interface Live {
  readonly run: RunRow;
  readonly worker: Worker;
  readonly signal: Int32Array;
  columns: HistoryColumn[];
  starts: Record<string, number>;
  sequence: number;
  rows: number;
  lastField?: { iteration: number; speed: string };
  climbing?: { cells: number; left: number };
  /** database work of this run, one after the other */
  chain: Promise<void>;
}

const held = globalThis as unknown as { tinRulerBench?: Bench };

/** Runs queued solver jobs on worker threads, as many at once as the setting allows. */
export class Bench {
  private readonly live = new Map<string, Live>();
  private turning: Promise<void> = Promise.resolve();
  private closed = false;

  constructor(
    private readonly opened: Store,
    private readonly entry = path.join(applicationFolder(), "dist/workers/solver.mjs"),
  ) {}

  /** What a server that was killed left behind: runs that were under way are marked, their record is kept, the queue goes on. */
  async recover(): Promise<void> {
    for (const run of await runsInState(this.opened.db, ["running"])) {
      const iterations = await this.keepRecord(run.id);
      await updateRun(this.opened.db, run.id, {
        iterations,
        state: "interrupted",
        failure: "The server stopped while this run was under way. Its record up to then is kept.",
        finishedAt: new Date(),
      });
      await removeJob(this.opened.db, run.id);
    }
    await this.turn();
  }

  /** Starts waiting jobs while there are free cores; calls are taken one after the other. */
  turn(): Promise<void> {
    this.turning = this.turning.then(() => this.startWaiting()).catch((error) => console.error("Bench:", error));
    return this.turning;
  }

  private async startWaiting(): Promise<void> {
    if (this.closed) return;
    const cores = Number((await readSetting(this.opened.db, "cores")) ?? 1);
    for (const job of await listJobs(this.opened.db)) {
      if (this.live.size >= cores) return;
      if (this.live.has(job.runId)) continue;
      const run = await findRun(this.opened.db, job.runId);
      if (run?.state === "waiting" && !run.deletedAt) await this.start(run);
      else if (run?.state !== "running") await removeJob(this.opened.db, job.runId);
    }
  }

  private async start(run: RunRow): Promise<void> {
    await updateRun(this.opened.db, run.id, { state: "running", startedAt: new Date() });
    const buffer = new SharedArrayBuffer(4);
    const worker = new Worker(this.entry, { workerData: { settings: run.settings, signal: buffer } });
    const live: Live = { run, worker, signal: new Int32Array(buffer), columns: [], starts: {}, sequence: 0, rows: 0, chain: Promise.resolve() };
    this.live.set(run.id, live);
    publish(run.caseId, { type: "state", runId: run.id, state: "running" });
    let ended = false;
    worker.on("message", (m: WorkerMessage) => {
      if (m.type === "done" || m.type === "failed") ended = true;
      live.chain = live.chain.then(() => this.hear(live, m)).catch((error) => console.error("Bench:", error));
    });
    const broke = (sentence: string) => {
      if (ended) return;
      ended = true;
      live.chain = live.chain.then(() => this.end(live, { state: "failed", failure: sentence })).catch((error) => console.error("Bench:", error));
    };
    worker.on("error", (error) => broke(`The worker broke off: ${error.message}`));
    worker.on("exit", (code) => broke(`The worker ended without an answer (code ${code}). Run it again; if it repeats, use a smaller mesh.`));
  }

  private async hear(live: Live, m: WorkerMessage): Promise<void> {
    if (this.closed) return;
    const { run } = live;
    switch (m.type) {
      case "ready":
        live.columns = m.columns;
        live.starts = m.starts;
        return;
      case "climbing":
        live.climbing = { cells: m.cells, left: m.left };
        publish(run.caseId, { type: "climbing", runId: run.id, cells: m.cells, left: m.left });
        return;
      case "rows":
        live.climbing = undefined;
        await addHistoryPart(this.opened.db, { runId: run.id, sequence: live.sequence++, columns: live.columns, rows: m.rows, starts: live.starts });
        publish(run.caseId, { type: "rows", runId: run.id, from: live.rows, rows: m.rows, starts: live.starts });
        live.rows += m.rows.length;
        return;
      case "field":
        live.lastField = { iteration: m.iteration, speed: Buffer.from(m.speed.buffer, m.speed.byteOffset, m.speed.byteLength).toString("base64") };
        publish(run.caseId, { type: "field", runId: run.id, ...live.lastField });
        return;
      case "done":
        for (const f of m.fields) {
          const blob = await this.opened.blobs.put(doublesToBytes(f.values));
          await saveField(this.opened.db, { runId: run.id, name: f.name, unit: f.unit, count: f.values.length, blob });
        }
        await this.end(live, { state: m.state, result: m.result, seconds: m.seconds });
        return;
      case "failed":
        await this.end(live, { state: m.state, failure: m.sentence, seconds: m.seconds });
        return;
      default:
        m satisfies never;
    }
  }

  private async end(live: Live, change: Partial<RunRow>): Promise<void> {
    const { run } = live;
    await this.keepRecord(run.id);
    await updateRun(this.opened.db, run.id, { ...change, iterations: live.rows, finishedAt: new Date() });
    await removeJob(this.opened.db, run.id);
    this.live.delete(run.id);
    publish(run.caseId, { type: "state", runId: run.id, state: change.state ?? "failed", failure: change.failure ?? undefined });
    void this.turn();
  }

  /** Puts the parts of a record together into one blob. @returns rows kept */
  private async keepRecord(runId: string): Promise<number> {
    const parts = await listHistoryParts(this.opened.db, runId);
    if (!parts.length) return 0;
    const { columns, starts } = parts[0];
    const rows = parts.flatMap((p) => p.rows);
    const blob = await this.opened.blobs.put(doublesToBytes(columns.flatMap((_, c) => rows.map((r) => r[c] ?? Number.NaN))));
    await saveHistory(this.opened.db, { runId, columns, rows: rows.length, starts, blob });
    return rows.length;
  }

  /** Stops a run and keeps what it has; a waiting one leaves the queue. */
  async stop(runId: string): Promise<void> {
    const live = this.live.get(runId);
    if (live) {
      Atomics.store(live.signal, 0, 1);
      return;
    }
    const run = await findRun(this.opened.db, runId);
    if (run?.state !== "waiting") return;
    await removeJob(this.opened.db, runId);
    await updateRun(this.opened.db, runId, { state: "interrupted", failure: "Taken off the queue before it began.", finishedAt: new Date() });
    publish(run.caseId, { type: "state", runId, state: "interrupted" });
  }

  /** Last state of the runs of a case that are under way, for a page that has just begun to listen. */
  replay(caseId: string) {
    return [...this.live.values()].filter((l) => l.run.caseId === caseId).map((l) => ({ runId: l.run.id, field: l.lastField, climbing: l.climbing }));
  }

  get running(): number {
    return this.live.size;
  }

  /** Resolves when nothing is queued or running. */
  async idle(): Promise<void> {
    for (;;) {
      await this.turn();
      if (this.live.size === 0 && (await listJobs(this.opened.db)).length === 0) return;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
  }

  async close(): Promise<void> {
    this.closed = true;
    await Promise.all([...this.live.values()].map((l) => l.worker.terminate()));
  }
}

/** The bench of this process. */
export async function bench(): Promise<Bench> {
  const opened = await store();
  held.tinRulerBench ??= new Bench(opened);
  return held.tinRulerBench;
}
