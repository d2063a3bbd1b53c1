import { asker } from "../../engine/asker";
import type { VolumeKind, VolumeQuestions } from "./asks";

const put = asker(
  () => new Worker(new URL("./volume.worker.ts", import.meta.url), { type: "module" }),
  "The part that reads results in space broke off. Choose the files again.",
);

/** Asks the worker that holds results in space. */
export const askVolume = <K extends VolumeKind>(kind: K, ask: VolumeQuestions[K]["ask"]): Promise<VolumeQuestions[K]["answer"]> =>
  put(kind, () => ask);
