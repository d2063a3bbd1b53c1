import { asker } from "../engine/asker";
import type { LibraryKind, LibraryQuestions } from "./asks";

const put = asker(
  () => new Worker(new URL("./library.worker.ts", import.meta.url), { type: "module" }),
  "The part that works solutions out broke off. Try again.",
);

/** Asks the worker that knows the library. */
export const askLibrary = <K extends LibraryKind>(kind: K, ask: LibraryQuestions[K]["ask"]): Promise<LibraryQuestions[K]["answer"]> =>
  put(kind, () => ask);
