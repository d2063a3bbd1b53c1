import type { FaceMesh } from "@/core/mesh/faceMesh";
import { asker } from "./asker";
import { type Kind, MESHES_KEPT, type Questions, type SentMesh } from "./asks";

/** numbers of the meshes the worker has at hand, the one used last at the end */
let sent: readonly (readonly [FaceMesh, number])[] = [];
let next = 1;

const put = asker(
  () => new Worker(new URL("./engine.worker.ts", import.meta.url), { type: "module" }),
  "The part that computes meshes and fields broke off. Try again.",
  () => {
    sent = [];
  },
);

/** A mesh as it is sent: by its number alone where the worker has it. Both sides drop the one that was used longest ago. */
function sentMesh(mesh: FaceMesh): SentMesh {
  const known = sent.find(([m]) => m === mesh);
  const number = known?.[1] ?? next++;
  sent = [...sent.filter(([m]) => m !== mesh), [mesh, number] as const].slice(-MESHES_KEPT);
  return known ? { number } : { number, mesh };
}

/** Asks the page's worker: meshes, slopes and what rests on them are never computed on the page's own thread. */
export function ask<K extends Kind>(kind: K, question: Questions[K]["ask"]): Promise<Questions[K]["answer"]> {
  return put(kind, () => {
    const { mesh } = question as { mesh?: FaceMesh };
    return mesh ? { ...question, mesh: sentMesh(mesh) } : question;
  });
}
