import { asker } from "../engine/asker";
import type { SpaceKind, SpaceQuestions } from "./asks";

const put = asker(
  () => new Worker(new URL("./space.worker.ts", import.meta.url), { type: "module" }),
  "The part that reads surfaces broke off. Choose the file again.",
);

/** Asks the worker that holds the surface. */
export const askSpace = <K extends SpaceKind>(kind: K, ask: SpaceQuestions[K]["ask"]): Promise<SpaceQuestions[K]["answer"]> => put(kind, () => ask);
