import type { Worker } from "node:worker_threads";
import type { HistoryColumn } from "../db/schema.ts";
import type { RunRow } from "../repositories/runs.ts";
import type { RunEvent } from "./events.ts";
import { GO_ON, type WorkerMessage } from "./messages.ts";

/** A run that is being computed now, by a worker of this process or by a node. */
export interface Live {
  readonly run: RunRow;
  readonly by: { readonly worker: Worker; readonly signal: Int32Array } | { readonly node: string };
  control: number;
  fieldIndex: number;
  columns: HistoryColumn[];
  fieldNames: string[];
  starts: Record<string, number>;
  /** rows stored */
  rows: number;
  /** it left a state to go on from since it was begun */
  gotFurther: boolean;
  /** when it last said anything */
  heardAt: number;
  lastField?: Extract<RunEvent, { type: "field" }>;
  lastStatus?: Extract<RunEvent, { type: "status" }>;
  climbing?: { cells: number; left: number };
  /** database work of this run, one after the other */
  chain: Promise<void>;
  ended: boolean;
}

export const newLive = (run: RunRow, by: Live["by"]): Live => ({
  run,
  by,
  control: GO_ON,
  fieldIndex: 0,
  columns: [],
  fieldNames: [],
  starts: {},
  rows: 0,
  gotFurther: false,
  heardAt: Date.now(),
  chain: Promise.resolve(),
  ended: false,
});

/** A field as pages are told of it. */
export const fieldEvent = (live: Live, m: Extract<WorkerMessage, { type: "field" }>): Extract<RunEvent, { type: "field" }> => ({
  type: "field",
  runId: live.run.id,
  iteration: m.iteration,
  name: m.name,
  names: live.fieldNames,
  values: Buffer.from(m.values.buffer, m.values.byteOffset, m.values.byteLength).toString("base64"),
});

/** What a page that has just begun to listen is told of a run. */
export const lastEvents = (l: Live): RunEvent[] => [
  ...(l.climbing ? [{ type: "climbing" as const, runId: l.run.id, ...l.climbing }] : []),
  ...(l.lastStatus ? [l.lastStatus] : []),
  ...(l.lastField ? [l.lastField] : []),
];
