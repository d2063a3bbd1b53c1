import { strFromU8, strToU8 } from "fflate";
import { afterAll, beforeAll, expect, test } from "vitest";
import type { Store } from "../db/store.ts";
import { assessPack } from "../pack/assessPack.ts";
import { zipped } from "../pack/packFiles.ts";
import { unpacked } from "../pack/readPack.ts";
import { listFindings, listReports } from "../repositories/findings.ts";
import { listEarlierLines } from "../repositories/packs.ts";
import { listSettings } from "../repositories/runs.ts";
import { createCase, deleteCase } from "./cases.ts";
import { openCase } from "./evidence.ts";
import { createFinding } from "./findings.ts";
import { bringPack, checkPack, packUnderWay } from "./packs.ts";
import { issueReport, readReport } from "./reports.ts";
import { deleteRun } from "./runs.ts";
import { bringSettled } from "./settledRunForTests.ts";
import { precisionOf, statePrecision } from "./sources.ts";
import { newCase, temporaryStore } from "./testStore.ts";
import { enter } from "./timeLine.ts";

let opened: Store;
let close: () => Promise<void>;
let hash = "";
let caseId = "";
let evidenceHash = "";
let pack: Uint8Array;

/** Issues two reports in one data folder; another, empty one then has the pack of the second and nothing else. */
beforeAll(async () => {
  const first = await temporaryStore("packs-from");
  const from = first.store;
  caseId = (await createCase(from, newCase({ title: "Curtain" }))).id;
  for (const [k, cells] of [8000, 1000, 125].entries()) await bringSettled(from, caseId, 61 + 0.01 * 4 ** k, { label: `mesh ${k + 1}`, cells });
  // A run that a finding names, and that was deleted before the report.
  const gone = await bringSettled(from, caseId, 99, { label: "deleted", cells: 3 });
  await createFinding(from, caseId, { title: "gone", what: "with its run", cause: "", change: "", shownBy: gone.id, curedBy: null } as never);
  await deleteRun(from, gone.id);
  await createFinding(from, caseId, { title: "too high", what: "by a little", cause: "", change: "", shownBy: null, curedBy: null } as never);
  await statePrecision(from, { code: "c", precision: "double" });
  await enter(from, { method: "put", path: "/cases/{id}", says: "Changes a case.", at: { id: caseId }, input: { by: "H. M." } });
  await issueReport(from, caseId, "H. M.");
  const { archive } = await issueReport(from, caseId, "K. B.");
  pack = await from.blobs.get(archive);
  ({ evidenceHash } = await openCase(from, caseId));
  await first.close();
  ({ store: opened, close } = await temporaryStore("packs-to"));
  hash = await opened.blobs.put(pack);
});
afterAll(() => close());

test("where nothing of it is, the check says so, and stores nothing", async () => {
  const found = await checkPack(opened, { hash });
  expect(found.check).toMatchObject({ holds: true, number: 2 });
  expect(found.cases).toEqual([{ id: caseId, title: "Curtain", here: "not here" }]);
  expect(found.notes).toEqual(["Report 1 of the case was issued before this one and is not in the pack."]);
  expect(packUnderWay(hash)).toBeUndefined();
  await expect(openCase(opened, caseId)).rejects.toMatchObject({ code: "not-found" });
});

test("a case comes in with its runs, findings, precision, report and what was done to it, and rests on the same evidence", async () => {
  expect(await bringPack(opened, { hash, as: "itself" })).toEqual({ id: caseId });
  const book = await openCase(opened, caseId);
  expect(book.evidenceHash).toBe(evidenceHash);
  expect(book.damaged).toEqual([]);
  expect((await listFindings(opened.db, caseId)).map((f) => [f.title, f.shownBy])).toEqual([
    ["gone", null],
    ["too high", null],
  ]);
  expect(precisionOf(await listSettings(opened.db))).toEqual({ c: "double" });
  const { row, document } = await readReport(opened, caseId, 2);
  expect([row.issuedBy, row.archive, document.evidenceHash]).toEqual(["K. B.", hash, evidenceHash]);
  const [line] = await listEarlierLines(opened.db, caseId);
  expect(line.entries).toMatchObject([{ sequence: 1, said: { by: "H. M.", says: "Changes a case." } }]);
  // Every file that was brought in is at hand again.
  for (const { settings } of book.runs) for (const file of settings.files ?? []) await expect(opened.blobs.get(file.hash)).resolves.toBeDefined();
  const again = await issueReport(opened, caseId, "R. T.");
  expect(again.number).toBe(3);
  const papers = unpacked(await opened.blobs.get(again.archive));
  const before = unpacked(pack);
  for (const path of ["assessment.json", "records/mesh-1.csv", "records/mesh-3.csv"]) expect(papers[path]).toEqual(before[path]);
  expect(await assessPack(await opened.blobs.get(again.archive))).toMatchObject({ holds: true });
});

test("a name that is taken is asked about; a copy stands beside it, with names of its own and the same figures", async () => {
  await expect(bringPack(opened, { hash, as: "itself" })).rejects.toMatchObject({
    code: "conflict",
    message: '"Curtain" is here already. Bring the pack in as a copy, or leave it.',
  });
  const { id } = await bringPack(opened, { hash, as: "copy" });
  expect(id).not.toBe(caseId);
  const [copy, own] = [await openCase(opened, id), await openCase(opened, caseId)];
  expect(copy.row.title).toBe("Curtain, copy");
  expect(copy.runs.map((r) => r.id)).not.toEqual(own.runs.map((r) => r.id));
  expect(copy.assessment.verdicts).toEqual(own.assessment.verdicts);
  expect((await listReports(opened.db, id)).map((r) => r.number)).toEqual([2]);
  await deleteCase(opened, caseId);
  expect((await checkPack(opened, { hash })).cases[0].here).toBe("deleted here");
  await expect(bringPack(opened, { hash, as: "itself" })).rejects.toThrow('"Curtain" is here already, deleted.');
});

test("a pack that is gone or is none is refused with a sentence", async () => {
  await expect(checkPack(opened, { hash: "0".repeat(64) })).rejects.toMatchObject({ code: "not-found" });
  const none = await opened.blobs.put(new TextEncoder().encode("iteration,drag\n"));
  await expect(bringPack(opened, { hash: none, as: "itself" })).rejects.toMatchObject({
    code: "invalid",
    message: expect.stringContaining("no zip file"),
  });
});

test("a pack whose rows reach into another case is refused before anything is stored", async () => {
  const files = unpacked(pack);
  const forged = (change: (inputs: Record<string, Record<string, unknown>[]>) => void) => {
    const inputs = JSON.parse(strFromU8(files["inputs.json"]));
    change(inputs);
    return opened.blobs.put(zipped({ ...files, "inputs.json": strToU8(JSON.stringify(inputs)) }, new Date()));
  };
  const other = "11111111-2222-4333-8444-555555555555";
  for (const [change, sentence] of [
    [(i) => Object.assign(i.runs[0], { caseId: other }), "one of its runs is of a case that is not in it"],
    [(i) => Object.assign(i.quantities[0], { caseId: other }), "one of its quantities is of a case that is not in it"],
    [(i) => Object.assign(i.histories[0], { runId: other }), "a record or a field is of a run that is not in it"],
    [(i) => Object.assign(i.cases[0], { programmeId: other }), "a case is of a programme that is not in it"],
  ] as const satisfies readonly (readonly [(i: Record<string, Record<string, unknown>[]>) => void, string])[])
    await expect(bringPack(opened, { hash: await forged(change), as: "copy" })).rejects.toMatchObject({
      code: "invalid",
      message: expect.stringContaining(sentence),
    });
  const bare = await forged((i) => Object.assign(i.cases[0], { setup: {} }));
  await expect(bringPack(opened, { hash: bare, as: "copy" })).rejects.toMatchObject({
    code: "invalid",
    message: expect.stringContaining("cannot be opened here"),
  });
  await expect(checkPack(opened, { hash: bare })).rejects.toMatchObject({ code: "invalid", message: expect.stringContaining("cannot be assessed") });
  // The case has a name of its own, and its runs those of one that is here.
  const taken = await forged((i) => {
    const to = (o: Record<string, unknown>) => Object.assign(o, { caseId: other });
    Object.assign(i.cases[0], { id: other });
    for (const list of ["quantities", "yardsticks", "meshes", "runs", "sweeps", "findings"]) i[list].forEach(to);
  });
  await expect(bringPack(opened, { hash: taken, as: "itself" })).rejects.toMatchObject({
    code: "conflict",
    message: expect.stringContaining("taken here by another case"),
  });
});
