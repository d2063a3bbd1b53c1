import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { type ReportDifference, reportDifferences } from "../../core/formats/reportDifferences.ts";
import { BlobStore } from "../blobs/blobStore.ts";
import { assess, fromLibrary, yardsticks } from "../desk/caseTasks.ts";
import type { Tell } from "../desk/told.ts";
import { hashBytes } from "../hash.ts";
import { methodVersion } from "../method.ts";
import { buildReport } from "../report/document.ts";
import { reportPdf } from "../report/pdf.ts";
import type { CaseBook } from "../usecases/caseBook.ts";
import { evidenceOf, judged } from "../usecases/evidenceOf.ts";
import { UseCaseError } from "../usecases/failure.ts";
import { broughtIn } from "./evidenceFiles.ts";
import { type Files, MANIFEST, manifestProblems } from "./manifest.ts";
import { materialFrom } from "./material.ts";
import { namedBytes } from "./namedBytes.ts";
import { lineProblems } from "./packedLine.ts";
import { INPUTS, packFiles, resting, TIME_LINE, zipped } from "./packFiles.ts";
import { type Pack, readPack, unpacked } from "./readPack.ts";
import type { Stored } from "./stored.ts";

/** What came of checking a pack. */
export interface PackCheck {
  readonly title: string;
  readonly number: number;
  readonly issuedBy: string;
  readonly issuedAt: string;
  /** SHA-256 of the list of sums: two packs with the same one have the same files */
  readonly manifest: string;
  readonly files: number;
  /** figures, sentences and verdicts that were compared */
  readonly compared: number;
  /** files that are not those that were packed, entries of the time line that are not as they were entered */
  readonly changed: readonly string[];
  /** lines of the report that come out otherwise */
  readonly differences: readonly ReportDifference[];
  /** files that are made of the inputs and come out otherwise */
  readonly otherFiles: readonly string[];
  /** what could not be made again, in sentences */
  readonly notChecked: readonly string[];
  /** the report was made by this very code */
  readonly sameMethod: boolean;
  /** the zip is byte for byte as it was packed */
  readonly asPacked: boolean;
  readonly holds: boolean;
  readonly sentence: string;
}

/** A pack with what is wrong with its files by what they say of one another: nothing is worked out for it. */
export interface Intact {
  readonly pack: Pack;
  readonly changed: readonly string[];
  readonly asPacked: boolean;
}

/** Holds the files of a pack against its list, the sums its report names and the hashes its inputs name. @throws {UseCaseError} it is no pack */
export function intact(bytes: Uint8Array): Intact {
  const files = unpacked(bytes);
  const pack = readPack(files);
  const { document, stored, line } = pack;
  const named = [
    [INPUTS, document.rests?.inputs],
    [TIME_LINE, document.rests?.timeLine],
  ] as const;
  const changed = [
    ...manifestProblems(files),
    ...named.flatMap(([path, sum]) =>
      sum && files[path] && hashBytes(files[path]) !== sum ? [`${path} is not the one the report was made from.`] : [],
    ),
    ...unnamed(files, stored),
    ...lineProblems(line),
  ];
  return { pack, changed, asPacked: isAsPacked(bytes, files, stored.report.issuedAt) };
}

/** Checks a pack: its files against what they say of one another, and every figure of its report against what its inputs give now. @throws {UseCaseError} it is no pack */
export async function assessPack(bytes: Uint8Array, tell: Tell = () => undefined): Promise<PackCheck> {
  const { pack, changed, asPacked } = intact(bytes);
  const { files } = pack;
  const folder = await mkdtemp(path.join(tmpdir(), "tin-ruler-pack-"));
  try {
    const again = await madeAgain(pack, folder, tell).catch((error: unknown) => {
      if (error instanceof UseCaseError) throw error;
      throw new UseCaseError("invalid", `The report cannot be made again from what the pack holds: ${(error as Error).message}`);
    });
    const differences = reportDifferences(pack.document, again.document);
    const otherFiles = union(files, again.files).filter((p) => p !== MANIFEST && !same(files[p], again.files[p]));
    return told({ pack, changed, differences, otherFiles, notChecked: again.notChecked, asPacked });
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** Whether a zip is byte for byte what packing its files gives. */
function isAsPacked(bytes: Uint8Array, files: Files, at: Date): boolean {
  try {
    return Buffer.from(zipped(files, at)).equals(bytes);
  } catch {
    // A date or a name no zip can have: it was not packed so.
    return false;
  }
}

/** Files that should be what the inputs name by hash, and are not. */
function unnamed(files: Files, stored: Stored): string[] {
  const known = new Set(broughtIn(stored).map((f) => f.hash));
  return Object.entries(files).flatMap(([path, bytes]) => {
    const hash = hashBytes(bytes);
    if (path.startsWith("files/") && !known.has(hash)) return [`${path} is not a file that a run or a yardstick was made from.`];
    return path.startsWith("blobs/") && path !== `blobs/${hash}` ? [`${path} is not what its name says.`] : [];
  });
}

const union = (a: Files, b: Files): string[] => [...new Set([...Object.keys(a), ...Object.keys(b)])].sort();
const same = (a: Uint8Array | undefined, b: Uint8Array | undefined): boolean => a !== undefined && b !== undefined && Buffer.compare(a, b) === 0;

type Found = Pick<PackCheck, "changed" | "differences" | "otherFiles" | "notChecked" | "asPacked"> & { readonly pack: Pack };

function told({ pack, ...found }: Found): PackCheck {
  const { document: d, files, stored } = pack;
  const compared =
    d.tables.reduce((n, t) => n + t.rows.length * t.columns.length, 0) +
    d.sections.reduce((n, s) => n + s.sentences.length, 0) +
    2 * d.verdicts.length;
  const sameMethod = stored.method === methodVersion();
  const holds = !found.changed.length && !found.differences.length && !found.notChecked.length && (!found.otherFiles.length || !sameMethod);
  return {
    title: d.title,
    number: d.number,
    issuedBy: d.issuedBy,
    issuedAt: d.issuedAt,
    manifest: hashBytes(files[MANIFEST]),
    files: Object.keys(files).length,
    compared,
    ...found,
    sameMethod,
    holds,
    sentence: sentenceOf({ ...found, files: Object.keys(files).length, compared, sameMethod, holds }),
  };
}

type Counted = Pick<PackCheck, "changed" | "differences" | "otherFiles" | "notChecked" | "asPacked" | "files" | "compared" | "sameMethod" | "holds">;

function sentenceOf(c: Counted): string {
  const code = c.sameMethod ? "" : " The report was made by another version of Tin Ruler; this is what the present one gives.";
  const packed =
    c.asPacked || c.changed.length ? "" : " The zip itself is another one: somebody packed the same files anew, or changed what no file holds.";
  if (c.holds)
    return `All ${c.files} files are those that were packed, and ${c.compared} figures and sentences of the report come out the same.${packed}${code}`;
  const said = [
    c.changed.length ? `${c.changed.length} ${c.changed.length > 1 ? "things are" : "thing is"} not as packed` : "",
    c.differences.length ? `${c.differences.length} of ${c.compared} figures and sentences come out otherwise` : "",
    c.notChecked.length ? c.notChecked.join(" ").replace(/\.$/, "") : "",
    c.otherFiles.length ? `${c.otherFiles.length} files come out otherwise` : "",
  ].filter(Boolean);
  return `It does not hold: ${said.join("; ")}.${packed}${code}`;
}

/** The pack as its own inputs make it. */
async function madeAgain(pack: Pack, folder: string, tell: Tell) {
  const { line } = pack;
  const blobs = new BlobStore(folder);
  const there = new Set<string>();
  for (const bytes of namedBytes(pack.files, pack.stored)) there.add(await blobs.put(bytes));
  // A record that is not in the pack is not looked for elsewhere: this machine may remember it.
  const stored = { ...pack.stored, histories: pack.stored.histories.filter((h) => there.has(h.blob)) };
  const missing = pack.stored.histories.filter((h) => !there.has(h.blob)).map((h) => stored.runs.find((r) => r.id === h.runId)?.label ?? h.runId);
  const notChecked = missing.length ? [`No record in the pack is that of ${missing.join(", ")}: what rests on it comes out otherwise.`] : [];
  const books: CaseBook[] = [];
  const of = stored.cases.length + 3;
  for (const row of stored.cases) {
    tell({ done: books.length, of, what: `Assessing ${row.title}` });
    books.push(await bookOf(stored, row, folder));
  }
  notChecked.push(...books.flatMap((b) => b.damaged));
  tell({ done: books.length, of, what: "Writing the report again" });
  const material = materialFrom(stored, books, folder);
  const document = resting(await buildReport(material), pack.stored, line);
  tell({ done: books.length + 1, of, what: "Setting its pages again" });
  const pdf = await reportPdf(document);
  tell({ done: books.length + 2, of, what: "Comparing" });
  return { document, files: await packFiles({ material, stored: pack.stored, document, pdf, line }), notChecked };
}

async function bookOf(stored: Stored, row: Stored["cases"][number], folder: string): Promise<CaseBook> {
  try {
    const { method, precision } = stored;
    const book = await evidenceOf({ row, rows: stored, precision, method, answers: { yardsticks, fromLibrary } });
    const records = Object.fromEntries(
      book.evidence.runs.flatMap((r) => {
        const history = stored.histories.find((h) => h.runId === r.id);
        return r.result && history ? [[r.id, { stored: history }]] : [];
      }),
    );
    return judged(book, await assess({ blobs: folder, evidence: book.evidence, records }));
  } catch (error) {
    if (error instanceof UseCaseError) throw error;
    throw new UseCaseError("invalid", `${row.title} cannot be assessed from what the pack holds: ${(error as Error).message}`);
  }
}
