import { parentPort } from "node:worker_threads";
import { BenchJob } from "../../core/problems/build/benchJob.ts";
import { packCheckpoint, unpackCheckpoint } from "../../core/solver/checkpointFile.ts";
import { packMesh } from "../../core/solver/meshFile.ts";
import { GO_ON, PAUSE, STOP_AND_KEEP, type WorkerMessage, type WorkerTask } from "./messages.ts";
import { NICENESS, standBack } from "./niceness.ts";

const ROWS_EVERY_MS = 120;
const FIELD_EVERY_MS = 400;
const STATUS_EVERY_MS = 700;
const CHECKPOINT_EVERY_MS = 15_000;
const ALIVE_EVERY_MS = 5000;

const say = (message: WorkerMessage) => parentPort?.postMessage(message);

function work({ settings, signal, checkpoint: bytes, start }: WorkerTask): void {
  const checkpoint = bytes && unpackCheckpoint(bytes);
  const began = performance.now();
  const before = typeof checkpoint?.seconds === "number" ? checkpoint.seconds : 0;
  const seconds = () => before + (performance.now() - began) / 1000;
  const control = new Int32Array(signal);
  const told = () => Atomics.load(control, 0);
  const job = new BenchJob(settings, start);
  let rows: number[][] = [];
  if (checkpoint) {
    job.restore(checkpoint);
    rows = job.rows.map((r) => [...r]);
  }
  say({ type: "ready", columns: [...job.columns], starts: job.starts, fieldNames: job.fieldNames });
  const due = { rows: 0, field: 0, status: 0, alive: 0, checkpoint: performance.now() };
  let climbing = 0;
  let note: string | undefined;
  let from = 0;
  const flush = () => {
    if (rows.length) say({ type: "rows", from, rows, starts: job.starts });
    from += rows.length;
    rows = [];
    due.rows = performance.now();
  };
  const keep = () => {
    const data = packCheckpoint({ ...job.save(), seconds: seconds() });
    // Handed over, not copied.
    parentPort?.postMessage({ type: "checkpoint", data } satisfies WorkerMessage, [data.buffer as ArrayBuffer]);
  };
  const show = () => {
    const index = Atomics.load(control, 1);
    say({ type: "field", iteration: job.simulation.iterations, name: job.fieldNames[index] ?? "speed", values: job.field(index) });
    due.field = performance.now();
  };
  while (job.underWay && told() === GO_ON) {
    const at = job.simulation.climbing;
    if (at && at.cells !== climbing) {
      climbing = at.cells;
      say({ type: "climbing", ...at });
    }
    const row = job.step();
    if (row) rows.push(row);
    const moment = row && job.dueMoment();
    if (moment) say({ type: "moment", ...moment });
    const now = performance.now();
    if (now - due.alive > ALIVE_EVERY_MS) {
      due.alive = now;
      say({ type: "alive" });
    }
    if (now - due.rows > ROWS_EVERY_MS) flush();
    if (row && now - due.field > FIELD_EVERY_MS) show();
    if (row && now - due.status > STATUS_EVERY_MS) {
      due.status = now;
      say({ type: "status", status: job.status(seconds()) });
      note = job.stopReason(seconds());
      if (note) break;
    }
    if (now - due.checkpoint > CHECKPOINT_EVERY_MS) {
      due.checkpoint = now;
      keep();
    }
  }
  flush();
  if (job.underWay && told() === PAUSE) {
    keep();
    say({ type: "paused", seconds: seconds() });
    return;
  }
  // A run that was stopped can be taken up again where it stood.
  if (job.underWay && job.simulation.iterations > 0) keep();
  finish(job, told() === STOP_AND_KEEP || note !== undefined, note, seconds, show);
}

function finish(job: BenchJob, stopped: boolean, note: string | undefined, seconds: () => number, show: () => void): void {
  const { simulation } = job;
  if (simulation.state === "diverged") {
    const sentence =
      simulation.reason ??
      `The residuals grew beyond bounds at iteration ${simulation.iterations}. Refine the mesh, take a scheme with more damping, or check viscosity and velocity.`;
    say({ type: "failed", state: "diverged", seconds: seconds(), sentence });
    return;
  }
  if (simulation.iterations === 0) {
    const sentence = "Stopped on a coarser mesh, before the first iteration on its own: there is nothing to keep.";
    say({ type: "failed", state: "failed", seconds: seconds(), sentence });
    return;
  }
  if (job.underWay) simulation.finish();
  show();
  say({
    type: "done",
    state: stopped ? "stopped" : "done",
    note: note ?? simulation.reason,
    result: job.result(),
    fields: simulation.fields().map((f) => ({ ...f })),
    mesh: packMesh(job.mesh),
    seconds: seconds(),
  });
}

standBack(NICENESS.solver);
parentPort?.once("message", (task: WorkerTask) => {
  try {
    work(task);
  } catch (error) {
    say({ type: "failed", state: "failed", seconds: 0, sentence: error instanceof Error ? error.message : String(error) });
  }
});
