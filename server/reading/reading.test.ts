import { appendFile, mkdir, readFile, rename, rm, symlink, writeFile } from "node:fs/promises";
import path from "node:path";
import { build } from "esbuild";
import ExcelJS from "exceljs";
import { strToU8, unzipSync, zipSync } from "fflate";
import { afterAll, beforeAll, describe, expect, test, vi } from "vitest";
import { LOG_TRUTH, logText } from "../../demo/logWriter.ts";
import type { Store } from "../db/store.ts";
import { Follower } from "../jobs/follower.ts";
import { dropReading, findReading, startReading, tidyReadings } from "../jobs/readings.ts";
import { listQuantities } from "../repositories/cases.ts";
import { findRun, insertRun } from "../repositories/runs.ts";
import { foreignRun } from "../usecases/bringIn.ts";
import { createCase } from "../usecases/cases.ts";
import { loadHistory } from "../usecases/histories.ts";
import { createQuantity } from "../usecases/quantities.ts";
import { beginReading, columnPicture, takeUpload } from "../usecases/readings.ts";
import { sweepBlobs } from "../usecases/sweepBlobs.ts";
import { temporaryStore } from "../usecases/testStore.ts";
import { readRecordFile } from "./readFile.ts";

let root = "";
let opened: Store;
let close: () => Promise<void>;

beforeAll(async () => {
  ({ store: opened, root, close } = await temporaryStore("reading"));
}, 60_000);
afterAll(() => close());

const place = async (name: string, content: string | Uint8Array) => {
  const target = path.join(root, name);
  await writeFile(target, content);
  return target;
};

describe("files", () => {
  test("a sheet of a workbook reads as the table it shows; rows keep their numbers", async () => {
    const book = new ExcelJS.Workbook();
    book.addWorksheet("notes").addRow(["only words"]);
    const sheet = book.addWorksheet("record");
    sheet.addRow(["iteration", "mass residual", "drag (kN)"]);
    sheet.addRow([1, 0.5, 2]);
    sheet.getCell("A4").value = 2;
    sheet.getCell("B4").value = { formula: "B2/2", result: 0.25 };
    sheet.getCell("C4").value = "two";
    const target = await place("record.xlsx", new Uint8Array(await book.xlsx.writeBuffer()));
    const read = await readRecordFile(target, "record.xlsx", { sheet: "record" });
    if (!read.ok) throw new Error(read.problems[0].sentence);
    expect(read.sheets).toEqual(["notes", "record"]);
    expect(read.sheet).toMatchObject({ header: ["iteration", "mass residual", "drag"], units: [undefined, undefined, "kN"], rows: 2 });
    expect([...read.sheet.columns[1]]).toEqual([0.5, 0.25]);
    expect(read.sheet.faults[2]).toEqual([{ line: 4, column: "drag", sentence: '"two" is not a number.' }]);
    const absent = await readRecordFile(target, "record.xlsx", { sheet: "other" });
    expect(absent.ok ? "" : absent.problems[0].sentence).toContain('no sheet "other"');
  });

  test("a workbook as other programs write it: texts kept apart and in pieces, prefixes, parts named from the top, rows and cells without numbers, marks of failure", async () => {
    const bytes = zipSync({
      // the sheets before the list that names them, as some write them
      "xl/worksheets/one.xml": strToU8(
        '<x:worksheet xmlns:x="m"><x:sheetData><x:row><x:c t="s"><x:v>1</x:v></x:c><x:c t="s"><x:v>0</x:v></x:c></x:row><x:row r="3"><x:c><x:v>1</x:v></x:c><x:c r="B3"><x:f>1/8</x:f><x:v>0.125</x:v></x:c></x:row><x:row><x:c><x:v>2</x:v></x:c><x:c t="e"><x:v>#DIV/0!</x:v></x:c></x:row></x:sheetData></x:worksheet>',
      ),
      "xl/charts/sheet9.xml": strToU8("<chart/>"),
      "xl/texts.xml": strToU8(
        '<sst xmlns="m"><si><r><t>mass &amp; </t></r><r><t>heat</t></r><rPh><t>spoken</t></rPh></si><si><t xml:space="preserve"> iteration </t></si></sst>',
      ),
      "xl/workbook.xml": strToU8(
        '<workbook xmlns:p="q"><sheets><sheet name="é" sheetId="4" p:id="b"/><sheet name="bare" sheetId="5" p:id="absent"/></sheets></workbook>',
      ),
      "xl/_rels/workbook.xml.rels": strToU8(
        '<Relationships><Relationship Id="b" Type="t/worksheet" Target="/xl/worksheets/one.xml"/><Relationship Id="c" Type="t/sharedStrings" Target="texts.xml"/></Relationships>',
      ),
    });
    const read = await readRecordFile(await place("others.xlsx", bytes), "others.xlsx");
    if (!read.ok) throw new Error(read.problems[0].sentence);
    expect(read.sheets).toEqual(["é"]);
    expect(read.sheet).toMatchObject({ header: ["iteration", "mass & heat"], rows: 2 });
    expect([...read.sheet.columns[1]]).toEqual([0.125, Number.NaN]);
    expect([...read.sheet.lines]).toEqual([3, 4]);
    expect(read.sheet.faults[1]).toEqual([{ line: 4, column: "mass & heat", sentence: '"#DIV/0!" is not a number.' }]);
  });

  test("a sound workbook is never refused: asked for two hundred times, four at once", async () => {
    const book = new ExcelJS.Workbook();
    book.addWorksheet("notes").addRow(["only words"]);
    book.addWorksheet("record").addRows([["a"], [1]]);
    const target = await place("often.xlsx", new Uint8Array(await book.xlsx.writeBuffer()));
    const asked = async (): Promise<boolean> => (await readRecordFile(target, "often.xlsx", { sheet: "record" })).ok;
    for (let i = 0; i < 50; i++) expect(await Promise.all([asked(), asked(), asked(), asked()])).toEqual([true, true, true, true]);
  });

  test.each([
    ["a workbook cut off", "cut.xlsx", Uint8Array.of(0x50, 0x4b, 3, 4, 20, 0, 0, 0), "cannot be opened"],
    ["a workbook in name only", "old.xlsx", new TextEncoder().encode("it,r\n1,2\n"), "does not begin as one"],
    ["a line without an end", "long.csv", new TextEncoder().encode(`it,r\n${"1".repeat(1_200_000)}`), "more than a million characters"],
  ])("refused: %s", async (_name, name, bytes, words) => {
    const read = await readRecordFile(await place(name, bytes), name);
    expect(read.ok ? "" : read.problems[0].sentence).toContain(words);
  });

  test("a long reading tells how far it is and ends when it is told to", async () => {
    const target = await place("long.csv", `it,r\n${Array.from({ length: 400_000 }, (_, i) => `${i + 1},0.5`).join("\n")}\n`);
    const seen: number[] = [];
    const read = await readRecordFile(target, "long.csv", { progress: (p) => seen.push(p.rows), stopped: () => seen.length >= 2 });
    expect(read).toMatchObject({ ok: false, stopped: true });
    expect(seen[1]).toBeGreaterThan(seen[0]);
    const whole = await readRecordFile(target, "long.csv");
    expect(whole.ok && [whole.sheet.rows, whole.sheet.columns[0][399_999]]).toEqual([400_000, 400_000]);
  });

  test("an upload is kept by its content, and nothing is left of an empty one", async () => {
    const bytes = new TextEncoder().encode("it,r\n1,2\n");
    const taken = await takeUpload(opened, new Blob([bytes]).stream());
    expect([...(await opened.blobs.get(taken.hash))]).toEqual([...bytes]);
    await expect(takeUpload(opened, new Blob([]).stream())).rejects.toThrow("empty");
    const left = path.join(root, "data", "blobs", "arriving.1.x");
    await writeFile(left, "half");
    await sweepBlobs(opened);
    expect(await readFile(left, "utf8")).toBe("half");
    await opened.blobs.sweep(() => false, undefined, Date.now() + 2 * 3_600_000);
    await expect(readFile(left)).rejects.toThrow("ENOENT");
    await expect(takeUpload(opened, new Blob([Uint8Array.of(49, 50, 51)]).stream(), 900)).rejects.toThrow("Only 3 of 900 bytes arrived");
  });
});

describe("workbooks made to keep a reader busy", () => {
  const book = (rows: string, shared = "") =>
    zipSync({
      "[Content_Types].xml": strToU8('<?xml version="1.0"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"></Types>'),
      "xl/workbook.xml": strToU8(
        '<workbook xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet name="S" sheetId="1" r:id="rId1"/></sheets></workbook>',
      ),
      "xl/_rels/workbook.xml.rels": strToU8(
        '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" Target="worksheets/sheet1.xml"/></Relationships>',
      ),
      ...(shared ? { "xl/sharedStrings.xml": strToU8(shared) } : {}),
      "xl/worksheets/sheet1.xml": strToU8(`<worksheet><sheetData>${rows}</sheetData></worksheet>`),
    });
  const read = async (name: string, bytes: Uint8Array) => {
    const found = await readRecordFile(await place(name, bytes), name);
    return found.ok ? "read" : found.problems[0].sentence;
  };
  test("a row whose number no sheet can have", async () => {
    const row = (n: number) => `<row r="${n}"><c r="A${n}"><v>1</v></c></row>`;
    expect(await read("far.xlsx", book(row(1) + row(4_000_000_000)))).toContain("has a row of number 4000000000; 1048576 is the most");
  });
  test("a small file that unpacks to more than there is room for", async () => {
    // The size unpacked stands in the table of contents, 24 bytes behind the mark of each part.
    const bytes = Buffer.from(book("", "<sst></sst>"));
    bytes.writeUInt32LE(600 * 1024 * 1024, bytes.indexOf(Uint8Array.of(0x50, 0x4b, 1, 2)) + 24);
    expect(await read("bomb.xlsx", bytes)).toContain("Unpacked the workbook has 600 MB, more than 512");
  });
  test("one whose first part says it is shorter than it is: its table of contents counts", async () => {
    // The size packed stands twelve bytes before the name of a part.
    const bytes = Buffer.from(book('<row r="1"><c r="A1" t="inlineStr"><is><t>drag</t></is></c></row><row r="2"><c r="A2"><v>3</v></c></row>'));
    bytes.writeUInt32LE(20, bytes.indexOf("xl/workbook.xml") - 12);
    expect(await read("short.xlsx", bytes)).toBe("read");
  });
  test.each([
    ["a sheet that is cut off", '<row r="1"><c r="A1"><v>1</v>', "The workbook cannot be opened: "],
    ["a part that is no text of this kind", "<row r='1'>&other;</row>", "undefined entity"],
  ])("%s", async (_what, rows, words) => {
    expect(await read("broken.xlsx", book(rows))).toContain(words);
  });
  test("a figure that was changed since it was packed is not read", async () => {
    const bytes = Buffer.from(
      zipSync({ ...unzipSync(book('<row><c t="inlineStr"><is><t>drag</t></is></c></row><row><c><v>12345</v></c></row>')) }, { level: 0 }),
    );
    expect(await read("whole.xlsx", bytes)).toBe("read");
    bytes[bytes.indexOf("12345")]++;
    expect(await read("changed.xlsx", bytes)).toContain("its part xl/worksheets/sheet1.xml is not what was packed");
  });
  test("a text of millions of letters in a cell is looked at where it begins", async () => {
    const long = `<row r="1"><c r="A1" t="inlineStr"><is><t>${"a".repeat(3_000_000)}</t></is></c></row><row r="2"><c r="A2"><v>1</v></c></row>`;
    const found = await readRecordFile(await place("wide.xlsx", book(long)), "wide.xlsx");
    expect(found.ok && found.sheet.header[0].length).toBeLessThanOrEqual(200);
  });
  test("one whose table of contents is cut off", async () => {
    const bytes = book("");
    expect(await read("cut.xlsx", bytes.subarray(0, bytes.length - 40))).toContain("its table of contents cannot be read");
  });
});

test("readings that hang are ended, those nobody asks for and the oldest of too many are forgotten", async () => {
  const silent = await place("silent.mjs", "setInterval(() => {}, 1e6);");
  const hung = startReading({ name: "h.csv", path: silent }, silent);
  tidyReadings(Date.now() + 60_000);
  expect(hung.state).toBe("reading");
  tidyReadings(Date.now() + 121_000);
  expect(hung).toMatchObject({
    state: "refused",
    problems: [{ line: 1, sentence: expect.stringContaining("could not be read any further for 2 minutes") }],
  });
  const ended = await place("ended.mjs", "");
  const ids: string[] = [];
  for (let k = 0; k < 12; k++) {
    const r = startReading({ name: `${k}.csv`, path: ended }, ended);
    await vi.waitFor(() => expect(r.state).toBe("refused"), { timeout: 10_000 });
    r.touched = Date.now() + k;
    ids.push(r.id);
  }
  tidyReadings();
  expect(ids.map((id) => findReading(id) !== undefined)).toEqual(ids.map((_, k) => k >= 2));
  tidyReadings(Date.now() + 31 * 60_000);
  expect(ids.filter((id) => findReading(id))).toEqual([]);
});

describe("readings", () => {
  // Beside the packages it takes from there.
  const entry = path.resolve(`node_modules/.reader-test-${process.pid}.mjs`);
  beforeAll(() =>
    build({
      entryPoints: ["server/jobs/readerWorker.ts"],
      outfile: entry,
      bundle: true,
      format: "esm",
      platform: "node",
      target: "node20",
      packages: "external",
    }).then(() => undefined),
  );
  afterAll(() => rm(entry, { force: true }));
  const settled = async (id: string) => {
    await vi.waitFor(() => expect(findReading(id)?.state).not.toBe("reading"), { timeout: 20_000 });
    return findReading(id);
  };

  test("only logs in watched folders can be named", async () => {
    await expect(beginReading(opened, { log: "/etc/passwd" })).rejects.toThrow("not in a watched folder");
    await expect(beginReading(opened, { log: path.join(root, "data", "logs", "..", "database", "x") })).rejects.toThrow("not in a watched folder");
    await expect(beginReading(opened, { name: "x.csv", hash: "0".repeat(64) })).rejects.toThrow("choose it again");
  });

  test("a worker reads, a column is drawn with its spikes, and a discarded file is gone", async () => {
    const rows = Array.from({ length: 5000 }, (_, i) => `${i + 1},${i === 3333 ? 99 : Math.sin(i / 50)},${i % 2 ? "" : 1}`);
    const { hash } = await takeUpload(opened, new Blob([`it,wave,gaps\n${rows.join("\n")}\n`]).stream());
    const reading = startReading({ name: "wave.csv", path: opened.blobs.locate(hash), hash }, entry);
    expect(await settled(reading.id)).toMatchObject({ state: "done", rows: 5000 });
    const wave = await columnPicture(reading.id, 1);
    expect(wave.at.length).toBeLessThan(700);
    expect(Math.max(...wave.values.map(Number))).toBe(99);
    expect(wave.at[wave.values.indexOf(99)]).toBe(3334);
    expect((await columnPicture(reading.id, 2)).gaps).toBe(2500);
    await expect(columnPicture(reading.id, 7)).rejects.toThrow("no such column");
    await sweepBlobs(opened, 0);
    expect((await opened.blobs.get(hash)).length).toBeGreaterThan(0);
    dropReading(reading.id);
    await sweepBlobs(opened, 0);
    await expect(opened.blobs.get(hash)).rejects.toMatchObject({ code: "missing" });
    await expect(columnPicture(reading.id, 1)).rejects.toThrow("no longer at hand");
  });

  test("what cannot be read says where; a vanished file is no hung reading", async () => {
    const broken = startReading({ name: "b.csv", path: await place("b.csv", "it,r\n1,2\n3\n4,5\n") }, entry);
    expect(await settled(broken.id)).toMatchObject({ state: "refused", problems: [{ line: 3 }] });
    const gone = startReading({ name: "gone.csv", path: path.join(root, "gone.csv") }, entry);
    expect((await settled(gone.id))?.problems[0].sentence).toContain("could not be read");
  });
});

test("a log is followed while it grows, over a restart of its program and one of ours, and kept when it ends", async () => {
  const logs = path.join(root, "data", "logs");
  await mkdir(logs, { recursive: true });
  const log = path.join(logs, "louvre.log");
  const lines = [...logText(60)];
  const row = await createCase(opened, {
    title: "Louvre",
    purpose: "",
    problemId: null,
    fluidName: "air",
    temperature: "",
    pressure: "",
    quantityName: "reattachment length",
    quantityUnit: "m",
    parameters: { velocityMS: "2 m/s", lengthM: "50 mm", densityKgM3: "1.7 kg/m^3", viscosityPaS: "1.74e-5 Pa s" },
  });
  await createQuantity(opened, row.id, { name: "pressure drop", unit: "Pa", limit: "5 %" });
  const [length, drop] = await listQuantities(opened.db, row.id);
  const roles = ["iteration", "residual", "residual", `quantity:${length.key}`];
  const words = { label: "night", code: "Lintel", cells: 1000, volume: "1 m^3", dimension: 3 as const, roles };
  const made = async () => {
    const foreign = await foreignRun(opened, row.id, words, { follow: { path: log, roles, units: [null, null, null, "m"] } });
    return insertRun(opened.db, { ...foreign, state: "followed" });
  };
  // Half a line at the end waits for its rest.
  await writeFile(log, `${lines.slice(0, 12).join("\n")}\n${lines[12].slice(0, 9)}`);
  const run = await made();
  const first = new Follower(opened);
  await first.turn();
  expect((await loadHistory(opened, run.id))?.iteration).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9, 10]);
  await appendFile(log, `${lines[12].slice(9)}\n${lines.slice(13, 40).join("\n")}\n`);
  await first.turn();
  const joined = await loadHistory(opened, run.id);
  expect(joined?.iteration).toEqual(Array.from({ length: joined?.iteration.length ?? 0 }, (_, i) => i + 1));
  expect(joined?.quantities[drop.key].filter(Number.isFinite).length).toBeGreaterThan(5);
  await first.close();

  const second = new Follower(opened);
  await appendFile(log, `${lines.slice(40).join("\n")}\n61 broken\n`);
  await second.turn();
  expect((await findRun(opened.db, run.id))?.failure).toMatch(/Line \d+ of the log: 2 cells where the header in line \d+ has 5/);
  await second.finish(run.id);
  const kept = await findRun(opened.db, run.id);
  expect(kept).toMatchObject({ state: "done", iterations: 60 });
  expect(kept?.result?.quantities[length.key]).toBeCloseTo(LOG_TRUTH.reattachmentM, 1);
  expect(new TextDecoder().decode(await opened.blobs.get(kept?.settings.files?.[0].hash ?? ""))).toContain("61 broken");

  // Cells that are no numbers are gaps, lines without an iteration are left out, and the following goes on; a record in time that was restarted from an
  // earlier time keeps the later entries.
  const stray = path.join(logs, "stray.log");
  await writeFile(stray, "time,x_r\n0.1,1\n0.2,2\n0.3,bad\n,4\n0.4,5\n");
  const timed = ["time", `quantity:${length.key}`];
  const foreign = await foreignRun(opened, row.id, { ...words, roles: timed }, { follow: { path: stray, roles: timed, units: ["s", "m"] } });
  const wild = await insertRun(opened.db, { ...foreign, state: "followed" });
  await second.turn();
  expect((await findRun(opened.db, wild.id))?.failure).toContain('Line 4 of the log: "bad" is not a number.');
  await appendFile(stray, "0.5,6\n");
  await second.turn();
  expect((await loadHistory(opened, wild.id))?.iteration).toEqual([1, 2, 3, 4, 5]);
  await appendFile(stray, "0.25,7\n0.35,8\n");
  await second.turn();
  const restarted = await loadHistory(opened, wild.id);
  expect([restarted?.time, restarted?.quantities[length.key]]).toEqual([
    [0.1, 0.2, 0.25, 0.35],
    [1, 2, 7, 8],
  ]);
  await second.finish(wild.id);
  expect(await findRun(opened.db, wild.id)).toMatchObject({ state: "done", iterations: 4, result: { quantities: { [length.key]: 8 } } });

  // A longer log in the place of another is not mixed with it, and said; one that was only moved there with the same beginning goes on in silence.
  const swapped = await made();
  await second.turn();
  const other = path.join(logs, "other.log");
  await writeFile(
    other,
    `${lines.slice(0, 2).join("\n")} \n${lines.slice(2).join("\n")}\n${lines.slice(20).join("\n")}\n`.replace(lines[0], `# other\n${lines[0]}`),
  );
  const before = await readFile(log);
  await rename(other, log);
  await second.turn();
  expect((await findRun(opened.db, swapped.id))?.failure).toContain("Another log was put in the place of the one that was followed");
  await second.finish(swapped.id);
  expect((await findRun(opened.db, swapped.id))?.failure).toContain("the record is of the new one alone");
  await writeFile(log, before);
  const moved = await made();
  await second.turn();
  await writeFile(other, before);
  await rename(other, log);
  await appendFile(log, "61 1.5e-4 1.5e-4 1.5e-4 0.2\n62 1.5e-4 1.5e-4 1.5e-4 0.23");
  await second.turn();
  // Of a line that was cut off nobody knows whether its last number was whole.
  await second.finish(moved.id);
  const ended = await findRun(opened.db, moved.id);
  expect([ended?.iterations, ended?.failure]).toEqual([61, expect.stringContaining("The last line had no end and is left out.")]);
  expect(ended?.failure).not.toContain("Another log");

  // A log that becomes a link is not followed out of its folder; another beside it has its turn all the same.
  const [leading, beside] = [await made(), await insertRun(opened.db, { ...foreign, state: "followed" })];
  await second.turn();
  const secret = await place("secret.txt", `${lines.slice(0, 30).join("\n")}\n`);
  await rm(log);
  await symlink(secret, log);
  await appendFile(stray, "0.6,9\n");
  await second.turn();
  expect((await findRun(opened.db, leading.id))?.failure).toContain("has become a link, which is not followed");
  expect((await loadHistory(opened, leading.id))?.iteration.length).toBeGreaterThan(55);
  expect((await loadHistory(opened, beside.id))?.quantities[length.key].at(-1)).toBe(9);
  await second.finish(beside.id);
  await rm(log);
  await writeFile(log, before);

  // A log that begins anew takes its old record with it; one that vanishes is said to be gone.
  const again = await made();
  await second.turn();
  expect((await loadHistory(opened, again.id))?.iteration.length).toBe(60);
  await writeFile(log, `${lines.slice(0, 5).join("\n")}\n`);
  await second.turn();
  expect((await loadHistory(opened, again.id))?.iteration).toEqual([1, 2, 3]);
  await rm(log);
  await second.turn();
  expect((await findRun(opened.db, again.id))?.failure).toContain("is gone");
  await second.close();
}, 60_000);
