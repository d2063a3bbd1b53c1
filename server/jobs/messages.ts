import type { KeptMoment, RunStatus, StartResult } from "../../core/problems/build/benchJob.ts";
import type { RunSettings } from "../../core/problems/describe/runSettings.ts";
import type { RunResult } from "../../core/records/run.ts";
import type { HistoryColumn } from "../db/schema.ts";

/** What whoever computes a run is told between two iterations. */
export const GO_ON = 0;
export const STOP_AND_KEEP = 1;
export const PAUSE = 2;

export interface WorkerTask {
  readonly settings: RunSettings;
  /** two 32-bit integers: GO_ON, STOP_AND_KEEP or PAUSE, and which field to show */
  readonly signal: SharedArrayBuffer;
  /** the state it goes on from, as `packCheckpoint` writes it */
  readonly checkpoint?: Uint8Array;
  /** the result the run starts from */
  readonly start?: StartResult;
}

/** What a solver worker says, plain data only. */
export type WorkerMessage =
  | { readonly type: "ready"; readonly columns: HistoryColumn[]; readonly starts: Record<string, number>; readonly fieldNames: string[] }
  /** nothing to tell, but at work */
  | { readonly type: "alive" }
  | { readonly type: "climbing"; readonly cells: number; readonly left: number }
  /** rows of the record, the first of which is row number `from`, counted from 0 and from the beginning of the run */
  | { readonly type: "rows"; readonly from: number; readonly rows: number[][]; readonly starts: Record<string, number> }
  | { readonly type: "status"; readonly status: RunStatus }
  | { readonly type: "field"; readonly iteration: number; readonly name: string; readonly values: Float32Array }
  /** the fields at a time that is kept; told twice it is stored once */
  | ({ readonly type: "moment" } & KeptMoment)
  | { readonly type: "checkpoint"; readonly data: Uint8Array }
  | { readonly type: "paused"; readonly seconds: number }
  | {
      readonly type: "done";
      readonly state: "done" | "stopped";
      readonly note?: string;
      readonly result: RunResult;
      readonly fields: { name: string; unit: string; values: Float64Array }[];
      /** the mesh they lie on, as `packMesh` writes it */
      readonly mesh?: Uint8Array;
      readonly seconds: number;
    }
  | { readonly type: "failed"; readonly state: "diverged" | "failed"; readonly sentence: string; readonly seconds: number };
