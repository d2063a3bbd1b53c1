import { randomUUID } from "node:crypto";
import { hostname } from "node:os";
import path from "node:path";
import { Worker } from "node:worker_threads";
import type { StartResult } from "../../core/problems/build/benchJob.ts";
import type { Checkpoint } from "../../core/solver/simulation.ts";
import { applicationFolder } from "../config.ts";
import { type Store, store } from "../db/store.ts";
import {
  addHistoryPart,
  clearHistoryParts,
  findRun,
  leaseRun,
  type RunRow,
  readSetting,
  releaseLost,
  runsInState,
  updateLeased,
  updateRun,
  waitingRuns,
} from "../repositories/runs.ts";
import { publish, type RunEvent } from "./events.ts";
import { type Exchange, type Message, openExchange } from "./exchange.ts";
import { fieldEvent, type Live, lastEvents, newLive } from "./liveRun.ts";
import { PAUSE, STOP_AND_KEEP, type WorkerMessage } from "./messages.ts";
import { openQueue, type RunQueue } from "./queue.ts";
import { keepCheckpoint, keepFields, keepRecord, readCheckpoint, readStart } from "./runFiles.ts";

const LEASE_MS = 30_000;
const BEAT_MS = 8_000;
/** a run whose worker breaks off this often is not tried again */
const MOST_ATTEMPTS = 3;

const held = globalThis as unknown as { tinRulerBench?: Bench };

/** Computes waiting runs on worker threads and hands them to nodes; every run is leased, so that none is computed twice and none is lost. */
export class Bench {
  private readonly live = new Map<string, Live>();
  private readonly holder = `${hostname()}-${process.pid}-${randomUUID().slice(0, 8)}`;
  private turning: Promise<void> = Promise.resolve();
  private opening: Promise<RunQueue> | undefined;
  private exchanging: Promise<Exchange> | undefined;
  private beat: ReturnType<typeof setInterval> | undefined;
  private closed = false;

  constructor(
    private readonly opened: Store,
    private readonly entry = path.join(applicationFolder(), "dist/workers/solver.mjs"),
  ) {}

  private queue(): Promise<RunQueue> {
    this.opening ??= openQueue(this.opened);
    return this.opening;
  }

  private exchange(): Promise<Exchange> {
    this.exchanging ??= openExchange(this.opened.shared, (m) => this.hearFromOthers(m));
    return this.exchanging;
  }

  /** Tells the pages of this process and, where several share the database, those of the others. */
  private say(caseId: string, event: RunEvent): void {
    publish(caseId, event);
    this.tellOthers({ kind: "event", caseId, event });
  }

  private tellOthers(message: Message): void {
    if (this.opened.shared)
      void this.exchange().then(
        (x) => x.send(message),
        (error) => console.error("Bench:", error.message),
      );
  }

  private hearFromOthers(m: Message): void {
    if (m.kind === "event") {
      publish(m.caseId, m.event);
      return;
    }
    const live = this.live.get(m.runId);
    if (!live) return;
    if (m.kind === "control") this.tell(live, m.control);
    else this.show(m.runId, m.name);
  }

  /** What processes that were killed left behind goes on from its last checkpoint. */
  async recover(): Promise<void> {
    // Nobody else uses the embedded database: whatever is marked as running there has lost its process.
    const lost = this.opened.shared
      ? await releaseLost(this.opened.db, { now: new Date() })
      : await releaseLost(this.opened.db, { now: new Date(Date.now() + 1e9) });
    for (const run of lost) await (await this.queue()).put(run.id, run.priority);
    this.beat ??= setInterval(() => void this.keepLeases().catch((error) => console.error("Bench:", error)), BEAT_MS);
    this.beat.unref?.();
    await this.exchange();
    await this.turn();
  }

  /** Renews the leases of what is computed here and takes back those that ran out elsewhere. */
  private async keepLeases(): Promise<void> {
    if (this.closed) return;
    const until = new Date(Date.now() + LEASE_MS);
    for (const l of this.live.values()) {
      if ("worker" in l.by) await updateLeased(this.opened.db, l.run.id, l.run.attempt, { leaseUntil: until });
    }
    for (const run of await releaseLost(this.opened.db, { now: new Date() })) await this.lose(run);
    await this.turn();
  }

  /** A run whose node fell silent waits again. */
  private async lose(run: RunRow): Promise<void> {
    this.live.delete(run.id);
    this.say(run.caseId, { type: "state", runId: run.id, state: "waiting" });
    await (await this.queue()).put(run.id, run.priority);
  }

  /** Tells that a run waits, and starts what there is room for. */
  async put(run: Pick<RunRow, "id" | "priority">, wake = true): Promise<void> {
    await (await this.queue()).put(run.id, run.priority);
    if (wake) await this.turn();
  }

  /** Starts waiting runs while there are free cores; calls are taken one after the other. */
  turn(): Promise<void> {
    this.turning = this.turning.then(() => this.startWaiting()).catch((error) => console.error("Bench:", error));
    return this.turning;
  }

  private get busy(): number {
    return [...this.live.values()].filter((l) => "worker" in l.by).length;
  }

  private async startWaiting(): Promise<void> {
    const cores = Number((await readSetting(this.opened.db, "cores")) ?? 1);
    while (!this.closed && this.busy < cores) {
      const run = await this.lease(this.holder);
      if (!run) return;
      await this.start(run);
    }
  }

  private async lease(holder: string): Promise<RunRow | undefined> {
    const queue = await this.queue();
    for (;;) {
      const id = await queue.take();
      if (id === undefined) return undefined;
      const run = await leaseRun(this.opened.db, id, holder, new Date(Date.now() + LEASE_MS));
      if (run) return run;
      if (!this.opened.shared) return undefined;
    }
  }

  private async begin(run: RunRow, by: Live["by"]): Promise<Live> {
    // What an earlier attempt recorded is told again from its checkpoint on, or from the start.
    await clearHistoryParts(this.opened.db, run.id);
    const live = newLive(run, by);
    this.live.set(run.id, live);
    this.say(run.caseId, { type: "state", runId: run.id, state: "running" });
    return live;
  }

  private async start(run: RunRow): Promise<void> {
    const buffer = new SharedArrayBuffer(8);
    const checkpoint = await readCheckpoint(this.opened, run);
    const start = await readStart(this.opened, run);
    const worker = new Worker(this.entry, { workerData: { settings: run.settings, signal: buffer, checkpoint, start } });
    const live = await this.begin(run, { worker, signal: new Int32Array(buffer) });
    worker.on("message", (m: WorkerMessage) => this.queueMessage(live, m));
    const broke = (sentence: string) => {
      if (live.ended || this.closed) return;
      live.ended = true;
      live.chain = live.chain.then(() => this.breakOff(live, sentence)).catch((error) => console.error("Bench:", error));
    };
    worker.on("error", (error) => broke(`The worker broke off: ${error.message}`));
    worker.on("exit", (code) => broke(`The worker ended without an answer (code ${code}). Run it again; if it repeats, use a smaller mesh.`));
  }

  /** A worker that vanished is tried again before the run is given up. */
  private async breakOff(live: Live, sentence: string): Promise<void> {
    if (live.run.attempt >= MOST_ATTEMPTS) {
      await this.end(live, { state: "failed", failure: `${sentence} It was tried ${MOST_ATTEMPTS} times.` });
      return;
    }
    this.live.delete(live.run.id);
    if (!(await updateLeased(this.opened.db, live.run.id, live.run.attempt, { state: "waiting", leasedBy: null, leaseUntil: null }))) return;
    this.say(live.run.caseId, { type: "state", runId: live.run.id, state: "waiting" });
    await this.put(live.run);
  }

  private queueMessage(live: Live, m: WorkerMessage): void {
    if (m.type === "done" || m.type === "failed" || m.type === "paused") live.ended = true;
    live.chain = live.chain.then(() => this.hear(live, m)).catch((error) => console.error("Bench:", error));
  }

  private async hear(live: Live, m: WorkerMessage): Promise<void> {
    if (this.closed || this.live.get(live.run.id) !== live) return;
    const { run } = live;
    switch (m.type) {
      case "ready":
        live.columns = m.columns;
        live.starts = m.starts;
        live.fieldNames = m.fieldNames;
        return;
      case "climbing":
        live.climbing = { cells: m.cells, left: m.left };
        this.say(run.caseId, { type: "climbing", runId: run.id, cells: m.cells, left: m.left });
        return;
      case "rows":
        live.climbing = undefined;
        live.starts = m.starts;
        await addHistoryPart(this.opened.db, { runId: run.id, sequence: live.sequence++, columns: live.columns, rows: m.rows, starts: live.starts });
        this.say(run.caseId, { type: "rows", runId: run.id, from: live.rows, columns: live.columns, rows: m.rows, starts: m.starts });
        live.rows += m.rows.length;
        return;
      case "status":
        live.lastStatus = { type: "status", runId: run.id, status: m.status };
        this.say(run.caseId, live.lastStatus);
        return;
      case "field":
        live.lastField = fieldEvent(live, m);
        this.say(run.caseId, live.lastField);
        return;
      case "checkpoint":
        await keepCheckpoint(this.opened, run, m.data);
        return;
      case "paused":
        await this.end(live, { state: "paused", seconds: m.seconds, leasedBy: null, leaseUntil: null });
        return;
      case "done": {
        await keepFields(this.opened, run.id, m.fields, m.mesh);
        await this.end(live, {
          state: m.state,
          result: m.result,
          seconds: m.seconds,
          failure: m.note ?? null,
          ...(m.state === "stopped" ? {} : { checkpoint: null }),
        });
        return;
      }
      case "failed":
        await this.end(live, { state: m.state, failure: m.sentence, seconds: m.seconds, checkpoint: null });
        return;
      default:
        m satisfies never;
    }
  }

  private async end(live: Live, change: Partial<RunRow>): Promise<void> {
    const { run } = live;
    await keepRecord(this.opened, run.id);
    const finished = change.state === "paused" ? {} : { finishedAt: new Date() };
    // Only the holder of the lease may write a result: a second one of the same run is dropped.
    await updateLeased(this.opened.db, run.id, run.attempt, { ...change, ...finished, iterations: live.rows });
    if (this.live.get(run.id) === live) this.live.delete(run.id);
    this.say(run.caseId, { type: "state", runId: run.id, state: change.state ?? "failed", failure: change.failure ?? undefined });
    void this.turn();
  }

  private tell(live: Live, control: number): void {
    live.control = control;
    if ("worker" in live.by) Atomics.store(live.by.signal, 0, control);
  }

  /** Stops a run and keeps what it has; a waiting or paused one leaves the queue. */
  async stop(runId: string): Promise<void> {
    const live = this.live.get(runId);
    if (live) {
      this.tell(live, STOP_AND_KEEP);
      return;
    }
    const run = await findRun(this.opened.db, runId);
    if (run?.state === "running") this.tellOthers({ kind: "control", runId, control: STOP_AND_KEEP });
    if (run?.state !== "waiting" && run?.state !== "paused") return;
    const failure = run.state === "waiting" && !run.checkpoint ? "Taken off the queue before it began." : "Stopped while it was paused.";
    await updateRun(this.opened.db, runId, { state: "interrupted", failure, finishedAt: new Date() });
    this.say(run.caseId, { type: "state", runId, state: "interrupted" });
  }

  /** Holds a run: its state is kept and it goes on later to the same bits. */
  async pause(runId: string): Promise<void> {
    const live = this.live.get(runId);
    if (live) {
      this.tell(live, PAUSE);
      // The worker ends its iteration and writes its state first: until then it is said to be on its way.
      this.say(live.run.caseId, { type: "state", runId, state: "pausing" });
      return;
    }
    const run = await findRun(this.opened.db, runId);
    if (run?.state === "running") this.tellOthers({ kind: "control", runId, control: PAUSE });
    if (run?.state !== "waiting") return;
    await updateRun(this.opened.db, runId, { state: "paused" });
    this.say(run.caseId, { type: "state", runId, state: "paused" });
  }

  /** Takes up a paused run, or one that was stopped or interrupted and left its state behind. */
  async resume(runId: string): Promise<void> {
    const run = await findRun(this.opened.db, runId);
    const left = run?.checkpoint !== null && (run?.state === "stopped" || run?.state === "interrupted");
    if (!run || (run.state !== "paused" && !left)) return;
    await updateRun(this.opened.db, runId, { state: "waiting", failure: null, finishedAt: null });
    this.say(run.caseId, { type: "state", runId, state: "waiting" });
    await this.put(run);
  }

  /** Chooses the field shown of a run under way, by its name. */
  show(runId: string, name: string): void {
    const live = this.live.get(runId);
    if (!live) this.tellOthers({ kind: "show", runId, name });
    const index = live?.fieldNames.indexOf(name) ?? -1;
    if (!live || index < 0) return;
    live.fieldIndex = index;
    if ("worker" in live.by) Atomics.store(live.by.signal, 1, index);
  }

  /** A node asks for work. */
  async takeForNode(node: string): Promise<{ run: RunRow; checkpoint?: Checkpoint; start?: StartResult } | undefined> {
    if (this.closed) return undefined;
    const run = await this.lease(`node ${node}`);
    if (!run) return undefined;
    await this.begin(run, { node });
    return { run, checkpoint: await readCheckpoint(this.opened, run), start: await readStart(this.opened, run) };
  }

  /** What a node says of its run; the answer is what to do next, or undefined when the run is no longer its own. */
  async hearFromNode(runId: string, attempt: number, messages: readonly WorkerMessage[]): Promise<{ control: number; field: number } | undefined> {
    const live = this.live.get(runId);
    if (!live || live.run.attempt !== attempt || !("node" in live.by)) return undefined;
    const kept = await updateLeased(this.opened.db, runId, attempt, { leaseUntil: new Date(Date.now() + LEASE_MS) });
    if (!kept) {
      this.live.delete(runId);
      return undefined;
    }
    for (const m of messages) this.queueMessage(live, m);
    await live.chain;
    return { control: live.control, field: live.fieldIndex };
  }

  /** Who computes what, for the page of the bench. */
  get holders(): { runId: string; by: string }[] {
    return [...this.live.values()].map((l) => ({ runId: l.run.id, by: "node" in l.by ? `node ${l.by.node}` : "this machine" }));
  }

  /** Last state of the runs of a case that are under way, for a page that has just begun to listen. */
  replay(caseId: string): RunEvent[] {
    return [...this.live.values()].filter((l) => l.run.caseId === caseId).flatMap(lastEvents);
  }

  get running(): number {
    return this.live.size;
  }

  /** Resolves when nothing waits or runs. */
  async idle(): Promise<void> {
    for (;;) {
      await this.turn();
      const busy =
        this.live.size > 0 || (await waitingRuns(this.opened.db)).length > 0 || (await runsInState(this.opened.db, ["running"])).length > 0;
      if (!busy) return;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
  }

  async close(): Promise<void> {
    this.closed = true;
    clearInterval(this.beat);
    await Promise.all([...this.live.values()].flatMap((l) => ("worker" in l.by ? [l.by.worker.terminate()] : [])));
    await this.turning;
    await (await this.opening)?.close();
    await (await this.exchanging)?.close();
  }
}

/** The bench of this process. */
export async function bench(): Promise<Bench> {
  const opened = await store();
  held.tinRulerBench ??= new Bench(opened);
  return held.tinRulerBench;
}
