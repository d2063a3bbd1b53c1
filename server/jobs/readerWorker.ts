import { parentPort, workerData } from "node:worker_threads";
import { readRecordFile } from "../reading/readFile.ts";
import { NICENESS, standBack } from "./niceness.ts";

/** Reads one file on a thread of its own; the signal's first word ends it. */
export interface ReaderTask {
  readonly path: string;
  readonly name: string;
  readonly sheet?: string;
  readonly signal: SharedArrayBuffer;
}

const PAUSE_MS = 100;

standBack(NICENESS.reader);
const { path, name, sheet, signal } = workerData as ReaderTask;
const flag = new Int32Array(signal);
let told = 0;
const result = await readRecordFile(path, name, {
  sheet,
  stopped: () => Atomics.load(flag, 0) !== 0,
  progress: (p) => {
    if (Date.now() - told < PAUSE_MS) return;
    told = Date.now();
    parentPort?.postMessage({ type: "progress", ...p });
  },
});
/** Numbers that every thread reads where they are: columns of millions need not be sent about. */
function shared(values: Float64Array): Float64Array {
  const out = new Float64Array(new SharedArrayBuffer(values.byteLength));
  out.set(values);
  return out;
}

const sent = result.ok
  ? { ...result, sheet: { ...result.sheet, columns: result.sheet.columns.map(shared), lines: shared(result.sheet.lines) } }
  : result;
parentPort?.postMessage({ type: "done", result: sent });
