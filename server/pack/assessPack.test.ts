import { strFromU8, strToU8 } from "fflate";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { readAssessment } from "../../core/assessment/stored.ts";
import { randomFrom } from "../../core/numeric/random.ts";
import type { Store } from "../db/store.ts";
import { listQuantities } from "../repositories/cases.ts";
import { createCase, createYardstick } from "../usecases/cases.ts";
import { createFinding } from "../usecases/findings.ts";
import { createDerived } from "../usecases/quantities.ts";
import { issueReport } from "../usecases/reports.ts";
import { bringSettled } from "../usecases/settledRunForTests.ts";
import { newCase, temporaryStore } from "../usecases/testStore.ts";
import { enter } from "../usecases/timeLine.ts";
import { assessPack, intact } from "./assessPack.ts";
import { CRATE, crateOf } from "./crate.ts";
import { type Files, MANIFEST, manifestOf } from "./manifest.ts";
import { zipped } from "./packFiles.ts";
import { unpacked } from "./readPack.ts";

let opened: Store;
let close: () => Promise<void>;
let pack: Uint8Array;
let files: Files;

/** A case of another code with three meshes, a formula, a measurement, a finding and a time line. */
async function caseWithAll(title: string, value: number): Promise<string> {
  const { id } = await createCase(opened, newCase({ title, purpose: "How much the curtain holds back." }));
  const [q] = await listQuantities(opened.db, id);
  await createDerived(opened, id, { name: "twice the drag", formula: `2 * ${q.key}`, unit: q.unit, limit: "2 %" });
  await createYardstick(opened, id, {
    name: "balance",
    source: "wind box",
    kind: "measured",
    quantityKey: q.key,
    value: `${value} N`,
    uncertainty: "1 %",
  } as never);
  for (const [k, cells] of [8000, 1000, 125].entries()) await bringSettled(opened, id, value + 0.01 * 4 ** k, { label: `mesh ${k + 1}`, cells });
  await createFinding(opened, id, { title: "too high", what: "by a little", severity: "minor" } as never);
  await enter(opened, { method: "put", path: "/cases/{id}", says: "Changes a case.", at: { id }, input: { by: "H. M.", title } });
  await enter(opened, { method: "put", path: "/settings/precision", says: "States a precision.", at: {}, input: {} });
  return id;
}

const issuedAt = new Date("2026-11-02T10:20:30Z");

beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("pack"));
  const id = await caseWithAll("Curtain", 60);
  const { archive } = await issueReport(opened, id, "H. M.", issuedAt, { text: "Words **of** our own." });
  pack = await opened.blobs.get(archive);
  files = unpacked(pack);
});
afterAll(() => close());

/** The pack with some files as somebody would leave them who also writes the lists anew. */
function resealed(change: Files): Uint8Array {
  const changed: Record<string, Uint8Array> = { ...files, ...change };
  const { [CRATE]: _crate, [MANIFEST]: _manifest, ...rest } = changed;
  const d = JSON.parse(strFromU8(changed["report.json"]));
  const { bench, method } = JSON.parse(strFromU8(files["inputs.json"]));
  changed[CRATE] = strToU8(`${JSON.stringify(crateOf(d, rest, { version: bench, method }), null, 1)}\n`);
  changed[MANIFEST] = strToU8(manifestOf(changed));
  return zipped(changed, issuedAt);
}

describe("an evidence pack", () => {
  test("is assessed to the same figures where nothing of the data folder is", async () => {
    const found = await assessPack(pack);
    expect(found).toMatchObject({
      title: "Curtain",
      number: 1,
      changed: [],
      differences: [],
      otherFiles: [],
      notChecked: [],
      asPacked: true,
      holds: true,
    });
    expect(found.compared).toBeGreaterThan(80);
    expect(found.sentence).toBe(
      `All ${Object.keys(files).length} files are those that were packed, and ${found.compared} figures and sentences of the report come out the same.`,
    );
  });
  test("holds as well where the assessment was not just worked out, but kept in the database", async () => {
    const [{ caseId }] = JSON.parse(strFromU8(files["inputs.json"])).quantities;
    const held = globalThis as unknown as { tinRulerAssessments?: unknown };
    const before = held.tinRulerAssessments;
    delete held.tinRulerAssessments;
    const { archive } = await issueReport(opened, caseId, "K. B.", issuedAt);
    expect(held.tinRulerAssessments).not.toBe(before);
    expect(await assessPack(await opened.blobs.get(archive))).toMatchObject({ number: 2, differences: [], otherFiles: [], holds: true });
  });
  test("has the data in open files: records, tables with their metadata, what was brought in, the research object's metadata", () => {
    const names = Object.keys(files);
    expect(names).toEqual(
      expect.arrayContaining(["report.pdf", "report.html", "inputs.schema.json", "records/mesh-1.csv", "files/h.csv", "time-line.json"]),
    );
    for (const csv of names.filter((n) => n.endsWith(".csv") && !n.startsWith("files/"))) {
      const { url, tableSchema } = JSON.parse(strFromU8(files[`${csv}-metadata.json`]));
      const head = strFromU8(files[csv]).split("\n")[0];
      expect(csv.endsWith(`/${url}`)).toBe(true);
      expect(tableSchema.columns).toHaveLength(head.replace(/"[^"]*"/g, "x").split(",").length);
    }
    expect(readAssessment(JSON.parse(strFromU8(files["assessment.json"])))?.verdicts).toHaveLength(2);
    for (const schema of names.filter((n) => n.endsWith("schema.json")))
      expect(JSON.parse(strFromU8(files[schema]))).toMatchObject({ $schema: expect.stringContaining("2020-12"), title: expect.any(String) });
    const graph = JSON.parse(strFromU8(files[CRATE]))["@graph"];
    const root = graph.find((e: { "@id": string }) => e["@id"] === "./");
    expect(root.hasPart.map((p: { "@id": string }) => decodeURI(p["@id"])).sort()).toEqual(names.filter((n) => n !== CRATE && n !== MANIFEST).sort());
    expect(strFromU8(files[MANIFEST])).toMatch(/^([0-9a-f]{64} {2}[\w./-]+\n)+$/);
  });
  test("of two cases holds both, and both are assessed", async () => {
    const [a, b] = [await caseWithAll("First", 50), await caseWithAll("Second", 70)];
    const { archive } = await issueReport(opened, a, "K. B.", issuedAt, { also: [b], blocks: ["comparison", "runs"] });
    const bytes = await opened.blobs.get(archive);
    const found = await assessPack(bytes);
    expect(found).toMatchObject({ holds: true, differences: [] });
    const { sections, verdicts, cases } = JSON.parse(strFromU8(unpacked(bytes)["report.json"]));
    expect(sections.map((s: { title: string }) => s.title)).toEqual([
      "For the decision",
      "First: Comparison",
      "First: Meshes and runs",
      "Second: Comparison",
      "Second: Meshes and runs",
      "References",
    ]);
    expect(verdicts.map((v: { quantity: string }) => v.quantity.split(":")[0])).toEqual(["First", "First", "Second", "Second"]);
    expect(cases.map((c: { title: string }) => c.title)).toEqual(["First", "Second"]);
  });
});

describe("a change is found", () => {
  test("of any single byte of the file: 200 seeded ones", () => {
    const random = randomFrom(14);
    const missed: number[] = [];
    for (let k = 0; k < 200; k++) {
      const at = Math.floor(random() * pack.length);
      const bytes = Uint8Array.from(pack);
      bytes[at] ^= 1 << Math.floor(random() * 8);
      if (!isFound(bytes)) missed.push(at);
    }
    expect(missed).toEqual([]);
  });
  test("of any single digit of any file, packed again as it is: 200 seeded ones", () => {
    const random = randomFrom(15);
    const paths = Object.keys(files).filter((p) => !p.endsWith(".pdf"));
    const missed: string[] = [];
    for (let k = 0; k < 200; k++) {
      const path = paths[Math.floor(random() * paths.length)];
      const changed = withDigit(files[path], random);
      if (changed && !isFound(zipped({ ...files, [path]: changed }, issuedAt))) missed.push(path);
    }
    expect(missed).toEqual([]);
  });
  test("of a digit of any file even where the lists are written anew: by the figures, or by the sums the report names", async () => {
    const random = randomFrom(16);
    const missed: string[] = [];
    // One of every folder and kind: each is made again for itself.
    const kinds = new Map(Object.keys(files).map((p) => [p.replace(/[^/]+(\.[a-z-]+){1,2}$/, "") + p.split(".").slice(1).join("."), p]));
    for (const path of [...kinds.values(), "inputs.json", "report.json"].filter((p) => p !== MANIFEST && p !== CRATE)) {
      const changed = withDigit(files[path], random);
      if (!changed) continue;
      const bytes = resealed({ [path]: changed });
      const found = await assessPack(bytes).catch(() => undefined);
      if (found && !found.changed.length && !found.differences.length && !found.otherFiles.length) missed.push(path);
      if (found?.holds) missed.push(`${path} holds`);
    }
    expect(missed).toEqual([]);
  }, 120_000);
  test("of a value in a record, with what it does to the figures named line by line", async () => {
    const text = strFromU8(files["records/mesh-1.csv"]);
    const lines = text.split("\n");
    const last = lines[30].split(",");
    const forged = [...lines.slice(0, 30), [last[0], last[1], String(Number(last[2]) * 1.01), ...last.slice(3)].join(","), ...lines.slice(31)];
    const found = await assessPack(resealed({ "records/mesh-1.csv": strToU8(forged.join("\n")) }));
    expect(found.holds).toBe(false);
    expect(found.notChecked.join()).toContain("No record in the pack is that of mesh 1");
    expect(found.differences.length).toBeGreaterThan(3);
    expect(found.sentence).toMatch(/^It does not hold: \d+ of \d+ figures and sentences come out otherwise/);
  });
  test("of the date it was issued at, even to one no zip can bear", async () => {
    const inputs = strToU8(strFromU8(files["inputs.json"]).replace(/"issuedAt": "2026-11-02/, '"issuedAt": "1826-11-02'));
    const found = intact(zipped({ ...files, "inputs.json": inputs }, issuedAt));
    expect(found.asPacked).toBe(false);
    expect(found.changed).toContain("inputs.json is not as it was packed: its sum is another one.");
  });
  test("of an added, a missing and a renamed file, each by its name", () => {
    const { "files/h.csv": moved, "report.pdf": _gone, ...rest } = files;
    const { changed } = intact(zipped({ ...rest, "files/i.csv": moved, "notes.txt": strToU8("x") }, issuedAt));
    expect(changed).toEqual([
      "files/h.csv is listed and is not there.",
      "report.pdf is listed and is not there.",
      "files/i.csv is there and not listed: it was added.",
      "notes.txt is there and not listed: it was added.",
    ]);
  });
});

/** Whether a pack tells by itself that it was changed; one that cannot be opened at all does. */
function isFound(bytes: Uint8Array): boolean {
  try {
    const { changed, asPacked } = intact(bytes);
    return changed.length > 0 || !asPacked;
  } catch {
    return true;
  }
}

/** A file with one of its digits another one; undefined where it has none. */
function withDigit(bytes: Uint8Array, random: () => number): Uint8Array | undefined {
  const digits = [...bytes.keys()].filter((i) => bytes[i] >= 48 && bytes[i] <= 57);
  if (!digits.length) return undefined;
  const at = digits[Math.floor(random() * digits.length)];
  const changed = Uint8Array.from(bytes);
  changed[at] = 48 + ((bytes[at] - 48 + 1 + Math.floor(random() * 8)) % 10);
  return changed;
}

describe("what is no pack is refused with a sentence", () => {
  test.each([
    ["nothing", new Uint8Array(0), "no zip file"],
    ["text", strToU8("iteration,drag\n1,2\n"), "no zip file"],
    ["another zip", zipped({ "a.txt": strToU8("a") }, issuedAt), "it has no inputs.json, no report.json, no manifest-sha256.txt"],
    [
      "inputs that are none",
      zipped({ "inputs.json": strToU8("{"), "report.json": strToU8("{}"), [MANIFEST]: strToU8("") }, issuedAt),
      "inputs.json cannot be read",
    ],
    [
      "inputs of another shape",
      zipped({ "inputs.json": strToU8("{}"), "report.json": strToU8("{}"), [MANIFEST]: strToU8("") }, issuedAt),
      "inputs.json is not as a pack has it: format",
    ],
  ])("%s", (_name, bytes, sentence) => {
    expect(() => intact(bytes)).toThrow(sentence);
  });
  test("a part that says it unpacks to a gigabyte", () => {
    const bytes = zipped({ "bomb.txt": new Uint8Array(4_000_000) }, issuedAt);
    const view = new DataView(bytes.buffer, bytes.byteOffset);
    const central = bytes.findIndex((_, i) => i < bytes.length - 4 && view.getUint32(i, true) === 0x02014b50);
    view.setUint32(central + 24, 0x7000_0000, true);
    expect(() => intact(bytes)).toThrow("says it unpacks to more than it can hold");
  });
});
