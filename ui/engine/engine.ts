import type { FaceMesh } from "@/core/mesh/faceMesh";
import { type Answered, type Asked, type Kind, type Questions, SAME_MESH } from "./asks";

/** What the worker could not do, in its words. */
export class EngineError extends Error {}

interface Waiting {
  readonly resolve: (answer: never) => void;
  readonly reject: (error: EngineError) => void;
}

let worker: Worker | undefined;
let next = 1;
/** the mesh the worker has at hand */
let sent: FaceMesh | undefined;
const waiting = new Map<number, Waiting>();

function open(): Worker {
  if (worker) return worker;
  worker = new Worker(new URL("./engine.worker.ts", import.meta.url), { type: "module" });
  worker.onmessage = ({ data }: MessageEvent<Answered>) => {
    const found = waiting.get(data.id);
    waiting.delete(data.id);
    if (data.ok) found?.resolve(data.answer as never);
    else found?.reject(new EngineError(data.sentence));
  };
  worker.onerror = (e) => {
    // A worker that broke answers nobody: everyone who waits is told, and the next question opens another.
    for (const w of waiting.values()) w.reject(new EngineError(e.message || "The part that computes meshes and fields broke off. Try again."));
    waiting.clear();
    worker?.terminate();
    worker = undefined;
    sent = undefined;
  };
  return worker;
}

/** Asks the page's worker: meshes, slopes and what rests on them are never computed on the page's own thread. */
export function ask<K extends Kind>(kind: K, question: Questions[K]["ask"]): Promise<Questions[K]["answer"]> {
  return new Promise((resolve, reject) => {
    const id = next++;
    waiting.set(id, { resolve: resolve as (answer: never) => void, reject });
    const to = open();
    const { mesh } = question as { mesh?: FaceMesh };
    const known = mesh !== undefined && mesh === sent;
    if (mesh) sent = mesh;
    to.postMessage({ id, kind, ask: known ? { ...question, mesh: SAME_MESH } : question } as unknown as Asked);
  });
}
