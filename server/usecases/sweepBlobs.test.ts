import { sql } from "drizzle-orm";
import { afterAll, beforeAll, expect, test } from "vitest";
import type { Store } from "../db/store.ts";
import { namedBlobs } from "../repositories/blobs.ts";
import { listQuantities } from "../repositories/cases.ts";
import { insertRun, saveField, saveHistory } from "../repositories/runs.ts";
import { bringIn } from "./bringIn.ts";
import { createCase } from "./cases.ts";
import { issueReport } from "./reports.ts";
import { sweepBlobs } from "./sweepBlobs.ts";
import { newCase, temporaryStore } from "./testStore.ts";

let opened: Store;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("sweep"));
});
afterAll(() => close());

const bytes = (text: string) => new TextEncoder().encode(text);
const there = (hash: string) =>
  opened.blobs.get(hash).then(
    () => true,
    () => false,
  );

/** A case with something in every place that can name a blob. */
async function furnished(): Promise<string[]> {
  const { id } = await createCase(opened, newCase());
  const [q] = await listQuantities(opened.db, id);
  const put = (text: string) => opened.blobs.put(bytes(text));
  const quantities = { name: "q.csv", text: "name,value,unit\ndrag,2.5,N\n" };
  await bringIn(opened, id, {
    history: null,
    quantities,
    label: "a",
    code: "c",
    cells: 10,
    volume: "1 m^3",
    dimension: 3,
    roles: [],
    rowRoles: [`quantity:${q.key}`],
  });
  const startFrom = {
    runId: crypto.randomUUID(),
    label: "x",
    cells: 4,
    fields: [{ name: "p", unit: "Pa", hash: await put("field started from") }],
    meshHash: await put("mesh started from"),
  };
  const run = await insertRun(opened.db, {
    caseId: id,
    label: "b",
    origin: "bench",
    code: "bench",
    state: "stopped",
    settingsHash: "",
    setupHash: "",
    settings: { startFrom } as never,
    checkpoint: await put("checkpoint"),
    deletedAt: new Date(),
  });
  await saveHistory(opened.db, { runId: run.id, columns: [], rows: 0, blob: await put("record") });
  await saveField(opened.db, { runId: run.id, name: "p", unit: "Pa", count: 1, blob: await put("field"), mesh: await put("mesh") });
  await issueReport(opened, id, "A. B.", new Date("2026-04-02T10:00:00Z"));
  return Promise.all(["checkpoint", "record", "field", "mesh", "field started from", "mesh started from", quantities.text].map(put));
}

test("whatever any table names stays, and nothing else", async () => {
  const own = await furnished();
  const stray = await opened.blobs.put(bytes("nobody's"));
  expect(await sweepBlobs(opened)).toBe(0);
  expect(await there(stray)).toBe(true);
  expect(await sweepBlobs(opened, 0)).toBe(1);
  expect(await there(stray)).toBe(false);
  for (const hash of own) expect(await there(hash)).toBe(true);
});

test("every word in any table that is the name of a stored file is known as one", async () => {
  const tables = (await opened.db.execute(sql`select quote_ident(tablename) as name from pg_tables where schemaname = 'public'`)) as unknown as {
    rows: { name: string }[];
  };
  const words = new Set<string>();
  for (const { name } of tables.rows) {
    const found = (await opened.db.execute(sql.raw(`select row_to_json(t)::text as row from ${name} t`))) as unknown as { rows: { row: string }[] };
    for (const { row } of found.rows) for (const [hash] of row.matchAll(/\b[0-9a-f]{64}\b/g)) if (await there(hash)) words.add(hash);
  }
  expect(words.size).toBeGreaterThanOrEqual(10);
  const named = await namedBlobs(opened.db);
  expect([...words].filter((h) => !named.has(h))).toEqual([]);
});

test("what is put again is young again: a sweep that began before leaves it", async () => {
  const hash = await opened.blobs.put(bytes("put twice"));
  const later = Date.now() + 10_000;
  expect(await opened.blobs.sweep((h) => h !== hash, 3_600_000, later)).toBe(0);
  const [, gone] = await Promise.all([opened.blobs.put(bytes("put twice")), opened.blobs.sweep((h) => h !== hash, 5_000)]);
  expect(gone).toBe(0);
  expect(await there(hash)).toBe(true);
});
