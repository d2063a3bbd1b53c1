import { rm } from "node:fs/promises";
import path from "node:path";
import { sql } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { randomFrom } from "../../core/numeric/random.ts";
import type { Store } from "../db/store.ts";
import { insertEarlierLine } from "../repositories/packs.ts";
import { createCase } from "./cases.ts";
import { bringSettled } from "./settledRunForTests.ts";
import { newCase, temporaryStore } from "./testStore.ts";
import { checkChain, earlierEntries, enter, timeLine } from "./timeLine.ts";

let opened: Store;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("time-line"));
});
afterAll(() => close());
/** A data folder in which nothing was entered yet. */
const afresh = async () => {
  await opened.db.execute(sql`truncate "event"`);
  await rm(path.join(opened.folder, "time-line-end.json"), { force: true });
};
beforeEach(afresh);

const change = (k: number) => ({ method: "put", path: "/settings/precision", says: `Change ${k}.`, at: {}, input: { k } });
/** As somebody would who writes into the database past the application. */
const behindItsBack = async (statement: string) => {
  await opened.db.execute(sql.raw('alter table "event" disable trigger "event_stays"'));
  await opened.db.execute(sql.raw(statement));
  await opened.db.execute(sql.raw('alter table "event" enable trigger "event_stays"'));
};

describe("the time line", () => {
  test("entries are numbered and chained; the case is told by its own address, by a run's, by a signature who it was", async () => {
    const { id } = await createCase(opened, newCase({ title: "Curtain" }));
    const run = await bringSettled(opened, id, 8.8);
    await enter(opened, { method: "post", path: "/cases/{id}/settlements", says: "Settles.", at: { id }, input: { by: " H. M. ", value: "1 %" } });
    await enter(opened, { method: "put", path: "/runs/{id}/build", says: "States.", at: { id: run.id }, input: {} });
    await enter(opened, change(1));
    const entries = await timeLine(opened);
    expect(entries.map((e) => [e.sequence, e.by, e.title, e.path])).toEqual([
      [3, null, undefined, "/settings/precision"],
      [2, null, "Curtain", `/runs/${run.id}/build`],
      [1, "H. M.", "Curtain", `/cases/${id}/settlements`],
    ]);
    expect(entries[0].before).toBe(entries[1].hash);
    expect(await timeLine(opened, { caseId: id })).toHaveLength(2);
    expect(await timeLine(opened, { before: 2 })).toHaveLength(1);
    expect(await checkChain(opened)).toMatchObject({ entries: 3, hash: entries[0].hash });
  });
  test("many at once are entered one after the other, none twice and none lost", async () => {
    await Promise.all(Array.from({ length: 30 }, (_, k) => enter(opened, change(k))));
    const entries = await timeLine(opened);
    expect(entries.map((e) => e.sequence)).toEqual(Array.from({ length: 30 }, (_, k) => 30 - k));
    expect(new Set(entries.map((e) => e.says)).size).toBe(30);
    expect((await checkChain(opened)).broken).toBeUndefined();
  });
  test("the database itself refuses to change or to delete an entry", async () => {
    await enter(opened, change(1));
    for (const statement of ["update \"event\" set says = 'other'", 'delete from "event"'])
      await expect(opened.db.execute(sql.raw(statement))).rejects.toThrow();
    expect(await checkChain(opened)).toMatchObject({ entries: 1 });
  });
  test("whatever is changed, taken out or put in behind its back is found, at its place: 60 seeded changes", async () => {
    const next = randomFrom(5);
    for (let round = 0; round < 60; round++) {
      await afresh();
      for (let k = 0; k < 6; k++) await enter(opened, change(k), new Date(1_775_000_000_000 + k));
      const at = 1 + Math.floor(6 * next());
      const ways = [
        `update "event" set says = says || '!' where sequence = ${at}`,
        `update "event" set at = at + interval '1 second' where sequence = ${at}`,
        `update "event" set "by" = 'X' where sequence = ${at}`,
        `update "event" set input_hash = repeat('a', 64) where sequence = ${at}`,
        `update "event" set path = '/other' where sequence = ${at}`,
        ...(at < 6 ? [`delete from "event" where sequence = ${at}`] : []),
        ...(at > 1 ? [`update "event" set before = repeat('b', 64) where sequence = ${at}`] : []),
      ];
      await behindItsBack(ways[Math.floor(ways.length * next())]);
      expect(await checkChain(opened)).toMatchObject({ broken: at, entries: at - 1 });
    }
  });
  test("entries cut off the end leave a whole chain, and are missed all the same; so is a chain written anew", async () => {
    for (let k = 0; k < 6; k++) await enter(opened, change(k));
    await behindItsBack('delete from "event" where sequence > 4');
    expect(await checkChain(opened)).toMatchObject({
      broken: 5,
      entries: 4,
      sentence: "The data folder remembers 6 entries and 4 are there: the last 2 were taken off from outside.",
    });
    await behindItsBack('delete from "event"');
    await enter({ ...opened, folder: `${opened.folder}/blobs` }, change(9));
    for (let k = 0; k < 6; k++) await enter({ ...opened, folder: `${opened.folder}/blobs` }, change(k));
    expect(await checkChain(opened)).toMatchObject({ broken: 6, sentence: expect.stringContaining("written anew") });
  });
  test("what was done to a case before it came here is kept apart", async () => {
    const { id } = await createCase(opened, newCase({ title: "Come" }));
    const said = {
      at: "2026-01-02T03:04:05.000Z",
      says: "Settles.",
      method: "post",
      path: "/x",
      caseId: id,
      by: "K. B.",
      inputHash: "h",
      before: "b",
    };
    const entries = [
      { sequence: 7, hash: "a".repeat(64), said },
      { sequence: 8, hash: "b".repeat(64) },
    ];
    await insertEarlierLine(opened.db, { caseId: id, manifest: "m", entries });
    expect(await earlierEntries(opened, id)).toEqual([said]);
    expect(await timeLine(opened, { caseId: id })).toEqual([]);
  });
});
