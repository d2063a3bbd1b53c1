import type { RunRow } from "../repositories/runs.ts";
import { GO_ON, type WorkerMessage } from "./messages.ts";

/**
 * A worker that plays what the run's label tells it: messages in turn, "crash", "throw", "wait" until it is told to stop or pause. So the bench is
 * tested without a solver.
 */
export const PLAYER = `
import { parentPort } from "node:worker_threads";
const workerData = await new Promise((take) => parentPort.once("message", take));
export const signal = new Int32Array(workerData.signal);
export const sleep = (ms) => new Promise((r) => setTimeout(r, ms));
let told = 0;
for (const m of JSON.parse(workerData.settings.code)) {
  if (m === "crash") process.exit(3);
  if (m === "throw") throw new Error("out of paper");
  if (m === "wait") { while (Atomics.load(signal, 0) === ${GO_ON}) await sleep(2); continue; }
  if (m === "hang") { await sleep(1e6); }
  if (m === "start") { parentPort.postMessage({ type: "failed", state: "failed", sentence: JSON.stringify([workerData.checkpoint ? [...workerData.checkpoint] : null, workerData.start ? [workerData.start.mesh && [...workerData.start.mesh], ...workerData.start.fields.map((f) => [f.name, ...f.values])] : null]), seconds: 0 }); continue; }
  if (m === "shown") { parentPort.postMessage({ type: "failed", state: "failed", sentence: "shown " + Atomics.load(signal, 1), seconds: 0 }); continue; }
  if (m.fields) m.fields = m.fields.map((f) => ({ ...f, values: (m.type === "moment" ? Float32Array : Float64Array).from(f.values) }));
  if (m.type === "checkpoint") m.data = Uint8Array.from(m.data);
  if (m.mesh) m.mesh = Uint8Array.from(m.mesh);
  if (m.type === "rows") { m.from ??= told; told = m.from + m.rows.length; }
  if (m.type === "field") m.values = Float32Array.from(m.values);
  parentPort.postMessage(m);
}
await sleep(5);
`;

export type Step = WorkerMessage | "crash" | "throw" | "wait" | "hang" | "start" | "shown";
export const READY: WorkerMessage = {
  type: "ready",
  columns: [
    { role: "iteration", key: "iteration" },
    { role: "residual", key: "mass" },
  ],
  starts: { mass: 4 },
  fieldNames: ["u", "p"],
};
export const rowsFrom = (from: number, ...values: number[][]): WorkerMessage => ({ type: "rows", from, rows: values, starts: { mass: 8 } });
/** Rows that follow on those the worker told before. */
export const rows = (...values: number[][]): WorkerMessage => rowsFrom(undefined as unknown as number, ...values);
export const RESULT = { quantities: { q1: 7 }, profiles: [], errorNorms: [] };
export const done = (state: "done" | "stopped" = "done", note?: string): WorkerMessage => ({
  type: "done",
  state,
  ...(note ? { note } : {}),
  result: RESULT,
  fields: [{ name: "u", unit: "m/s", values: Float64Array.of(1.5, 2.5) }],
  seconds: 3,
});
export const CHECKPOINT = Uint8Array.of(5, 0, 255);

/** What a worker is to play, as the run carries it. */
export const plain = (steps: readonly Step[]) => JSON.stringify(steps, (_, v) => (ArrayBuffer.isView(v) ? Array.from(v as Uint8Array) : v));
export const SETTINGS: RunRow["settings"] = {
  problemId: "plates",
  parameters: {},
  numerics: { scheme: "central", dropOrders: 6, maxIterations: 10 },
  mesh: { cells: 1, spacingM: 1, dimension: 2 },
  code: "",
};
