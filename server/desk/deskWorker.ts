import { parentPort } from "node:worker_threads";
import { hdf5IsSpent } from "../../core/formats/cgns/hdf5.ts";
import { NICENESS, standBack } from "../jobs/niceness.ts";
import { type DeskMessage, type TaskMessage, writeError } from "./messages.ts";
import { carryOut } from "./tasks.ts";

const tell = (message: DeskMessage) => parentPort?.postMessage(message);
const PAUSE_MS = 100;

/** Bytes among the parts of an answer that nobody here needs any more: they are handed over, not copied. */
const handedOver = (value: unknown): ArrayBuffer[] =>
  Object.values(value ?? {}).flatMap((part) =>
    part instanceof Uint8Array && part.buffer instanceof ArrayBuffer && part.byteLength === part.buffer.byteLength ? [part.buffer] : [],
  );

standBack(NICENESS.desk);
parentPort?.on("message", async ({ task, input }: TaskMessage) => {
  let last = 0;
  try {
    const value = await carryOut(task, input, (told) => {
      if (Date.now() - last < PAUSE_MS && told.done < told.of) return;
      last = Date.now();
      tell({ type: "told", ...told });
    });
    parentPort?.postMessage({ type: "done", value } satisfies DeskMessage, [...new Set(handedOver(value))]);
  } catch (error) {
    tell({ type: "failed", error: writeError(error), spent: hdf5IsSpent() });
  }
});
