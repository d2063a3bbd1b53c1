import { readFile, writeFile } from "node:fs/promises";
import { afterAll, afterEach, beforeAll, expect, test, vi } from "vitest";
import { sweep } from "../db/schema.ts";
import type { Store } from "../db/store.ts";
import { deskHere, setUpDesk } from "../desk/desk.ts";
import { caseNames, caseStamp, caseStamps } from "../repositories/boardRows.ts";
import { listQuantities, markYardstick, setLimit, updateCase } from "../repositories/cases.ts";
import { findHistory, saveHistory, updateRun, writeSetting } from "../repositories/runs.ts";
import { acrossCases, boardView } from "./board.ts";
import { createCase, createYardstick, deleteCase } from "./cases.ts";
import { openCase } from "./evidence.ts";
import { createFinding, deleteFinding } from "./findings.ts";
import { issueReport } from "./reports.ts";
import { bringSettled } from "./settledRunForTests.ts";
import { statePrecision } from "./sources.ts";
import { newCase, temporaryStore } from "./testStore.ts";

let opened: Store;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("board"));
});
afterAll(() => close());
afterEach(() => {
  setUpDesk(undefined);
  vi.restoreAllMocks();
});

async function withRun(title: string) {
  const { id } = await createCase(opened, newCase({ title }));
  const [q] = await listQuantities(opened.db, id);
  const run = await bringSettled(opened, id, 1000 + title.length);
  return { id, run, key: q.key };
}

/** How many cases are assessed or looked up while something is done. */
async function assessedIn(work: () => Promise<unknown>): Promise<number> {
  let count = 0;
  setUpDesk({
    ask: (task, input, asking) => {
      if (task === "assess") count++;
      return deskHere.ask(task, input, asking);
    },
    close: async () => undefined,
  });
  await work();
  setUpDesk(undefined);
  return count;
}

const rowOf = async (id: string) => (await boardView(opened, 20_000)).rows.find((r) => r.id === id);

test("every quantity of every case stands among the others, and the board is none the heavier", async () => {
  const [one, two] = [await withRun("across one"), await withRun("across two")];
  const { lines, waiting } = await acrossCases(opened, 20_000);
  expect(waiting).toEqual([]);
  const found = lines.filter((l) => [one.id, two.id].includes(l.caseId));
  expect(found.map((l) => [l.title, l.key, l.value])).toEqual([
    ["across one", one.key, expect.closeTo(1010, 6)],
    ["across two", two.key, expect.closeTo(1010, 6)],
  ]);
  expect(await rowOf(one.id)).not.toHaveProperty("quantities");
});

test("the stamp of a case changes with whatever is stored of it, and with nothing else", async () => {
  const { id, run, key } = await withRun("stamped");
  const other = await withRun("left alone");
  const { db } = opened;
  const yardstick = { name: "rig", kind: "measured", source: "traverse", validity: "", quantityKey: key, value: "2 N", uncertainty: "1 %" } as const;
  const words = { what: "w", cause: "", change: "", shownBy: null, curedBy: null };
  let finding = "";
  const changes: Record<string, () => Promise<unknown>> = {
    title: () => updateCase(db, id, { title: "stamped again" }),
    limit: () => setLimit(db, id, key, 0.1),
    yardstick: () => createYardstick(opened, id, yardstick),
    run: () => updateRun(db, run.id, { label: "finest" }),
    record: async () => {
      const row = await findHistory(db, run.id);
      if (row) await saveHistory(db, { ...row, starts: { mass: 1 } });
    },
    sweep: () => db.insert(sweep).values({ caseId: id, axes: [], label: "s" }),
    finding: async () => {
      finding = (await createFinding(opened, id, { title: "off", ...words })).id;
    },
    "no finding": () => deleteFinding(opened, finding),
    report: () => issueReport(opened, id, "A. B."),
  };
  let before = await caseStamps(db);
  for (const [what, change] of Object.entries(changes)) {
    await change();
    const after = await caseStamps(db);
    expect(after.get(id), what).not.toBe(before.get(id));
    expect(after.get(other.id), what).toBe(before.get(other.id));
    before = after;
  }
  await boardView(opened, 20_000);
  expect(await caseStamps(db)).toEqual(before);
  await deleteCase(opened, other.id);
  expect((await caseStamps(db)).has(other.id)).toBe(false);
});

test("a case that has not changed is opened once; a change, or something damaged, opens it anew", async () => {
  const { id, run, key } = await withRun("opened again and again");
  const first = await openCase(opened, id);
  expect(await openCase(opened, id)).toBe(first);
  expect(await caseStamp(opened.db, id)).toBe((await caseStamps(opened.db)).get(id));
  await setLimit(opened.db, id, key, 0.2);
  const second = await openCase(opened, id);
  expect(second).not.toBe(first);
  expect(second.evidence.quantities[0].limit).toBe(0.2);
  await statePrecision(opened, { code: "c", precision: "double" });
  expect(await openCase(opened, id)).not.toBe(second);
  await updateRun(opened.db, run.id, { result: { quantities: { drag: 1 }, profiles: 7 } as never });
  const hurt = await openCase(opened, id);
  expect(hurt.damaged).toHaveLength(1);
  expect(await openCase(opened, id)).not.toBe(hurt);
  await deleteCase(opened, id);
  expect(await caseStamp(opened.db, id)).toBeUndefined();
  await expect(openCase(opened, id)).rejects.toMatchObject({ code: "not-found" });
});

test("what has not changed is neither assessed nor looked up again; what has, is", async () => {
  const { id, key } = await withRun("kept");
  expect(await rowOf(id)).toMatchObject({ title: "kept", leading: "drag", openFindings: 0, damaged: false, verdicts: ["none"] });
  expect(await assessedIn(() => boardView(opened, 20_000))).toBe(0);
  const findMany = vi.spyOn(opened.blobs, "get");
  const again = await boardView(opened, 0);
  expect(again.waiting).toEqual([]);
  expect(findMany).not.toHaveBeenCalled();
  const stamp = again.stamp;
  await createFinding(opened, id, { title: "off", what: "w", cause: "", change: "", shownBy: null, curedBy: null });
  // An open finding weighs on the verdict: it is worked out again.
  expect(await assessedIn(async () => expect((await rowOf(id))?.openFindings).toBe(1))).toBe(1);
  await setLimit(opened.db, id, key, 0.5);
  expect(await assessedIn(() => boardView(opened, 20_000))).toBe(1);
  expect((await boardView(opened, 0)).stamp).not.toBe(stamp);
});

test("a statement about a code concerns every case at once", async () => {
  await withRun("precise");
  await boardView(opened, 20_000);
  await writeSetting(opened.db, "cores", 2);
  expect((await boardView(opened, 0)).waiting).toEqual([]);
  await statePrecision(opened, { code: "c", precision: "single" });
  const cases = (await caseNames(opened.db)).length;
  expect(cases).toBeGreaterThan(2);
  expect(await assessedIn(() => boardView(opened, 20_000))).toBe(cases);
});

test("cases that are being worked out are named, in their order, and the rest is shown meanwhile", async () => {
  const done = await withRun("done");
  await boardView(opened, 20_000);
  const [a, b] = [await withRun("first to come"), await withRun("second to come")];
  const view = await boardView(opened, 0);
  expect(view.waiting.map((w) => w.id)).toEqual([a.id, b.id]);
  expect(view.rows.map((r) => r.id)).toContain(done.id);
  await expect.poll(async () => (await boardView(opened, 0)).waiting.length, { timeout: 20_000 }).toBe(0);
  expect((await boardView(opened, 0)).rows.map((r) => r.title)).toEqual((await caseNames(opened.db)).map((c) => c.title));
});

test("a damaged record is said on the board, and found whole again once it is brought back", async () => {
  vi.spyOn(console, "error").mockImplementation(() => {});
  const { id, run } = await withRun("hurt, then brought back");
  const place = opened.blobs.locate((await findHistory(opened.db, run.id))?.blob ?? "");
  const bytes = await readFile(place);
  await writeFile(place, bytes.subarray(8));
  expect((await rowOf(id))?.damaged).toBe(true);
  await writeFile(place, bytes);
  expect((await rowOf(id))?.damaged).toBe(true);
  const later = Date.now() + 11_000;
  vi.spyOn(Date, "now").mockImplementation(() => later);
  expect((await rowOf(id))?.damaged).toBe(false);
  await updateCase(opened.db, id, { setup: { parameters: {} } as never });
  const { broken, rows } = await boardView(opened, 20_000);
  expect(broken).toEqual([{ id, title: "hurt, then brought back", sentence: expect.stringContaining("no bench problem") }]);
  expect(rows.some((r) => r.id === id)).toBe(false);
});

test("a yardstick that is taken off changes the stamp as well", async () => {
  const { id, key } = await withRun("measured");
  await createYardstick(opened, id, {
    name: "rig",
    kind: "measured",
    source: "traverse",
    validity: "",
    quantityKey: key,
    value: "2 N",
    uncertainty: "",
  });
  const before = (await caseStamps(opened.db)).get(id);
  const { rows } = (await opened.db.execute("select id from yardstick order by created_at desc limit 1")) as unknown as { rows: { id: string }[] };
  await markYardstick(opened.db, rows[0].id, new Date());
  expect((await caseStamps(opened.db)).get(id)).not.toBe(before);
});
