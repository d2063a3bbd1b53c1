import { reportArchive } from "../report/archive.ts";
import { buildReport, type ReportMaterial } from "../report/document.ts";
import { evidenceFiles } from "../report/evidenceFiles.ts";
import { reportPdf } from "../report/pdf.ts";
import type { Tell } from "./told.ts";

export interface Papers {
  readonly document: Uint8Array;
  readonly pdf: Uint8Array;
  readonly archive: Uint8Array;
}

/** steps besides the chapters of the pages */
const STEPS = 4;

/** A report as it is issued: its data, its pages, and the archive with the evidence. */
export async function report(material: ReportMaterial, tell: Tell): Promise<Papers> {
  tell({ done: 0, of: 1, what: "Writing the chapters" });
  const document = await buildReport(material);
  const of = document.sections.length + STEPS;
  const pdf = await reportPdf(document, (chapters) => tell({ done: 1 + chapters, of, what: "Setting the pages" }));
  tell({ done: of - 2, of, what: "Gathering the evidence" });
  const files = await evidenceFiles(material);
  tell({ done: of - 1, of, what: "Packing the archive" });
  return { document: new TextEncoder().encode(JSON.stringify(document)), pdf, archive: reportArchive(document, pdf, files) };
}
