import type { Store } from "../db/store.ts";
import type { Gathered } from "../desk/paperTasks.ts";
import { benchVersion, methodVersion } from "../method.ts";
import { runsWithFields } from "../pack/material.ts";
import type { Stored } from "../pack/stored.ts";
import type { Composed } from "../report/document.ts";
import { loadRows } from "../repositories/books.ts";
import { listFields, listHistories, listSettings } from "../repositories/runs.ts";
import { keptRows } from "./board.ts";
import type { CaseBook } from "./caseBook.ts";
import { openRows } from "./evidence.ts";
import { UseCaseError } from "./failure.ts";
import { precisionOf } from "./sources.ts";

/** How a report is issued. */
export interface Issue {
  readonly number: number;
  readonly issuedBy: string;
  readonly issuedAt: Date;
  readonly composed: Composed;
}

/** how long a report waits for the other cases its credibility rests on */
const OTHERS_MS = 20_000;

/**
 * Everything a report is made from, read at one time, and what is judged of it.
 * @throws {UseCaseError} a case is not there, or something stored of one is damaged: no report is made of half the evidence
 */
export async function gathered(opened: Store, caseId: string, issue: Issue): Promise<Gathered> {
  const ids = [...new Set([caseId, ...(issue.composed.also ?? [])])];
  const rows = await loadRows(opened.db, ids);
  const cases = ids.map((id) => rows.cases.find((c) => c.id === id));
  const missing = cases.findIndex((c) => !c);
  if (missing >= 0)
    throw new UseCaseError("not-found", missing ? "One of the other cases is not there any more; choose again." : "There is no such case.");
  const precision = precisionOf(await listSettings(opened.db));
  const books: CaseBook[] = [];
  for (const row of cases.flatMap((c) => c ?? [])) {
    const book = await openRows(opened, row, rows, precision);
    if (book.damaged.length)
      throw new UseCaseError("conflict", `No report is issued while something stored of the case is damaged. ${book.damaged[0]}`);
    books.push(book);
  }
  const stored: Stored = {
    format: "tin-ruler-evidence",
    version: 1,
    method: methodVersion(),
    bench: benchVersion(),
    report: plainIssue(issue),
    ...rows,
    cases: books.map((b) => b.row),
    histories: await listHistories(
      opened.db,
      rows.runs.map((r) => r.id),
    ),
    fields: (await Promise.all(books.flatMap(runsWithFields).map((id) => listFields(opened.db, id)))).flat(),
    precision,
    others: (await keptRows(opened, OTHERS_MS)).map(({ id, title, programmeId, kind, codes, judged, verdicts, proofs, conditions, physics }) => ({
      id,
      title,
      programmeId,
      kind,
      codes: [...codes],
      ...(judged === undefined ? {} : { judged }),
      verdicts: [...verdicts],
      proofs: proofs.map((p) => ({ ...p })),
      conditions: conditions.map(({ key, name, value }) => ({ key, name, value })),
      physics,
    })),
  };
  return { stored: JSON.stringify(stored), books, blobs: opened.blobs.folder };
}

const plainIssue = ({ composed: { blocks, text, captions, also }, ...issue }: Issue): Stored["report"] => ({
  ...issue,
  composed: {
    ...(blocks ? { blocks: [...blocks] } : {}),
    ...(text ? { text } : {}),
    ...(captions ? { captions: { ...captions } } : {}),
    ...(also ? { also: [...also] } : {}),
  },
});
