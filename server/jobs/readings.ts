import { randomUUID } from "node:crypto";
import path from "node:path";
import { Worker } from "node:worker_threads";
import type { FileProblem } from "../../core/formats/delimited.ts";
import type { Sheet } from "../../core/formats/sheet.ts";
import { applicationFolder } from "../config.ts";
import type { ReadResult } from "../reading/result.ts";
import type { ReaderTask } from "./readerWorker.ts";

/** A file being read, or read and not yet brought in. */
export interface Reading {
  readonly id: string;
  readonly name: string;
  /** where the bytes lie */
  readonly path: string;
  /** blob of an uploaded file; a log on the server has none yet */
  readonly hash?: string;
  state: "reading" | "done" | "refused" | "stopped";
  read: number;
  total: number;
  rows: number;
  sheet?: Sheet;
  sheets?: readonly string[];
  problems: readonly FileProblem[];
  touched: number;
  /** when it last got further */
  movedAt: number;
}

interface Held {
  readonly readings: Map<string, Reading>;
  readonly signals: Map<string, Int32Array>;
  readonly workers: Map<string, Worker>;
  watch?: ReturnType<typeof setInterval>;
}

const held = globalThis as unknown as { tinRulerReadings?: Held };
const kept = (): Held => {
  held.tinRulerReadings ??= { readings: new Map(), signals: new Map(), workers: new Map() };
  return held.tinRulerReadings;
};

/** a reading nobody asks for is forgotten after this time */
const FORGET_MS = 30 * 60_000;
const MOST_READINGS = 6;
/** files read and not yet brought in: each holds its numbers in memory */
const MOST_HELD = 10;
/** a reading that gets no further for this long never will */
const STALLED_MS = 120_000;
const LOOK_MS = 10_000;
/** a reading that was told to end has this long to do so by itself */
const ENDING_MS = 2000;
const MOST_HEAP_MB = 1500;

/** Forgets what nobody has asked for in a long time, and the oldest where there are too many; ends readings that hang. */
export function tidyReadings(now = Date.now()): void {
  const { readings, workers } = kept();
  for (const r of readings.values()) {
    if (r.state !== "reading" || now - r.movedAt < STALLED_MS) continue;
    Object.assign(r, { state: "refused", problems: [{ line: 1, sentence: STALLED }] });
    void workers.get(r.id)?.terminate();
  }
  const idle = [...readings.values()].filter((r) => r.state !== "reading").sort((a, b) => b.touched - a.touched);
  for (const [k, r] of idle.entries()) if (k >= MOST_HELD || now - r.touched > FORGET_MS) dropReading(r.id);
}

const STALLED = `The file could not be read any further for ${STALLED_MS / 60_000} minutes; it may be damaged. Save it again, or export it as CSV.`;

/** Begins to read a file on a thread of its own. @throws {RangeError} Too many are being read at once. */
export function startReading(
  file: { readonly name: string; readonly path: string; readonly hash?: string; readonly sheet?: string },
  entry = path.join(/*turbopackIgnore: true*/ applicationFolder(), "dist/workers/reader.mjs"),
): Reading {
  const store = kept();
  const { readings, signals, workers } = store;
  tidyReadings();
  store.watch ??= setInterval(() => tidyReadings(), LOOK_MS).unref();
  const busy = [...readings.values()].filter((r) => r.state === "reading").length;
  if (busy >= MOST_READINGS) throw new RangeError("Several files are being read already; wait for one of them.");
  const { name, hash } = file;
  const reading: Reading = {
    id: randomUUID(),
    name,
    path: file.path,
    hash,
    state: "reading",
    read: 0,
    total: 0,
    rows: 0,
    problems: [],
    touched: Date.now(),
    movedAt: Date.now(),
  };
  readings.set(reading.id, reading);
  const signal = new SharedArrayBuffer(4);
  signals.set(reading.id, new Int32Array(signal));
  const task: ReaderTask = { path: file.path, name, sheet: file.sheet, signal };
  const worker = new Worker(entry, { workerData: task, resourceLimits: { maxOldGenerationSizeMb: MOST_HEAP_MB } });
  workers.set(reading.id, worker);
  const broke = (sentence: string) => {
    if (reading.state !== "reading") return;
    reading.state = "refused";
    reading.problems = [{ line: 1, sentence }];
  };
  worker.on("message", (m: { type: "progress"; read: number; total: number; rows: number } | { type: "done"; result: ReadResult }) => {
    if (m.type === "progress") Object.assign(reading, { read: m.read, total: m.total, rows: m.rows, movedAt: Date.now() });
    else finish(reading, m.result);
  });
  worker.on("error", (error) => broke(`The file could not be read: ${error.message}`));
  worker.on("exit", () => workers.delete(reading.id));
  worker.on("exit", () => broke("The reading broke off: the file needs more memory than there is. Thin it, or leave columns out."));
  return reading;
}

function finish(reading: Reading, result: ReadResult): void {
  if (result.stopped) reading.state = "stopped";
  else if (!result.ok) Object.assign(reading, { state: "refused", problems: result.problems });
  else Object.assign(reading, { state: "done", sheet: result.sheet, rows: result.sheet.rows, read: reading.total });
  reading.sheets = result.sheets;
}

/** Files of all readings at hand: they are named by no table yet. */
export const readingHashes = (): string[] => [...kept().readings.values()].flatMap((r) => r.hash ?? []);

export function findReading(id: string): Reading | undefined {
  const found = kept().readings.get(id);
  if (found) found.touched = Date.now();
  return found;
}

/** Stops a reading under way and forgets it. Its file stays until a sweep finds that nothing names it: others may have stored the same bytes. */
export function dropReading(id: string): void {
  const { readings, signals, workers } = kept();
  const signal = signals.get(id);
  if (signal) Atomics.store(signal, 0, 1);
  // One that hangs in a damaged file does not see the signal.
  const worker = workers.get(id);
  if (worker) setTimeout(() => void worker.terminate(), ENDING_MS).unref();
  readings.delete(id);
  signals.delete(id);
}
