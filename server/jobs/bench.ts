import { randomUUID } from "node:crypto";
import { hostname } from "node:os";
import path from "node:path";
import type { StartResult } from "../../core/problems/build/benchJob.ts";
import type { Build } from "../../core/records/build.ts";
import { enterSaid } from "../chain.ts";
import { applicationFolder } from "../config.ts";
import { type Store, store } from "../db/store.ts";
import { hashOf } from "../hash.ts";
import { benchBuild, benchVersion } from "../method.ts";
import { leaseRun, releaseLost, updateLeased } from "../repositories/leases.ts";
import { clearHistoryParts, findRun, type RunRow, readSetting, runsInState, updateRun, waitingRuns } from "../repositories/runs.ts";
import { publish, type RunEvent } from "./events.ts";
import { type Exchange, type Message, openExchange } from "./exchange.ts";
import { endRun, hear, LeaseLost, RowsLost } from "./hearing.ts";
import { type Live, lastEvents, newLive } from "./liveRun.ts";
import { PAUSE, STOP_AND_KEEP, type WorkerMessage } from "./messages.ts";
import { openQueue, type RunQueue } from "./queue.ts";
import { readCheckpoint, readStart } from "./runFiles.ts";
import { WarmWorkers } from "./warmWorkers.ts";

const LEASE_MS = 30_000;
const BEAT_MS = 8_000;
/** a run that breaks off this often without getting further is not tried again */
const MOST_BREAKS = 3;
/** a worker that says nothing for this long hangs */
const SILENT_MS = 300_000;
/** waits between tries to store what could not be stored */
const FIRST_WAIT_MS = 200;
const LONGEST_WAIT_MS = 10_000;

const held = globalThis as unknown as { tinRulerBench?: Bench };

/** What computes a run of the bench, how it was built, and on which machine: of a node what it says of itself. */
const buildOn = (holder: string, told: Omit<Build, "machine"> = { version: benchVersion(), ...benchBuild() }): Build => ({
  ...told,
  machine: holder.replace(/-\d+-[0-9a-f]{8}$/, ""),
});

/** Computes waiting runs on worker threads and hands them to nodes; every run is leased, so that none is computed twice and none is lost. */
export class Bench {
  private readonly live = new Map<string, Live>();
  private readonly holder = `${hostname()}-${process.pid}-${randomUUID().slice(0, 8)}`;
  private turning: Promise<void> = Promise.resolve();
  private opening: Promise<RunQueue> | undefined;
  private exchanging: Promise<Exchange> | undefined;
  private beat: ReturnType<typeof setInterval> | undefined;
  private closed = false;
  private readonly workers: WarmWorkers;

  constructor(
    private readonly opened: Store,
    entry = path.join(applicationFolder(), "dist/workers/solver.mjs"),
    private readonly silentMs = SILENT_MS,
  ) {
    this.workers = new WarmWorkers(entry);
  }

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
    if (!this.live.size) this.workers.prepare();
  }

  /** Renews the leases of what is computed here, ends workers that hang, and takes back what ran out elsewhere. */
  async keepLeases(): Promise<void> {
    if (this.closed) return;
    const until = new Date(Date.now() + LEASE_MS);
    for (const l of [...this.live.values()]) {
      if (!("worker" in l.by)) continue;
      if (!l.ended && Date.now() - l.heardAt > this.silentMs)
        await this.endWorker(l, `The worker said nothing for ${Math.round(this.silentMs / 1000)} s and was ended.`);
      else if (!(await updateLeased(this.opened.db, l.run, { leaseUntil: until }))) await this.abandon(l);
    }
    for (const run of await releaseLost(this.opened.db, { now: new Date() })) await this.lose(run);
    await this.turn();
  }

  /** Ends a worker that cannot go on; its run is tried again. */
  private async endWorker(live: Live, sentence: string): Promise<void> {
    live.ended = true;
    if ("worker" in live.by) await live.by.worker.terminate();
    await this.breakOff(live, sentence);
  }

  /** Somebody else computes the run by now: what is told of it here counts no more. */
  private async abandon(live: Live): Promise<void> {
    live.ended = true;
    if (this.live.get(live.run.id) === live) this.live.delete(live.run.id);
    if ("worker" in live.by) await live.by.worker.terminate();
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
      await this.start(run).catch((error: Error) => this.giveUp(run, error.message));
    }
  }

  private async lease(holder: string, told?: Omit<Build, "machine">): Promise<RunRow | undefined> {
    const queue = await this.queue();
    for (;;) {
      const id = await queue.take();
      if (id === undefined) return undefined;
      const run = await leaseRun(this.opened.db, id, holder, new Date(Date.now() + LEASE_MS), buildOn(holder, told));
      if (run && run.breaks < MOST_BREAKS) return run;
      if (run)
        await this.giveUp(run, `It broke off ${MOST_BREAKS} times without getting further: the program or the machine that computed it ended.`);
      else if (!this.opened.shared) return undefined;
    }
  }

  /** A run that cannot be begun ends with a sentence. */
  private async giveUp(run: RunRow, failure: string): Promise<void> {
    if (!(await updateLeased(this.opened.db, run, { state: "failed", failure, finishedAt: new Date() }))) return;
    this.live.delete(run.id);
    await this.enterEnd(run, { state: "failed", failure });
    this.say(run.caseId, { type: "state", runId: run.id, state: "failed", failure });
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
    const worker = this.workers.take({ settings: run.settings, signal: buffer, checkpoint, start });
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
    // A later attempt may be under way by now.
    if (this.live.get(live.run.id) !== live) return;
    const breaks = (live.gotFurther ? 0 : live.run.breaks) + 1;
    if (breaks >= MOST_BREAKS) {
      const change = { state: "failed", failure: `${sentence} It was tried ${MOST_BREAKS} times.` } as const;
      const ended = await endRun(this.opened, live, { change });
      await this.enterEnd(live.run, ended);
      this.end(live, ended);
      return;
    }
    this.live.delete(live.run.id);
    if (!(await updateLeased(this.opened.db, live.run, { state: "waiting", leasedBy: null, leaseUntil: null, breaks }))) return;
    this.say(live.run.caseId, { type: "state", runId: live.run.id, state: "waiting" });
    await this.put(live.run);
  }

  private queueMessage(live: Live, m: WorkerMessage): void {
    live.heardAt = Date.now();
    if (m.type === "done" || m.type === "failed" || m.type === "paused") live.ended = true;
    live.chain = live.chain.then(() => this.hearAtLast(live, m)).catch((error) => console.error("Bench:", error));
  }

  /** What could not be stored, for a full disk or a database that restarts, is kept and tried again as long as the run is this bench's. */
  private async hearAtLast(live: Live, m: WorkerMessage): Promise<void> {
    for (let wait = FIRST_WAIT_MS; !this.closed && this.live.get(live.run.id) === live; wait = Math.min(2 * wait, LONGEST_WAIT_MS)) {
      try {
        const { event, ended } = await hear(this.opened, live, m);
        if (event) this.say(live.run.caseId, event);
        if (ended) {
          await this.enterEnd(live.run, ended);
          this.end(live, ended);
        }
        return;
      } catch (error) {
        if (error instanceof LeaseLost) return this.abandon(live);
        if (error instanceof RowsLost) return this.endWorker(live, error.message);
        console.error(`Bench: ${live.run.label}, tried again in ${wait} ms:`, error);
        await new Promise((resolve) => setTimeout(resolve, wait));
      }
    }
  }

  /** Enters in the time line that a run ended; one that cannot be entered has ended all the same. */
  private async enterEnd({ id, caseId, label, attempt }: RunRow, { state = "failed", failure = null }: Partial<RunRow>): Promise<void> {
    if (state === "paused") return;
    const says = `The bench ended a run, ${state}: ${label}`;
    const said = { says, method: "bench", path: `/runs/${id}`, caseId, by: null, inputHash: hashOf({ state, failure, attempt }) };
    await enterSaid(this.opened, said).catch((error: Error) =>
      console.error(`The end of ${label} could not be entered in the time line: ${error.message}`),
    );
  }

  private end(live: Live, change: Partial<RunRow>): void {
    const { run } = live;
    if (this.live.get(run.id) === live) this.live.delete(run.id);
    this.say(run.caseId, { type: "state", runId: run.id, state: change.state ?? "failed", failure: change.failure ?? undefined });
    void this.turn().then(() => {
      // While others run it would only take their time.
      if (!this.closed && !this.busy) this.workers.prepare();
    });
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
    await updateRun(this.opened.db, runId, { state: "waiting", failure: null, finishedAt: null, breaks: 0 });
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

  /** A node asks for work, and says what it computes with. */
  async takeForNode(node: string, told?: Omit<Build, "machine">): Promise<{ run: RunRow; checkpoint?: Uint8Array; start?: StartResult } | undefined> {
    if (this.closed) return undefined;
    const run = await this.lease(`node ${node}`, told);
    if (!run) return undefined;
    try {
      const [checkpoint, start] = [await readCheckpoint(this.opened, run), await readStart(this.opened, run)];
      await this.begin(run, { node });
      return { run, checkpoint, start };
    } catch (error) {
      await this.giveUp(run, (error as Error).message);
      return undefined;
    }
  }

  /** What a node says of its run; the answer is what to do next, or undefined when the run is no longer its own. */
  async hearFromNode(runId: string, attempt: number, messages: readonly WorkerMessage[]): Promise<{ control: number; field: number } | undefined> {
    const live = this.live.get(runId);
    if (!live || live.run.attempt !== attempt || !("node" in live.by)) return undefined;
    const kept = await updateLeased(this.opened.db, { id: runId, attempt }, { leaseUntil: new Date(Date.now() + LEASE_MS) });
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
    await this.workers.close();
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
