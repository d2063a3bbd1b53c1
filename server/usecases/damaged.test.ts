import { readFile, rm, writeFile } from "node:fs/promises";
import { afterAll, beforeAll, expect, test, vi } from "vitest";
import type { Store } from "../db/store.ts";
import { updateCase } from "../repositories/cases.ts";
import { findHistory, type RunRow, updateRun } from "../repositories/runs.ts";
import { createCase } from "./cases.ts";
import { openCase, openEach } from "./evidence.ts";
import { issueReport } from "./reports.ts";
import { bringSettled } from "./settledRunForTests.ts";
import { newCase, temporaryStore } from "./testStore.ts";

let opened: Store;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("damaged"));
});
afterAll(() => close());

/** A case with one run, whose record is its own. */
async function withRun(seed: number): Promise<{ id: string; run: RunRow; record: string }> {
  const { id } = await createCase(opened, newCase({ title: `Case ${seed}` }));
  const run = await bringSettled(opened, id, 2 + seed);
  const { blob = "" } = (await findHistory(opened.db, run.id)) ?? {};
  return { id, run, record: opened.blobs.locate(blob) };
}

test.each([
  ["damaged", 7],
  ["missing", 8],
] as const)("a record that is %s is named in its case alone, which goes on without; brought back, all is as it was", async (how, seed) => {
  const [a, b] = [await withRun(seed), await withRun(20 + seed)];
  const bytes = await readFile(a.record);
  await (how === "missing" ? rm(a.record) : writeFile(a.record, bytes.subarray(8)));
  const found = await openEach(opened, [a.id, b.id]);
  const [broken, whole] = found.flatMap((f) => ("sentence" in f ? [] : [f]));
  expect(broken.damaged).toEqual([expect.stringMatching(new RegExp(`^The record of fine cannot be read. Stored file [0-9a-f]{12} is ${how}`))]);
  expect(broken.assessment.settling[0].state).toBe("none");
  expect(broken.assessment.rules[0].value).toBeCloseTo(2 + seed, 5);
  expect(whole.damaged).toEqual([]);
  expect(whole.assessment.settling[0].quantities).toHaveLength(1);
  await expect(issueReport(opened, a.id, "A. B.")).rejects.toThrow(/No report is issued .* cannot be read/);
  await writeFile(a.record, bytes);
  const again = await openCase(opened, a.id);
  expect(again.damaged).toEqual([]);
  expect(again.assessment.settling[0].quantities).toHaveLength(1);
});

test("an assessment that cannot be kept is shown all the same", async () => {
  const { id } = await withRun(30);
  const quiet = vi.spyOn(console, "error").mockImplementation(() => {});
  await opened.db.execute(
    "create or replace function full_up() returns trigger language plpgsql as $$ begin raise exception 'could not extend file: No space left on device'; end $$",
  );
  await opened.db.execute("create trigger full_disk before insert or update on assessment for each row execute function full_up()");
  try {
    const book = await openCase(opened, id);
    expect(book.assessment.settling[0].quantities).toHaveLength(1);
    expect(quiet).toHaveBeenCalledWith(expect.stringContaining("could not be kept"));
  } finally {
    await opened.db.execute("drop trigger full_disk on assessment");
    quiet.mockRestore();
  }
});

test("a stored result that is none is named, its run left out, the rest of the case assessed", async () => {
  const { id, run } = await withRun(3);
  await updateRun(opened.db, run.id, { result: { quantities: { drag: 1 }, profiles: 7 } as never });
  const book = await openCase(opened, id);
  expect(book.damaged).toEqual(["The stored result of fine is none; run it again or delete it."]);
  expect(book.assessment.verdicts[0].word).toBe("incomplete");
});

test("a case that cannot be shown at all leaves the others on the board", async () => {
  const [a, b] = [await withRun(4), await withRun(5)];
  await updateCase(opened.db, a.id, { setup: { parameters: {} } as never });
  const [broken, whole] = await openEach(opened, [a.id, b.id]);
  expect("sentence" in broken && [broken.row.title, broken.sentence.length > 0]).toEqual(["Case 4", true]);
  expect("sentence" in whole).toBe(false);
  await expect(openCase(opened, a.id)).rejects.toThrow();
});
