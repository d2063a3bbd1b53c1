import { z } from "zod";
import { ReportDocument } from "../../core/formats/reportDocument.ts";
import type { Store } from "../db/store.ts";
import { desk } from "../desk/desk.ts";
import type { Papers } from "../desk/paperTasks.ts";
import type { RecordMaterial } from "../desk/records.ts";
import type { Told } from "../desk/told.ts";
import type { ReportMaterial } from "../report/document.ts";
import { findReport, insertReport, nextReportNumber, type ReportRow } from "../repositories/findings.ts";
import { findProgramme } from "../repositories/programmes.ts";
import { listFields } from "../repositories/runs.ts";
import { recordsOf } from "./assessed.ts";
import type { CaseBook } from "./caseBook.ts";
import { credibilityOf } from "./credibility.ts";
import { openCase } from "./evidence.ts";
import { UseCaseError } from "./failure.ts";

export const IssueInput = z.object({ issuedBy: z.string().trim().min(1, "Say who issues it; initials are enough.").max(80) });

interface Issuing {
  readonly ending: AbortController;
  told: Told;
}

const held = globalThis as unknown as { tinRulerIssuing?: Map<string, Issuing> };
const issuing = (): Map<string, Issuing> => {
  held.tinRulerIssuing ??= new Map();
  return held.tinRulerIssuing;
};

/** How far the report of a case is that is being made. */
export const reportUnderWay = (caseId: string): Told | undefined => issuing().get(caseId)?.told;

/** Gives up the report that is being made of a case. */
export function giveUpReport(caseId: string): void {
  issuing().get(caseId)?.ending.abort();
}

/**
 * Freezes a case into a numbered report: document, PDF and archive are stored by content and never change. Reports of one case follow one another;
 * its other changes need not wait.
 */
export const issueReport = (opened: Store, caseId: string, issuedBy: string, at = new Date()): Promise<ReportRow> =>
  opened.alone(`report of ${caseId}`, async () => {
    const ending = new AbortController();
    const state: Issuing = { ending, told: { done: 0, of: 1, what: "Reading the evidence" } };
    issuing().set(caseId, state);
    try {
      const material = await materialOf(opened, await openCase(opened, caseId), issuedBy, at);
      const told = (now: Told) => {
        state.told = now;
      };
      return await store(opened, material, await desk().ask("report", material, { told, signal: ending.signal }));
    } finally {
      issuing().delete(caseId);
    }
  });

async function materialOf(opened: Store, book: CaseBook, issuedBy: string, issuedAt: Date): Promise<ReportMaterial> {
  // A report is for good: none is made of half the evidence.
  if (book.damaged.length)
    throw new UseCaseError("conflict", `No report is issued while something stored of the case is damaged. ${book.damaged[0]}`);
  const { derived, quantities, runs } = book.evidence;
  const blobs = opened.blobs.folder;
  const records: Record<string, RecordMaterial> = {};
  for (const [id, source] of Object.entries(await recordsOf(opened, book.assessment.ladder))) {
    const run = runs.find((r) => r.id === id);
    records[id] = { blobs, source, ...(run && derived ? { worked: { run, derived, quantities } } : {}) };
  }
  const [leading] = quantities;
  const finest = book.runs.find((r) => r.id === book.assessment.ladder[0]);
  const rows = finest ? await listFields(opened.db, finest.id) : [];
  return {
    book,
    number: await nextReportNumber(opened.db, book.row.id),
    issuedBy,
    issuedAt,
    ...(leading ? { credibility: await credibilityOf(opened, book, leading.key, OTHERS_MS) } : {}),
    programme: (await findProgramme(opened.db, book.row.programmeId))?.name ?? "",
    blobs,
    records,
    studied: await studiedMeshes(opened, book),
    ...(finest?.settings.problemId && rows.length ? { fields: { settings: finest.settings, rows } } : {}),
  };
}

/** how long a report waits for the other cases its credibility rests on */
const OTHERS_MS = 20_000;

const STUDIED = 3;

/** The finest meshes of the family whose runs left fields. */
async function studiedMeshes(opened: Store, { assessment, runs }: CaseBook): Promise<ReportMaterial["studied"]> {
  const rungs = (assessment.refinement[0]?.rungs ?? []).filter((g) => !g.leftOut);
  const found: ReportMaterial["studied"][number][] = [];
  for (const { runId, label, spacing } of rungs.slice(0, STUDIED)) {
    const run = runs.find((r) => r.id === runId);
    const rows = run?.settings.problemId ? await listFields(opened.db, runId) : [];
    if (run && rows.length) found.push({ label, spacing, source: { settings: run.settings, rows } });
  }
  return found;
}

async function store(opened: Store, { book, number, issuedBy, issuedAt }: ReportMaterial, papers: Papers): Promise<ReportRow> {
  const [document, pdf, archive] = await Promise.all([
    opened.blobs.put(papers.document),
    opened.blobs.put(papers.pdf),
    opened.blobs.put(papers.archive),
  ]);
  return insertReport(opened.db, { caseId: book.row.id, number, issuedBy, issuedAt, evidenceHash: book.evidenceHash, document, pdf, archive });
}

export async function readReport(opened: Store, caseId: string, number: number): Promise<{ row: ReportRow; document: ReportDocument }> {
  const row = await findReport(opened.db, caseId, number);
  if (!row) throw new UseCaseError("not-found", `There is no report ${number} of this case.`);
  const document = ReportDocument.parse(JSON.parse(new TextDecoder().decode(await opened.blobs.get(row.document))));
  return { row, document };
}
