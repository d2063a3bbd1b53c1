import type { CaseEvidence } from "../../core/records/case.ts";
import type { Store } from "../db/store.ts";
import { hashOf } from "../hash.ts";
import { methodVersion } from "../method.ts";
import { caseStamp } from "../repositories/boardRows.ts";
import { type CaseRows, loadRows } from "../repositories/books.ts";
import type { CaseRow } from "../repositories/cases.ts";
import { listSettings } from "../repositories/runs.ts";
import { assessed, keptAnswers } from "./assessed.ts";
import type { CaseBook } from "./caseBook.ts";
import { evidenceOf, judged } from "./evidenceOf.ts";
import { UseCaseError } from "./failure.ts";
import { Kept } from "./kept.ts";
import { precisionOf } from "./sources.ts";

/** Loads a case and assesses it. */
export async function openCase(store: Store, caseId: string): Promise<CaseBook> {
  const own = await caseStamp(store.db, caseId);
  if (own === undefined) throw new UseCaseError("not-found", "There is no such case; it may have been deleted.");
  const books = booksOf(store);
  const stamp = `${caseId} ${await commonStamp(store)} ${own}`;
  const kept = books.find(stamp);
  if (kept) return kept;
  const [book] = await openCases(store, [caseId]);
  if (!book) throw new UseCaseError("not-found", "There is no such case; it may have been deleted.");
  // What cannot be read now may be brought back.
  if (!book.damaged.length) books.keep(stamp, book);
  return book;
}

const MOST_BOOKS = 12;

const held = globalThis as unknown as { tinRulerBooks?: WeakMap<object, Kept<CaseBook>> };

/** Cases as they were last opened, by the stamp of all that is stored of them: turning from stage to stage loads nothing anew. */
function booksOf(store: Store): Kept<CaseBook> {
  held.tinRulerBooks ??= new WeakMap();
  const books = held.tinRulerBooks.get(store.blobs) ?? new Kept<CaseBook>(MOST_BOOKS);
  held.tinRulerBooks.set(store.blobs, books);
  return books;
}

/** A word for what every case rests on besides its own: the method, and what was said of codes. */
export async function commonStamp(store: Store): Promise<string> {
  return hashOf({ method: methodVersion(), precision: precisionOf(await listSettings(store.db)) });
}

/** Loads several cases, in the order they were made; assessments of unchanged evidence are taken from the cache. */
export async function openCases(store: Store, ids: readonly string[]): Promise<CaseBook[]> {
  return (await openEach(store, ids)).map((found) => {
    if ("sentence" in found) throw found.error;
    return found;
  });
}

/** A case that cannot be shown, with the reason. */
export interface BrokenCase {
  readonly row: CaseRow;
  readonly sentence: string;
  readonly error: unknown;
}

/** Loads several cases; one that cannot be read or assessed leaves the others as they are. */
export async function openEach(store: Store, ids: readonly string[]): Promise<(CaseBook | BrokenCase)[]> {
  const rows = await loadRows(store.db, ids);
  const precision = precisionOf(await listSettings(store.db));
  const found: (CaseBook | BrokenCase)[] = [];
  for (const row of rows.cases)
    found.push(
      await openRows(store, row, rows, precision).catch((error) => ({
        row,
        sentence: error instanceof Error ? error.message : String(error),
        error,
      })),
    );
  return found;
}

/** A case from its rows, with what is judged of it. */
export async function openRows(store: Store, row: CaseRow, rows: CaseRows, precision: NonNullable<CaseEvidence["precision"]>): Promise<CaseBook> {
  const book = await evidenceOf({ row, rows, precision, answers: keptAnswers });
  return judged(book, await assessed(store, { evidence: book.evidence, evidenceHash: book.evidenceHash, title: row.title }));
}
