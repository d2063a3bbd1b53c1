import { EventEmitter } from "node:events";
import type { RunStatus } from "../../core/problems/build/benchJob.ts";

/** What a page hears of a run under way. */
export type RunEvent =
  | { readonly type: "state"; readonly runId: string; readonly state: string; readonly failure?: string }
  | {
      readonly type: "rows";
      readonly runId: string;
      /** index of the first of these rows: 0 begins the record anew */
      readonly from: number;
      readonly columns: readonly { readonly role: string; readonly key: string }[];
      readonly rows: readonly (readonly number[])[];
      /** starting levels of the residuals */
      readonly starts: Readonly<Record<string, number>>;
    }
  | { readonly type: "climbing"; readonly runId: string; readonly cells: number; readonly left: number }
  | { readonly type: "status"; readonly runId: string; readonly status: RunStatus }
  | {
      readonly type: "field";
      readonly runId: string;
      readonly iteration: number;
      readonly name: string;
      readonly names: readonly string[];
      /** one value a cell, little-endian 32-bit floats, base64 */
      readonly values: string;
    };

const held = globalThis as unknown as { tinRulerEvents?: EventEmitter };

function emitter(): EventEmitter {
  held.tinRulerEvents ??= new EventEmitter().setMaxListeners(200);
  return held.tinRulerEvents;
}

const ALL = "every case";

export function publish(caseId: string, event: RunEvent): void {
  emitter().emit(caseId, event);
  emitter().emit(ALL, caseId, event);
}

/** @returns a function that ends the subscription */
export function subscribe(caseId: string, listener: (event: RunEvent) => void): () => void {
  emitter().on(caseId, listener);
  return () => emitter().off(caseId, listener);
}

/** Hears what happens to the runs of all cases. @returns a function that ends the subscription */
export function subscribeAll(listener: (caseId: string, event: RunEvent) => void): () => void {
  emitter().on(ALL, listener);
  return () => emitter().off(ALL, listener);
}
