import type { FaceMesh } from "@/core/mesh/faceMesh";
import { asker } from "./asker";
import { type Kind, type Questions, SAME_MESH } from "./asks";

/** the mesh the worker has at hand */
let sent: FaceMesh | undefined;

const put = asker(
  () => new Worker(new URL("./engine.worker.ts", import.meta.url), { type: "module" }),
  "The part that computes meshes and fields broke off. Try again.",
  () => {
    sent = undefined;
  },
);

/** Asks the page's worker: meshes, slopes and what rests on them are never computed on the page's own thread. */
export function ask<K extends Kind>(kind: K, question: Questions[K]["ask"]): Promise<Questions[K]["answer"]> {
  return put(kind, () => {
    const { mesh } = question as { mesh?: FaceMesh };
    const known = mesh !== undefined && mesh === sent;
    if (mesh) sent = mesh;
    return known ? { ...question, mesh: SAME_MESH } : question;
  });
}
