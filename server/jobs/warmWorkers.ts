import { Worker } from "node:worker_threads";
import type { WorkerTask } from "./messages.ts";

/** Threads of the solver; one can be made ready before a run wants it, so that the run does not wait for the program to load. */
export class WarmWorkers {
  private ready: Worker | undefined;

  constructor(private readonly entry: string) {}

  /** A thread that has begun with a task. */
  take(task: WorkerTask): Worker {
    const worker = this.ready ?? new Worker(this.entry);
    this.ready = undefined;
    worker.removeAllListeners();
    worker.ref();
    worker.postMessage(task);
    return worker;
  }

  /** Makes one ready; it keeps no program from ending. */
  prepare(): void {
    if (this.ready) return;
    const worker = new Worker(this.entry);
    worker.unref();
    const gone = () => {
      if (this.ready === worker) this.ready = undefined;
    };
    // What keeps it from starting is said by the run that needs the next one.
    worker.once("error", gone);
    worker.once("exit", gone);
    this.ready = worker;
  }

  /** Whether one waits. */
  get waits(): boolean {
    return this.ready !== undefined;
  }

  async close(): Promise<void> {
    const { ready } = this;
    this.ready = undefined;
    await ready?.terminate();
  }
}
