import type { RunResult } from "../../core/assessment/evidence.ts";
import type { RunSettings } from "../../core/problems/runSettings.ts";
import type { HistoryColumn } from "../db/schema.ts";

export interface WorkerTask {
  readonly settings: RunSettings;
  /** one 32-bit integer: 0 go on, 1 stop and keep */
  readonly signal: SharedArrayBuffer;
}

/** What a solver worker says, plain data only. */
export type WorkerMessage =
  | { readonly type: "ready"; readonly columns: HistoryColumn[]; readonly starts: Record<string, number> }
  | { readonly type: "climbing"; readonly cells: number; readonly left: number }
  | { readonly type: "rows"; readonly rows: number[][] }
  | { readonly type: "field"; readonly iteration: number; readonly speed: Float32Array }
  | {
      readonly type: "done";
      readonly state: "done" | "stopped";
      readonly reachedTarget: boolean;
      readonly result: RunResult;
      readonly fields: { name: string; unit: string; values: Float64Array }[];
      readonly seconds: number;
    }
  | { readonly type: "failed"; readonly state: "diverged" | "failed"; readonly sentence: string; readonly seconds: number };
