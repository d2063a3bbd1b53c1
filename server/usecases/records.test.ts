import { mkdir, writeFile } from "node:fs/promises";
import path from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { readDelimited } from "../../core/formats/delimited.ts";
import type { Store } from "../db/store.ts";
import { historyFromColumns } from "../desk/records.ts";
import { recordText } from "../desk/recordText.ts";
import { dropReading } from "../jobs/readings.ts";
import { listQuantities } from "../repositories/cases.ts";
import { listFindings } from "../repositories/findings.ts";
import { findRun, listHistoryParts, listRuns } from "../repositories/runs.ts";
import { addToRun, bringIn, bringInFamily } from "./bringIn.ts";
import { BringInInput } from "./bringInInputs.ts";
import { createCase } from "./cases.ts";
import { openCase } from "./evidence.ts";
import { createFinding, deleteFinding, FindingInput, restoreFinding, saveFinding } from "./findings.ts";
import { loadHistory } from "./histories.ts";
import { previewFiles } from "./previewFiles.ts";
import { beginReading, checkMapping, columnPicture, listLogs, readingState, takeUpload } from "./readings.ts";
import { chooseTake, judgeRun, recordPictures } from "./records.ts";
import { precisionOf, settleSource, statePrecision, withdrawSettlement } from "./sources.ts";
import { lastValues, recordColumns } from "./storedRecord.ts";
import { newCase, temporaryStore } from "./testStore.ts";

let opened: Store;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("records"));
});
afterAll(() => close());
const gone = "00000000-0000-4000-8000-000000000000";
const lines = (n: number, row: (i: number) => string) => Array.from({ length: n }, (_, i) => row(i)).join("\n");
const steady = `iteration,mass residual,drag (N)\n${lines(60, (i) => `${i + 1},${0.7 ** i},${10 + 0.7 ** i}`)}\n`;
const wave = `time (s),drag (N)\n${lines(400, (i) => `${((i + 1) * 0.05).toFixed(2)},${(10 + Math.sin(2 * Math.PI * 0.4 * (i + 1) * 0.05)).toFixed(6)}`)}\n`;
const words = { label: "L", code: "Lintel", cells: 1000, volume: "1 m^3", rowRoles: [] as string[] };
const STEADY = { ...words, roles: ["iteration", "residual", "quantity:q1"], history: { name: "h.csv", text: steady }, quantities: null };
const make = async (change = {}) => (await createCase(opened, newCase(change))).id;

describe("bringing in", () => {
  test("the mesh by its counts, the last entries as results, the files by their bytes, the record as it was", async () => {
    const id = await make();
    const run = await bringIn(opened, id, STEADY, new Date("2026-04-01T10:00:00Z"));
    expect(run).toMatchObject({ state: "done", origin: "brought-in", iterations: 60, finishedAt: new Date("2026-04-01T10:00:00Z"), judging: null });
    expect(run.result?.quantities.q1).toBeCloseTo(10 + 0.7 ** 59, 12);
    expect(run.settings.mesh).toEqual({ cells: 1000, spacingM: expect.closeTo(0.1, 12), dimension: 3 });
    expect(new TextDecoder().decode(await opened.blobs.get(run.settings.files?.[0].hash ?? ""))).toBe(steady);
    const history = await loadHistory(opened, run.id);
    expect(history?.iteration).toEqual(Float64Array.from({ length: 60 }, (_, i) => i + 1));
    expect(history?.residuals.mass[59]).toBe(0.7 ** 59);
    const { columns, values } = recordColumns(history!);
    expect(historyFromColumns(columns, (i) => values[i], undefined)).toEqual(history);
    expect(await listHistoryParts(opened.db, run.id)).toEqual([]);
  });
  test("a plane case has an area, a typed dimension stands before the case's", async () => {
    const plane = await make({ physics: { time: "steady", model: "laminar", space: "plane", part: "whole", share: "", compressible: false } });
    expect((await bringIn(opened, plane, { ...STEADY, cells: 100, volume: "4 m^2" })).settings.mesh).toMatchObject({
      spacingM: expect.closeTo(0.2, 12),
      dimension: 2,
    });
    await expect(bringIn(opened, plane, STEADY)).rejects.toThrow(/^Area meshed: "1 m\^3" has the wrong dimension/);
    expect((await bringIn(opened, plane, { ...STEADY, dimension: 3 })).settings.mesh).toMatchObject({ dimension: 3 });
    await expect(bringIn(opened, plane, { ...STEADY, volume: "0 m^2" })).rejects.toThrow("Area meshed: it must be positive.");
  });
  test("a table is taken at its word; a record in time without one stands for its mean", async () => {
    const id = await make();
    const table = { name: "q.csv", text: "name,value,unit\ndrag,12,N\nmass flow inlet,-1,kg/s\nmass flow outlet,1,kg/s\n" };
    const both = await bringIn(opened, id, { ...STEADY, quantities: table, rowRoles: ["quantity:q1", "boundary-mass", "boundary-mass"] });
    expect(both.result?.quantities.q1).toBe(12);
    expect(both.result?.balance?.boundaries).toHaveLength(2);
    expect(both.settings.fluxes).toEqual({ signs: "outward", factor: 1 });
    const inTime = { ...words, roles: ["time", "quantity:q1"], history: { name: "t.csv", text: wave }, quantities: null };
    expect((await bringIn(opened, id, inTime)).judging).toEqual({ average: true });
    const told = await bringIn(opened, id, {
      ...inTime,
      quantities: { name: "q.csv", text: "name,value,unit\ndrag,12,N\n" },
      rowRoles: ["quantity:q1"],
    });
    expect(told.judging).toBeNull();
    expect((await bringIn(opened, id, { ...STEADY, own: { schemeOrder: 1, note: "old" } })).settings.stated).toEqual({ schemeOrder: 1, note: "old" });
    expect((await bringIn(opened, id, { ...STEADY, own: {} })).settings.stated).toBeUndefined();
  });
  test("refusals name file, line and column, and store nothing", async () => {
    const id = await make();
    await expect(bringIn(opened, id, { ...STEADY, history: null })).rejects.toThrow("Choose a history or a table of quantities.");
    await expect(bringIn(opened, id, { ...STEADY, roles: ["iteration"] })).rejects.toThrow(
      "h.csv, line 1: 1 columns were mapped but the file has 3. Nothing was stored.",
    );
    await expect(bringIn(opened, id, { ...STEADY, history: { name: "h.csv", text: "iteration,res,drag (N)\n1,1,x\n" } })).rejects.toThrow(
      'h.csv, line 2, column "drag": "x" is not a number. Nothing was stored.',
    );
    await expect(bringIn(opened, id, { ...STEADY, history: { reading: gone } })).rejects.toThrow(/no longer at hand/);
    await expect(bringIn(opened, gone, STEADY)).rejects.toMatchObject({ code: "not-found" });
    expect(await listRuns(opened.db, id)).toEqual([]);
  });
  test("a mapping kept under a name is found again for a file it fits", async () => {
    const id = await make();
    const odd = { name: "odd.csv", text: "count,left,force\n1,1,0.010\n2,0.5,0.011\n" };
    await bringIn(opened, id, { ...STEADY, history: odd, units: [null, null, "kN"], recipe: "odd" });
    const { history } = await previewFiles(opened, id, { history: odd, quantities: null });
    expect(history?.roles).toEqual(["iteration", "residual", "quantity:q1"]);
    expect(history?.units).toEqual([undefined, undefined, "kN"]);
    expect(history?.recipe).toEqual({ name: "odd", code: "Lintel", dimension: 3 });
    const other = await previewFiles(opened, id, { history: { name: "h.csv", text: steady }, quantities: null });
    expect(other.history?.recipe).toBeUndefined();
    expect(other.history?.roles).toEqual(["iteration", "residual", "quantity:q1"]);
    const broken = await previewFiles(opened, id, { history: { name: "b.csv", text: "" }, quantities: { name: "q.csv", text: "a,b\n1,2\n" } });
    expect(broken.problems.map((p) => p.file)).toEqual(["b.csv", "q.csv"]);
  });
  test("only a finished run that was brought in can be added to", async () => {
    const id = await make();
    const run = await bringIn(opened, id, STEADY);
    const add = {
      quantities: { name: "v.csv", text: "name,value,unit\nmass flow inlet,-1,kg/s\nmass flow outlet,1,kg/s\n" },
      rowRoles: ["boundary-mass", "boundary-mass"],
    };
    await addToRun(opened, run.id, add);
    const first = await findRun(opened.db, run.id);
    expect(first?.settings.fluxes).toEqual({ signs: "outward", factor: 1 });
    expect(first?.settingsHash).not.toBe(run.settingsHash);
    await expect(addToRun(opened, run.id, add)).rejects.toThrow(/has the flows through its boundaries already/);
    await expect(addToRun(opened, gone, add)).rejects.toMatchObject({ code: "not-found" });
    // The same value again contradicts nothing.
    const same = { quantities: { name: "w.csv", text: `name,value,unit\ndrag,${run.result?.quantities.q1},N\n` }, rowRoles: ["quantity:q1"] };
    await addToRun(opened, run.id, same);
  });
  test("a family without any readable name brings in nothing", async () => {
    const id = await make();
    const runs = [{ label: "a", cells: 10, history: { name: "h.csv", text: steady }, quantities: null }];
    await expect(bringInFamily(opened, id, { code: "Lintel", volume: "1 m^3", roles: [], columnRoles: {}, runs })).rejects.toThrow(
      /No column is marked/,
    );
    expect(await listRuns(opened.db, id)).toEqual([]);
  });
  test("a role that is no row's, and a quantity the case does not have, are refused instead of kept under a strange name", async () => {
    const id = await make();
    await expect(bringIn(opened, id, { ...STEADY, roles: ["iteration", "residual", "quantity:q9"] })).rejects.toThrow(
      'h.csv, line 2, column "drag": The case has no quantity "quantity:q9". Nothing was stored.',
    );
    const table = { name: "q.csv", text: "name,value,unit\ndrag,12,N\n" };
    await expect(bringIn(opened, id, { ...STEADY, quantities: table, rowRoles: ["quantity:q9"] })).rejects.toThrow(
      /q.csv, line 2: The case has no quantity/,
    );
    for (const role of ["time", "iteration", "residual", "boundary-z", ""])
      expect(BringInInput.safeParse({ ...STEADY, rowRoles: [role] }).success, role).toBe(false);
    for (const role of ["ignore", "boundary-x", "quantity:q1"])
      expect(BringInInput.safeParse({ ...STEADY, rowRoles: [role] }).success, role).toBe(true);
  });
  test("ends of records", () => expect(lastValues({ a: [1, 2, Number.NaN], b: [Number.NaN], c: [] })).toEqual({ a: 2 }));
});

describe("reading a record", () => {
  test("decisions are kept, an empty one goes back to the tests", async () => {
    const id = await make();
    const run = await bringIn(opened, id, STEADY);
    await judgeRun(opened, run.id, { cut: 10, average: true });
    expect((await findRun(opened.db, run.id))?.judging).toEqual({ cut: 10, average: true });
    await judgeRun(opened, run.id, {});
    expect((await findRun(opened.db, run.id))?.judging).toBeNull();
    await expect(judgeRun(opened, gone, {})).rejects.toMatchObject({ code: "not-found" });
  });
  test("statistics in a unit of their own", async () => {
    const id = await make({ quantityUnit: "Hz" });
    await chooseTake(opened, id, "q1", "frequency");
    expect((await openCase(opened, id)).evidence.quantities[0].take).toBe("frequency");
    await expect(chooseTake(opened, id, "q1", "strouhal")).rejects.toThrow(/is in Hz; a Strouhal number is a pure number/);
    const pure = await make({ quantityUnit: "" });
    await chooseTake(opened, pure, "q1", "strouhal");
    await chooseTake(opened, pure, "q1", "mean");
    expect((await openCase(opened, pure)).evidence.quantities[0].take).toBe("mean");
    await expect(chooseTake(opened, id, "q9", "mean")).rejects.toMatchObject({ code: "not-found" });
  });
  test("pictures of a record: the mean the assessment speaks of, its spectrum and one period", async () => {
    const id = await make();
    const run = await bringIn(opened, id, { ...words, roles: ["time", "quantity:q1"], history: { name: "t.csv", text: wave }, quantities: null });
    const p = await recordPictures(opened, run.id, "q1");
    expect(p.average.mean).toBe((await openCase(opened, id)).assessment.settling[0].averages[0].mean);
    expect(p.average.peak?.frequency).toBeCloseTo(0.4, 2);
    expect(p.spectrum.reduce((top, l) => (l.density > top.density ? l : top)).frequency).toBeCloseTo(0.4, 0);
    expect(p.spectrum.every((l) => l.frequency > 0)).toBe(true);
    expect(p.lengths.at(-1)?.mean).toBeCloseTo(p.average.mean, 12);
    expect(p.phase).toHaveLength(24);
    expect(p.histogram.reduce((n, b) => n + b.count, 0)).toBe(p.average.samples);
    expect(await recordPictures(opened, run.id, "q1")).toBe(p);
    await expect(recordPictures(opened, run.id, "q9")).rejects.toMatchObject({ code: "not-found" });
    await expect(recordPictures(opened, gone, "q1")).rejects.toMatchObject({ code: "not-found" });
    const short = await bringIn(opened, id, { ...STEADY, history: { name: "s.csv", text: "iteration,res,drag (N)\n1,1,1\n2,1,1\n" } });
    await expect(recordPictures(opened, short.id, "q1")).rejects.toThrow(/too short to average/);
  });
  test("a record as CSV: every column with its unit, gaps empty", () => {
    const text = recordText(
      {
        iteration: Float64Array.of(1, 2),
        time: Float64Array.of(0.1, 0.2),
        residuals: { mass: Float64Array.of(1, Number.NaN) },
        quantities: { q1: Float64Array.of(3, 4), x: Float64Array.of(5, 6) },
        balances: { mass: Float64Array.of(0.5, 0.25) },
      },
      [{ key: "q1", name: "drag", unit: "N" }],
    );
    const read = readDelimited(text);
    expect(text.split("\n")[0]).toBe("iteration,time (s),mass residual (1),drag (N),x,net mass over throughput (1)");
    expect(read.ok && read.table.cells).toEqual([
      ["1", "0.1", "1", "3", "5", "0.5"],
      ["2", "0.2", "", "4", "6", "0.25"],
    ]);
  });
});

describe("what is said of sources", () => {
  const said = { source: "domain" as const, quantityKey: null, kind: "estimated" as const, value: "1 %", reason: "r", by: "H. M." };
  const kept = async (id: string) => (await openCase(opened, id)).evidence.settlements ?? [];
  test("one statement a source and quantity; what does not apply has no size", async () => {
    const id = await make();
    await settleSource(opened, id, said, new Date("2026-04-03T08:00:00Z"));
    expect(await kept(id)).toMatchObject([{ source: "domain", relative: 0.01, at: "2026-04-03T08:00:00.000Z", by: "H. M." }]);
    await settleSource(opened, id, { ...said, value: "2 %" });
    expect((await kept(id)).map((s) => s.relative)).toEqual([0.02]);
    await settleSource(opened, id, { ...said, quantityKey: "q1", kind: "not-applicable", value: "" });
    expect((await kept(id)).map((s) => [s.quantityKey, s.relative])).toEqual([
      [null, 0.02],
      ["q1", undefined],
    ]);
    await settleSource(opened, id, { ...said, source: "inputs" });
    await withdrawSettlement(opened, id, "domain", "q1");
    expect((await kept(id)).map((s) => s.source)).toEqual(["inputs"]);
    const elsewhere = { ...said, kind: "measured" as const, value: "1 %" };
    await expect(settleSource(opened, id, elsewhere)).rejects.toMatchObject({ details: { link: expect.stringContaining("Say where") } });
    await expect(settleSource(opened, id, { ...said, quantityKey: "q9" })).rejects.toThrow("There is no such quantity.");
    await expect(settleSource(opened, id, { ...said, value: "-1 %" })).rejects.toMatchObject({ details: { value: expect.any(String) } });
    await expect(settleSource(opened, gone, said)).rejects.toMatchObject({ code: "not-found" });
    await expect(withdrawSettlement(opened, gone, "domain", "q1")).rejects.toMatchObject({ code: "not-found" });
  });
  test("taken back of one quantity it stands for the others", async () => {
    const id = await make();
    await settleSource(opened, id, { ...said, quantityKey: "q1" });
    await withdrawSettlement(opened, id, "domain", "q2");
    expect(await kept(id)).toHaveLength(1);
  });
  test("precisions among other settings", async () => {
    await statePrecision(opened, { code: "Lintel", precision: "double" });
    expect(
      precisionOf([
        { key: "cores", value: 2 },
        { key: "precision:A", value: "single" },
        { key: "precision:B", value: "unknown" },
        { key: "precision:C", value: "double" },
      ]),
    ).toEqual({ A: "single", C: "double" });
  });
});

test("findings are kept, changed, deleted and brought back", async () => {
  const id = await make();
  const finding = { title: "leak", what: "w", cause: "", change: "", shownBy: null, curedBy: null };
  const made = await createFinding(opened, id, finding);
  await saveFinding(opened, made.id, { ...finding, cause: "a gap" });
  const all = async () => (await listFindings(opened.db)).filter((f) => f.caseId === id);
  expect((await all())[0].cause).toBe("a gap");
  expect((await openCase(opened, id)).findings.map((f) => f.title)).toEqual(["leak"]);
  const [q] = await listQuantities(opened.db, id);
  await saveFinding(opened, made.id, { ...finding, causeKey: "interface", quantityKey: q.key, stage: "balance" });
  expect((await openCase(opened, id)).evidence.openFindings).toContainEqual({ title: finding.title, quantityKey: q.key });
  await expect(createFinding(opened, id, { ...finding, quantityKey: "none" })).rejects.toThrow("no such quantity");
  await expect(saveFinding(opened, made.id, { ...finding, quantityKey: "none" })).rejects.toThrow("no such quantity");
  expect(() => FindingInput.parse({ ...finding, causeKey: "fate" })).toThrow("no cause of the list");
  await deleteFinding(opened, made.id);
  expect((await openCase(opened, id)).evidence.openFindings).toBeUndefined();
  expect(await all()).toEqual([]);
  await restoreFinding(opened, made.id);
  expect(await all()).toHaveLength(1);
});

describe("uploads and logs", () => {
  const body = (...parts: string[]) =>
    new ReadableStream<Uint8Array>({
      start(c) {
        for (const p of parts) c.enqueue(new TextEncoder().encode(p));
        c.close();
      },
    });
  test("what arrives whole is kept by its content; nothing, or less than was sent, is not", async () => {
    const taken = await takeUpload(opened, body("a,b\n", "1,2\n"), 8);
    expect(taken.bytes).toBe(8);
    expect(new TextDecoder().decode(await opened.blobs.get(taken.hash))).toBe("a,b\n1,2\n");
    await expect(takeUpload(opened, null)).rejects.toThrow("No file came.");
    await expect(takeUpload(opened, body())).rejects.toThrow("The file is empty.");
    await expect(takeUpload(opened, body("a,b\n9,9\n"), 9)).rejects.toThrow("Only 8 of 9 bytes arrived.");
    expect((await takeUpload(opened, body("x"))).bytes).toBe(1);
  });
  test("logs of the watched folder, the newest first; hidden files and folders are none", async () => {
    const folder = path.join(opened.folder, "logs");
    await mkdir(path.join(folder, "sub"), { recursive: true });
    await writeFile(path.join(folder, ".hidden"), "x");
    await writeFile(path.join(folder, "a.log"), "abc");
    const found = await listLogs(opened);
    expect(found.map((l) => [l.name, l.bytes])).toEqual([["a.log", 3]]);
    await expect(beginReading(opened, { log: "/etc/passwd" })).rejects.toThrow(/not in a watched folder/);
    await expect(beginReading(opened, { name: "x", hash: "0".repeat(64) })).rejects.toThrow(/no longer at hand/);
  });
  test("a reading nobody knows is said to be gone, and giving it up breaks nothing", async () => {
    const id = await make();
    await expect(readingState(opened, id, gone)).rejects.toThrow(/no longer at hand/);
    await expect(checkMapping(opened, id, gone, { roles: [] })).rejects.toThrow(/no longer at hand/);
    await expect(columnPicture(gone, 0)).rejects.toThrow(/no longer at hand/);
    expect(() => dropReading(gone)).not.toThrow();
  });
});
