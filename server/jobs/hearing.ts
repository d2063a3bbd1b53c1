import type { Store } from "../db/store.ts";
import { addRows, endLeased, type Left } from "../repositories/leases.ts";
import type { RunRow } from "../repositories/runs.ts";
import type { RunEvent } from "./events.ts";
import { fieldEvent, type Live } from "./liveRun.ts";
import type { WorkerMessage } from "./messages.ts";
import { keepCheckpoint, keepMoment, storedFields, storedRows } from "./runFiles.ts";

/** A later attempt at the run has begun, or it was stopped elsewhere: nothing of what is told counts. */
export class LeaseLost extends Error {}

/** Rows are missing between those stored and those told. */
export class RowsLost extends Error {}

/** Does a write that is refused when the lease no longer stands. @throws {LeaseLost} */
async function leased(write: Promise<boolean>): Promise<void> {
  if (!(await write)) throw new LeaseLost();
}

type Rows = Extract<WorkerMessage, { type: "rows" }>;

/** Stores rows by their number. Those that are stored already are passed over: whoever told them may not have heard the answer. */
async function hearRows({ db }: Store, live: Live, m: Rows): Promise<RunEvent | undefined> {
  if (m.from > live.rows) throw new RowsLost(`Rows ${live.rows} to ${m.from - 1} of the record never came.`);
  const rows = m.rows.slice(live.rows - m.from);
  live.climbing = undefined;
  live.starts = m.starts;
  if (!rows.length) return undefined;
  const from = live.rows;
  await leased(addRows(db, live.run, { sequence: from, columns: live.columns, rows, starts: m.starts }));
  live.rows += rows.length;
  return { type: "rows", runId: live.run.id, from, columns: live.columns, rows, starts: m.starts };
}

/** What a message of the end means for the run and what it leaves behind. */
async function leaving(opened: Store, live: Live, m: WorkerMessage): Promise<Left | undefined> {
  switch (m.type) {
    case "paused":
      return { change: { state: "paused", seconds: m.seconds, leasedBy: null, leaseUntil: null } };
    case "done": {
      const ended = { state: m.state, result: m.result, seconds: m.seconds, failure: m.note ?? null };
      return {
        fields: await storedFields(opened, live.run.id, m.fields, m.mesh),
        change: { ...ended, ...(m.state === "stopped" ? {} : { checkpoint: null }) },
      };
    }
    case "failed":
      return { change: { state: m.state, failure: m.sentence, seconds: m.seconds, checkpoint: null } };
    default:
      return undefined;
  }
}

/** Ends a run: bytes first, then record, fields and state in one. @throws {LeaseLost} */
export async function endRun(opened: Store, live: Live, { change, ...left }: Left): Promise<Partial<RunRow>> {
  const finished = change.state === "paused" ? {} : { finishedAt: new Date() };
  const whole = { ...change, ...finished, iterations: live.rows };
  await leased(endLeased(opened.db, live.run, { ...left, record: await storedRows(opened, live.run.id), change: whole }));
  return whole;
}

interface Heard {
  /** what the pages are told */
  readonly event?: RunEvent | undefined;
  /** how the run ended */
  readonly ended?: Partial<RunRow>;
}

/**
 * Stores what a worker or a node tells of a run.
 * @throws {LeaseLost} the run is no longer its own
 * @throws {RowsLost} something never came
 */
export async function hear(opened: Store, live: Live, m: WorkerMessage): Promise<Heard> {
  const { run } = live;
  switch (m.type) {
    case "ready":
      Object.assign(live, { columns: m.columns, starts: m.starts, fieldNames: m.fieldNames });
      return {};
    case "alive":
      return {};
    case "climbing":
      live.climbing = { cells: m.cells, left: m.left };
      return { event: { type: "climbing", runId: run.id, cells: m.cells, left: m.left } };
    case "rows":
      return { event: await hearRows(opened, live, m) };
    case "status":
      live.lastStatus = { type: "status", runId: run.id, status: m.status };
      return { event: live.lastStatus };
    case "field":
      live.lastField = fieldEvent(live, m);
      return { event: live.lastField };
    case "moment":
      await leased(keepMoment(opened, run, m));
      return {};
    case "checkpoint":
      await leased(keepCheckpoint(opened, run, m.data));
      live.gotFurther = true;
      return {};
    default: {
      const left = await leaving(opened, live, m);
      return left ? { ended: await endRun(opened, live, left) } : {};
    }
  }
}
