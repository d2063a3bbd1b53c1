import { EventEmitter } from "node:events";

/** What a page hears of a run under way. */
export type RunEvent =
  | { readonly type: "state"; readonly runId: string; readonly state: string; readonly failure?: string }
  | {
      readonly type: "rows";
      readonly runId: string;
      readonly from: number;
      readonly rows: readonly (readonly number[])[] /** starting levels of the residuals */;
      readonly starts: Readonly<Record<string, number>>;
    }
  | { readonly type: "climbing"; readonly runId: string; readonly cells: number; readonly left: number }
  | {
      readonly type: "field";
      readonly runId: string;
      readonly iteration: number /** speed of every cell, little-endian 32-bit floats, base64 */;
      readonly speed: string;
    };

const held = globalThis as unknown as { tinRulerEvents?: EventEmitter };

function emitter(): EventEmitter {
  held.tinRulerEvents ??= new EventEmitter().setMaxListeners(200);
  return held.tinRulerEvents;
}

export function publish(caseId: string, event: RunEvent): void {
  emitter().emit(caseId, event);
}

/** @returns a function that ends the subscription */
export function subscribe(caseId: string, listener: (event: RunEvent) => void): () => void {
  emitter().on(caseId, listener);
  return () => emitter().off(caseId, listener);
}
