import { existsSync, readFileSync } from "node:fs";
import { getPriority } from "node:os";
import { Worker } from "node:worker_threads";
import { transform } from "esbuild";
import { expect, test } from "vitest";
import { standBack } from "./niceness.ts";

const numbersThreads = existsSync("/proc/thread-self");

test.runIf(numbersThreads)("a thread stands back by itself: the process and its other threads stay where they are", async () => {
  const before = getPriority();
  const { code } = await transform(readFileSync(new URL("./niceness.ts", import.meta.url), "utf8"), { loader: "ts", format: "esm" });
  // The nineteenth number of a thread's line, its name being the second, is how far it stands back.
  const asks = `
    import { readFileSync } from "node:fs";
    import { parentPort } from "node:worker_threads";
    const thread = standBack(17);
    parentPort.postMessage(Number(readFileSync("/proc/self/task/" + thread + "/stat", "utf8").split(") ")[1].split(" ")[16]));
  `;
  const worker = new Worker(new URL(`data:text/javascript,${encodeURIComponent(code + asks)}`));
  const said = await new Promise((resolve, reject) => worker.once("message", resolve).once("error", reject));
  await worker.terminate();
  expect(said).toBe(Math.min(19, before + 17));
  expect(getPriority()).toBe(before);
});

test("what is no place is let be", () => {
  const before = getPriority();
  expect(standBack(Number.NaN)).toBeUndefined();
  expect(getPriority()).toBe(before);
});
