import { z } from "zod";
import { ReportDocument } from "../../core/formats/reportDocument.ts";
import type { Store } from "../db/store.ts";
import { reportArchive } from "../report/archive.ts";
import { buildReport } from "../report/document.ts";
import { evidenceFiles } from "../report/evidenceFiles.ts";
import { reportPdf } from "../report/pdf.ts";
import { findReport, insertReport, nextReportNumber, type ReportRow } from "../repositories/findings.ts";
import { openCase } from "./evidence.ts";
import { UseCaseError } from "./failure.ts";

export const IssueInput = z.object({ issuedBy: z.string().trim().min(1, "Say who issues it; initials are enough.").max(80) });

/** Freezes a case into a numbered report: document, PDF and archive are stored by content and never change. */
export async function issueReport(opened: Store, caseId: string, issuedBy: string, at = new Date()): Promise<ReportRow> {
  const book = await openCase(opened, caseId);
  // A report is for good: none is made of half the evidence.
  if (book.damaged.length)
    throw new UseCaseError("conflict", `No report is issued while something stored of the case is damaged. ${book.damaged[0]}`);
  const number = await nextReportNumber(opened.db, caseId);
  const document = await buildReport(opened, book, number, issuedBy, at);
  const pdf = await reportPdf(document);
  const [documentHash, pdfHash, archiveHash] = await Promise.all([
    opened.blobs.put(new TextEncoder().encode(JSON.stringify(document))),
    opened.blobs.put(pdf),
    opened.blobs.put(reportArchive(document, pdf, await evidenceFiles(opened, book))),
  ]);
  return insertReport(opened.db, { caseId, number, issuedBy, issuedAt: at, document: documentHash, pdf: pdfHash, archive: archiveHash });
}

export async function readReport(opened: Store, caseId: string, number: number): Promise<{ row: ReportRow; document: ReportDocument }> {
  const row = await findReport(opened.db, caseId, number);
  if (!row) throw new UseCaseError("not-found", `There is no report ${number} of this case.`);
  const document = ReportDocument.parse(JSON.parse(new TextDecoder().decode(await opened.blobs.get(row.document))));
  return { row, document };
}
