import path from "node:path";
import { Worker } from "node:worker_threads";
import { applicationFolder } from "../config.ts";
import { UseCaseError } from "../usecases/failure.ts";
import type { Asking, Desk } from "./desk.ts";
import { type DeskMessage, readError } from "./messages.ts";
import { type Input, type Lane, type Output, TASKS, type TaskName } from "./tasks.ts";

const MOST_HEAP_MB = 2000;
/** a task that nobody waits for any more has this long to end by itself: its thread has read what the next one needs */
const GRACE_MS = 500;

interface Job {
  readonly task: TaskName;
  readonly input: unknown;
  readonly asking: Asking;
  readonly resolve: (value: unknown) => void;
  readonly reject: (error: Error) => void;
}

/** One warm thread and the tasks that wait for it. */
class Thread {
  private worker: Worker | undefined;
  private readonly waiting: Job[] = [];
  private current: Job | undefined;
  private clock: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly entry: string,
    private readonly secondsOf: (task: TaskName) => number,
    private readonly heapMb: number,
  ) {}

  add(job: Job): void {
    const { signal } = job.asking;
    if (signal?.aborted) {
      job.reject(givenUp());
      return;
    }
    signal?.addEventListener("abort", () => this.giveUp(job), { once: true });
    this.waiting.push(job);
    this.next();
  }

  /** A task that waits leaves; one that has begun may end soon by itself, else it ends with its thread, whatever it is doing. */
  private giveUp(job: Job): void {
    const at = this.waiting.indexOf(job);
    if (at >= 0) {
      this.waiting.splice(at, 1);
      job.reject(givenUp());
    } else if (this.current === job)
      setTimeout(() => {
        if (this.current === job) this.breakOff(givenUp());
      }, GRACE_MS).unref();
  }

  private next(): void {
    if (this.current) return;
    const job = this.waiting.shift();
    if (!job) {
      // A thread that waits for work keeps no program from ending.
      this.worker?.unref();
      return;
    }
    this.current = job;
    const worker = this.thread();
    worker.ref();
    const seconds = this.secondsOf(job.task);
    this.clock = setTimeout(() => this.breakOff(new UseCaseError("invalid", tooLong(job.task, seconds))), 1000 * seconds);
    worker.postMessage({ task: job.task, input: job.input });
  }

  private thread(): Worker {
    if (this.worker) return this.worker;
    const worker = new Worker(this.entry, { resourceLimits: { maxOldGenerationSizeMb: this.heapMb } });
    worker.on("message", (m: DeskMessage) => {
      if (m.type === "told") this.current?.asking.told?.({ done: m.done, of: m.of, what: m.what });
      else if (m.type === "done") this.end((job) => job.resolve(m.value));
      else if (m.spent) this.breakOff(readError(m.error));
      else this.end((job) => job.reject(readError(m.error)));
    });
    const lost = (error: Error) => {
      if (this.worker !== worker) return;
      this.worker = undefined;
      this.end((job) => job.reject(error));
    };
    worker.on("error", (error: Error & { code?: string }) => {
      const memory = error.code === "ERR_WORKER_OUT_OF_MEMORY" && this.current;
      lost(memory ? new UseCaseError("invalid", `${TASKS[memory.task].what} needs more memory than ${this.heapMb} MB and was ended.`) : error);
    });
    worker.on("exit", () => lost(new Error("A thread of the desk ended by itself.")));
    this.worker = worker;
    return worker;
  }

  private end(tell: (job: Job) => void): void {
    clearTimeout(this.clock);
    const job = this.current;
    this.current = undefined;
    if (job) tell(job);
    this.next();
  }

  private breakOff(error: Error): void {
    const worker = this.worker;
    this.worker = undefined;
    void worker?.terminate();
    this.end((job) => job.reject(error));
  }

  async close(): Promise<void> {
    for (const job of this.waiting.splice(0)) job.reject(givenUp());
    const worker = this.worker;
    this.breakOff(givenUp());
    await worker?.terminate();
  }
}

const givenUp = () => new UseCaseError("conflict", "It was given up; nothing was stored.");
const tooLong = (task: TaskName, seconds: number) => `${TASKS[task].what} took longer than ${seconds} s and was ended; nothing was stored.`;

/** Carries tasks out on threads that stay warm, so that whoever else asks the server something does not wait for them. */
export class ThreadDesk implements Desk {
  private readonly threads = new Map<Lane, Thread>();

  constructor(
    private readonly entry = path.join(/*turbopackIgnore: true*/ applicationFolder(), "dist/workers/desk.mjs"),
    private readonly secondsOf = (task: TaskName) => TASKS[task].seconds,
    private readonly heapMb = MOST_HEAP_MB,
  ) {}

  ask<K extends TaskName>(task: K, input: Input<K>, asking: Asking = {}): Promise<Output<K>> {
    const thread = this.threadOf(TASKS[task].lane);
    return new Promise((resolve, reject) => thread.add({ task, input, asking, resolve: resolve as (value: unknown) => void, reject }));
  }

  private threadOf(lane: Lane): Thread {
    const thread = this.threads.get(lane) ?? new Thread(this.entry, this.secondsOf, this.heapMb);
    this.threads.set(lane, thread);
    return thread;
  }

  async close(): Promise<void> {
    await Promise.all([...this.threads.values()].map((thread) => thread.close()));
  }
}
