import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, beforeAll, expect, test } from "vitest";
import type { WorkerTask } from "./messages.ts";
import { SETTINGS } from "./playerForTests.ts";
import { WarmWorkers } from "./warmWorkers.ts";

let root = "";
let echo = "";
let broken = "";
const task = (code: string): WorkerTask => ({ settings: { ...SETTINGS, code }, signal: new SharedArrayBuffer(8) });
const answer = (workers: WarmWorkers, code: string) =>
  new Promise<[string, number]>((resolve, reject) => {
    const worker = workers.take(task(code));
    worker.once("message", (said: [string, number]) => resolve(said)).once("error", reject);
  });

beforeAll(async () => {
  root = await mkdtemp(path.join(tmpdir(), "tin-ruler-warm-"));
  echo = path.join(root, "echo.mjs");
  broken = path.join(root, "broken.mjs");
  await writeFile(
    echo,
    'import { parentPort, threadId } from "node:worker_threads"; parentPort.once("message", (t) => parentPort.postMessage([t.settings.code, threadId]));',
  );
  await writeFile(broken, 'throw new Error("no such program");');
});
afterAll(() => rm(root, { recursive: true, force: true }));

test("a thread that was made ready takes the next task; the one after it gets its own", async () => {
  const workers = new WarmWorkers(echo);
  workers.prepare();
  workers.prepare();
  expect(workers.waits).toBe(true);
  const [first, one] = await answer(workers, "first");
  expect(workers.waits).toBe(false);
  const [second, other] = await answer(workers, "second");
  expect([first, second]).toEqual(["first", "second"]);
  expect(other).toBe(one + 1);
});

test("a thread that cannot start is not handed out later: the task says so itself", async () => {
  const workers = new WarmWorkers(broken);
  workers.prepare();
  while (workers.waits) await new Promise((resolve) => setTimeout(resolve, 5));
  await expect(answer(workers, "x")).rejects.toThrow("no such program");
});

test("closing ends the one that waits", async () => {
  const workers = new WarmWorkers(echo);
  workers.prepare();
  await workers.close();
  expect(workers.waits).toBe(false);
});
