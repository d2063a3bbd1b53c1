import { existsSync, readFileSync } from "node:fs";
import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, beforeAll, expect, test } from "vitest";
import { dropReading, findReading, readingHashes, startReading, tidyReadings } from "./readings.ts";

/** A reader that waits for the signal and says so in a file beside; of a file named "deaf" it hears none. */
const READER = `
import { writeFileSync } from "node:fs";
import { parentPort, workerData } from "node:worker_threads";
const flag = new Int32Array(workerData.signal);
parentPort.postMessage({ type: "progress", read: 1, total: 2, rows: 3 });
if (workerData.name === "deaf") for (;;);
for (let k = 0; k < 100 && !Atomics.load(flag, 0); k++) Atomics.wait(flag, 0, 0, 20);
writeFileSync(workerData.path + ".heard", String(Atomics.load(flag, 0)));
`;

let folder: string;
let entry: string;
beforeAll(async () => {
  folder = await mkdtemp(path.join(tmpdir(), "tin-ruler-readings-"));
  entry = path.join(folder, "reader.mjs");
  await writeFile(entry, READER);
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const begin = (name: string, hash?: string) => startReading({ name, path: path.join(folder, name), hash }, entry);

test("a reading that is given up is told so, and forgotten at once; one that nobody knows is nothing", async () => {
  const r = begin("given-up", "a".repeat(64));
  await expect.poll(() => findReading(r.id)?.rows).toBe(3);
  expect(readingHashes()).toContain("a".repeat(64));
  dropReading(r.id);
  expect(findReading(r.id)).toBeUndefined();
  expect(readingHashes()).not.toContain("a".repeat(64));
  await expect.poll(() => existsSync(`${r.path}.heard`) && readFileSync(`${r.path}.heard`, "utf8"), { timeout: 5000 }).toBe("1");
  dropReading(r.id);
  dropReading("nobody");
});

test("one that does not hear is ended with its thread; what stands still for too long is refused", async () => {
  const r = begin("deaf");
  await expect.poll(() => findReading(r.id)?.read).toBe(1);
  tidyReadings(r.movedAt + 119_000);
  expect(findReading(r.id)?.state).toBe("reading");
  tidyReadings(r.movedAt + 121_000);
  expect(findReading(r.id)).toMatchObject({ state: "refused", problems: [{ line: 1, sentence: expect.stringContaining("2 minutes") }] });
  dropReading(r.id);
});

test("what nobody asks for in half an hour is forgotten, and of many the one asked for longest ago", async () => {
  const all = [];
  for (let k = 0; k < 11; k++) {
    const r = begin(`idle-${k}`);
    r.state = "done";
    all.push(r);
  }
  for (const [k, r] of all.entries()) r.touched = 1000 + k;
  tidyReadings(2000);
  expect(all.map((r) => findReading(r.id) !== undefined)).toEqual([false, ...Array(10).fill(true)]);
  for (const r of all) r.touched = 1000;
  tidyReadings(1000 + 30 * 60_000);
  expect(findReading(all[5].id)).toBeDefined();
  for (const r of all) r.touched = 1000;
  tidyReadings(1001 + 30 * 60_000);
  expect(all.some((r) => findReading(r.id))).toBe(false);
});

test("no more than six at once", () => {
  const all = Array.from({ length: 6 }, (_, k) => begin(`busy-${k}`));
  expect(() => begin("one too many")).toThrow("Several files are being read already");
  for (const r of all) dropReading(r.id);
  expect(() => dropReading(begin("after").id)).not.toThrow();
});
