import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { BlobError, BlobStore } from "../blobs/blobStore.ts";
import { UseCaseError } from "../usecases/failure.ts";
import { desk, deskHere, setUpDesk } from "./desk.ts";
import { readError, writeError } from "./messages.ts";
import { ThreadDesk } from "./threadDesk.ts";
import type { Told } from "./told.ts";

/** A thread that answers to a text as it says: hangs, eats memory, ends, is slow, or gives it back with its own count. */
const THREAD = `
import { parentPort } from "node:worker_threads";
let count = 0;
parentPort.on("message", ({ input }) => {
  const { text } = input.quantities;
  if (text === "hang") for (;;);
  if (text === "end") process.exit(3);
  if (text === "eat") { const all = []; for (;;) all.push(new Array(1e5).fill(all.length)); }
  if (text === "spent") return parentPort.postMessage({ type: "failed", error: { name: "Error", message: "damaged" }, spent: true });
  if (text === "tell") for (let done = 1; done <= 3; done++) parentPort.postMessage({ type: "told", done, of: 3, what: "counting" });
  const answer = () => parentPort.postMessage({ type: "done", value: { text, count: ++count } });
  if (text === "slow") setTimeout(answer, 100); else answer();
});
`;

let folder: string;
let entry: string;
beforeAll(async () => {
  folder = await mkdtemp(path.join(tmpdir(), "tin-ruler-desk-"));
  entry = path.join(folder, "thread.mjs");
  await writeFile(entry, THREAD);
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const asked = (text: string) => ({ history: null, quantities: { name: "q", text }, known: [], recipes: [] });

async function withDesk(
  seconds: number | (() => number),
  work: (ask: (text: string, asking?: object) => Promise<unknown>) => Promise<void>,
): Promise<void> {
  const made = new ThreadDesk(entry, typeof seconds === "number" ? () => seconds : seconds, 100);
  try {
    await work((text, asking) => made.ask("previewTexts", asked(text), asking));
  } finally {
    await made.close();
  }
}

describe("threads of the desk", () => {
  test("one stays warm from task to task, in the order they came", () =>
    withDesk(20, async (ask) => {
      const answers = await Promise.all([ask("slow"), ask("b"), ask("c")]);
      expect(answers).toEqual([
        { text: "slow", count: 1 },
        { text: "b", count: 2 },
        { text: "c", count: 3 },
      ]);
    }));
  test("one that says it is spent answers, and the next task has another", () =>
    withDesk(20, async (ask) => {
      expect(await ask("a")).toEqual({ text: "a", count: 1 });
      const [refused, after] = await Promise.allSettled([ask("spent"), ask("b")]);
      expect(refused).toMatchObject({ status: "rejected", reason: { message: "damaged" } });
      expect(after).toMatchObject({ status: "fulfilled", value: { text: "b", count: 1 } });
    }));
  test("what hangs is ended with a sentence, and the next has a thread of its own", () => {
    // Only what hangs has little time: on a busy machine the next thread may need longer to begin.
    let limit = 0.3;
    return withDesk(
      () => limit,
      async (ask) => {
        await expect(ask("hang")).rejects.toMatchObject({
          code: "invalid",
          message: "Looking at the file took longer than 0.3 s and was ended; nothing was stored.",
        });
        limit = 60;
        expect(await ask("after")).toEqual({ text: "after", count: 1 });
      },
    );
  });
  test("what needs more memory than there is, or ends, takes nothing else along", () =>
    withDesk(60, async (ask) => {
      const [eaten, after] = await Promise.allSettled([ask("eat"), ask("after")]);
      expect(eaten).toMatchObject({ reason: { code: "invalid", message: expect.stringMatching(/needs more memory than 100 MB and was ended/) } });
      expect(after).toMatchObject({ value: { text: "after", count: 1 } });
      await expect(ask("end")).rejects.toThrow("ended by itself");
      expect(await ask("b")).toEqual({ text: "b", count: 1 });
    }));
  test("what is given up leaves the queue, or ends with its thread; what ends soon by itself keeps it warm", () =>
    withDesk(60, async (ask) => {
      const [first, second] = [new AbortController(), new AbortController()];
      const hanging = ask("hang", { signal: first.signal });
      const waiting = ask("b", { signal: second.signal });
      second.abort();
      await expect(waiting).rejects.toThrow("given up");
      first.abort();
      await expect(hanging).rejects.toThrow("given up");
      expect(await ask("c")).toMatchObject({ count: 1 });
      const third = new AbortController();
      const slow = ask("slow", { signal: third.signal });
      third.abort();
      expect(await slow).toMatchObject({ count: 2 });
      await expect(ask("d", { signal: AbortSignal.abort() })).rejects.toThrow("given up");
      expect(await ask("e")).toMatchObject({ count: 3 });
    }));
  test("tells how far it is", () =>
    withDesk(20, async (ask) => {
      const heard: Told[] = [];
      await ask("tell", { told: (t: Told) => heard.push(t) });
      expect(heard).toEqual([1, 2, 3].map((done) => ({ done, of: 3, what: "counting" })));
    }));
});

describe("tasks on a thread of the build and in this thread", () => {
  test("give the same, and refuse with the same error", async () => {
    const threads = new ThreadDesk();
    setUpDesk(threads);
    try {
      expect(desk()).toBe(threads);
      const exact = { problemId: "rolling-box", parameters: {}, formulas: {} };
      for (const at of [threads, deskHere]) {
        await expect(at.ask("yardsticks", exact)).rejects.toThrow(/rolling-box/);
        const texts = await at.ask("previewTexts", { ...asked("name,value,unit\ndrag,1,N\n"), known: [] });
        expect(texts.quantities?.rows).toEqual([{ line: 2, name: "drag", value: 1, unit: "N" }]);
        const bad = { quantities: { name: "q.csv", text: "name,value\ndrag,x\n" }, mapping: { roles: [], rowRoles: ["ignore"] }, known: [] };
        await expect(at.ask("readConfirmed", bad)).rejects.toMatchObject({
          code: "invalid",
          message: 'q.csv, line 2, column "value": "x" is not a number. Nothing was stored.',
          details: [expect.objectContaining({ line: 2, file: "q.csv" })],
        });
        const lost = { blobs: folder, source: { stored: { blob: "0".repeat(64), columns: [], rows: 0, starts: null } } };
        await expect(at.ask("thin", { record: lost, points: 50 })).rejects.toBeInstanceOf(BlobError);
      }
    } finally {
      setUpDesk(undefined);
      await threads.close();
    }
    expect(desk()).toBe(deskHere);
  });
  test("a record comes in pieces that make the whole, and thinned", async () => {
    const rows = 1000;
    const blobs = new BlobStore(path.join(folder, "blobs"));
    const values = Float64Array.from({ length: 2 * rows }, (_, i) => (i < rows ? i + 1 : i === rows + 7 ? Number.NaN : Math.sin(i)));
    const blob = await blobs.put(new Uint8Array(values.buffer));
    const columns = [
      { role: "iteration", key: "iteration" },
      { role: "quantity", key: "q" },
    ] as const;
    const record = { blobs: blobs.folder, source: { stored: { blob, columns, rows, starts: null } } };
    const quantities = [{ key: "q", name: "drag", unit: "N" }];
    const threads = new ThreadDesk();
    try {
      let text = "";
      for (let from = 0, last = false; !last; from += 300) {
        const piece = await threads.ask("recordFile", { record, quantities, from, to: from + 300 });
        text += new TextDecoder().decode(piece.bytes);
        last = piece.last;
      }
      const lines = text.trimEnd().split("\n");
      expect(lines).toHaveLength(rows + 1);
      expect(lines[0]).toBe("iteration,drag (N)");
      expect(lines[8]).toBe("8,");
      expect(lines[rows]).toBe(`${rows},${Math.sin(2 * rows - 1)}`);
      const thin = await threads.ask("thin", { record, points: 100 });
      expect(thin.iteration.length).toBeLessThan(110);
      expect(thin.iteration.at(-1)).toBe(rows);
    } finally {
      await threads.close();
    }
  });
});

test("errors keep what answers are made of as they cross between threads", () => {
  const round = (e: unknown) => readError(structuredClone(writeError(e)));
  expect(round(new UseCaseError("conflict", "no", { a: 1 }))).toMatchObject({ code: "conflict", message: "no", details: { a: 1 } });
  expect(round(new UseCaseError("conflict", "no"))).toBeInstanceOf(UseCaseError);
  expect(round(new BlobError("damaged", "f".repeat(64)))).toMatchObject({ code: "damaged", hash: "f".repeat(64) });
  expect(round(new RangeError("far"))).toBeInstanceOf(RangeError);
  expect(round(Object.assign(new Error("full"), { code: "ENOSPC" }))).toMatchObject({ message: "full", code: "ENOSPC" });
  expect(round("odd")).toMatchObject({ message: "odd" });
});
