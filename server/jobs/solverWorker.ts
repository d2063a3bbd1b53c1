import { parentPort, workerData } from "node:worker_threads";
import { BenchJob } from "../../core/problems/benchJob.ts";
import type { WorkerMessage, WorkerTask } from "./messages.ts";

const ROWS_EVERY_MS = 120;
const FIELD_EVERY_MS = 400;

const say = (message: WorkerMessage) => parentPort?.postMessage(message);

function work({ settings, signal }: WorkerTask): void {
  const began = performance.now();
  const seconds = () => (performance.now() - began) / 1000;
  const stop = new Int32Array(signal);
  const job = new BenchJob(settings);
  say({ type: "ready", columns: job.columns, starts: job.starts });
  let rows: number[][] = [];
  let rowsAt = 0;
  let fieldAt = 0;
  let climbing = 0;
  const flush = () => {
    if (rows.length) say({ type: "rows", rows });
    rows = [];
    rowsAt = performance.now();
  };
  while (job.underWay && Atomics.load(stop, 0) === 0) {
    const at = job.flow.climbing;
    if (at && at.cells !== climbing) {
      climbing = at.cells;
      say({ type: "climbing", ...at });
    }
    const row = job.step();
    if (!row) continue;
    rows.push(row);
    if (performance.now() - rowsAt > ROWS_EVERY_MS) flush();
    if (performance.now() - fieldAt > FIELD_EVERY_MS) {
      fieldAt = performance.now();
      say({ type: "field", iteration: row[0], speed: job.speed() });
    }
  }
  flush();
  if (job.flow.state === "diverged") {
    say({
      type: "failed",
      state: "diverged",
      seconds: seconds(),
      sentence: `The residuals grew beyond bounds at iteration ${job.flow.history.length}. Refine the mesh, take a scheme with more damping, or check viscosity and velocity.`,
    });
    return;
  }
  if (job.flow.history.length === 0) {
    say({
      type: "failed",
      state: "failed",
      seconds: seconds(),
      sentence: "Stopped on a coarser mesh, before the first iteration on its own: there is nothing to keep.",
    });
    return;
  }
  if (job.underWay) job.flow.finish();
  const { u, v, p } = job.flow.finest;
  const density = settings.parameters.densityKgM3;
  say({ type: "field", iteration: job.flow.history.length, speed: job.speed() });
  say({
    type: "done",
    state: Atomics.load(stop, 0) === 0 ? "done" : "stopped",
    reachedTarget: job.flow.state === "reached-target",
    result: job.result(),
    fields: [
      { name: "u", unit: "m/s", values: u },
      { name: "v", unit: "m/s", values: v },
      { name: "p", unit: "Pa", values: p.map((q) => q * density) },
    ],
    seconds: seconds(),
  });
}

try {
  work(workerData as WorkerTask);
} catch (error) {
  say({ type: "failed", state: "failed", seconds: 0, sentence: error instanceof Error ? error.message : String(error) });
}
