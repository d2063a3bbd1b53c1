import path from "node:path";
import { Worker } from "node:worker_threads";
import { applicationFolder } from "../config.ts";
import { UseCaseError } from "../usecases/failure.ts";
import type { Asking, Desk } from "./desk.ts";
import { type DeskMessage, readError } from "./messages.ts";
import type { Input, Output, TaskName } from "./tasks.ts";

interface Place {
  /** tasks of one lane follow one another on one thread, which keeps what it has read */
  readonly lane: "assessing" | "papers" | "records";
  readonly seconds: number;
  readonly what: string;
}

/** Where each task is done, and how long it may take. */
const PLACES: Readonly<Record<TaskName, Place>> = {
  yardsticks: { lane: "assessing", seconds: 30, what: "Working the exact solution out" },
  planMesh: { lane: "assessing", seconds: 60, what: "Making the mesh" },
  assess: { lane: "assessing", seconds: 180, what: "The assessment" },
  report: { lane: "papers", seconds: 600, what: "The report" },
  fieldFile: { lane: "papers", seconds: 120, what: "Writing the fields" },
  thin: { lane: "records", seconds: 60, what: "Reading the record" },
  recordFile: { lane: "records", seconds: 120, what: "Writing the record" },
  recordPictures: { lane: "records", seconds: 120, what: "Drawing the record" },
  previewSheet: { lane: "records", seconds: 60, what: "Looking at the file" },
  previewTexts: { lane: "records", seconds: 60, what: "Looking at the file" },
  checkSheet: { lane: "records", seconds: 60, what: "Checking the file" },
  columnPicture: { lane: "records", seconds: 60, what: "Drawing the column" },
  readConfirmed: { lane: "records", seconds: 300, what: "Reading the file" },
};

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
class Lane {
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
      else this.end((job) => job.reject(readError(m.error)));
    });
    const lost = (error: Error) => {
      if (this.worker !== worker) return;
      this.worker = undefined;
      this.end((job) => job.reject(error));
    };
    worker.on("error", (error: Error & { code?: string }) => {
      const memory = error.code === "ERR_WORKER_OUT_OF_MEMORY" && this.current;
      lost(memory ? new UseCaseError("invalid", `${PLACES[memory.task].what} needs more memory than ${this.heapMb} MB and was ended.`) : error);
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
const tooLong = (task: TaskName, seconds: number) => `${PLACES[task].what} took longer than ${seconds} s and was ended; nothing was stored.`;

/** Carries tasks out on threads that stay warm, so that whoever else asks the server something does not wait for them. */
export class ThreadDesk implements Desk {
  private readonly lanes = new Map<Place["lane"], Lane>();

  constructor(
    private readonly entry = path.join(/*turbopackIgnore: true*/ applicationFolder(), "dist/workers/desk.mjs"),
    private readonly secondsOf = (task: TaskName) => PLACES[task].seconds,
    private readonly heapMb = MOST_HEAP_MB,
  ) {}

  ask<K extends TaskName>(task: K, input: Input<K>, asking: Asking = {}): Promise<Output<K>> {
    const { lane } = PLACES[task];
    let at = this.lanes.get(lane);
    if (!at) {
      at = new Lane(this.entry, this.secondsOf, this.heapMb);
      this.lanes.set(lane, at);
    }
    const to = at;
    return new Promise((resolve, reject) => to.add({ task, input, asking, resolve: resolve as (value: unknown) => void, reject }));
  }

  async close(): Promise<void> {
    await Promise.all([...this.lanes.values()].map((lane) => lane.close()));
  }
}
