import type { ReportDocument } from "../../core/formats/reportDocument.ts";
import { assessPack, type PackCheck } from "../pack/assessPack.ts";
import { materialFrom } from "../pack/material.ts";
import type { PackedLine } from "../pack/packedLine.ts";
import { packFiles, resting, zipped } from "../pack/packFiles.ts";
import { Stored } from "../pack/stored.ts";
import { buildReport } from "../report/document.ts";
import { reportDocx } from "../report/docx.ts";
import { reportPdf } from "../report/pdf.ts";
import { type SignOffSheet, signOffPdf } from "../report/signOffPdf.ts";
import type { CaseBook } from "../usecases/caseBook.ts";
import type { Tell } from "./told.ts";

export interface Papers {
  readonly document: Uint8Array;
  readonly pdf: Uint8Array;
  readonly archive: Uint8Array;
}

/** What a report is made from, as it was read. */
export interface Gathered {
  /** everything stored of its cases, as JSON: written in a fraction of the time its rows would take to be handed over */
  readonly stored: string;
  /** the cases in their order, with what is judged of them */
  readonly books: readonly CaseBook[];
  /** folder of the blobs */
  readonly blobs: string;
}

export interface ReportInput extends Gathered {
  readonly line: PackedLine;
}

/** As whoever opens the pack reads it: the same bytes are written of it again. */
function joined({ stored: text, books, blobs }: Gathered) {
  const stored = Stored.parse(JSON.parse(text));
  return { stored, material: materialFrom(stored, books, blobs) };
}

/** steps besides the chapters of the pages */
const STEPS = 4;

/** A report as it is issued: its data, its pages, and the pack with all it rests on. */
export async function report({ line, ...gathered }: ReportInput, tell: Tell): Promise<Papers> {
  const { material, stored } = joined(gathered);
  tell({ done: 0, of: 1, what: "Writing the chapters" });
  const document = resting(await buildReport(material), stored, line);
  const of = document.sections.length + STEPS;
  const pdf = await reportPdf(document, (chapters) => tell({ done: 1 + chapters, of, what: "Setting the pages" }));
  tell({ done: of - 2, of, what: "Gathering the evidence" });
  const files = await packFiles({ material, stored, document, pdf, line });
  tell({ done: of - 1, of, what: "Packing it" });
  return { document: new TextEncoder().encode(JSON.stringify(document)), pdf, archive: zipped(files, material.issuedAt) };
}

/** What a report would show: its chapters with their figures and tables, nothing frozen. */
export async function outline(gathered: Gathered): Promise<Outline> {
  const { sections, tables, drawings, pictures } = await buildReport(joined(gathered).material);
  return {
    sections,
    pictures: pictures.map(({ key, stage }) => ({ key, stage })),
    titles: Object.fromEntries([...tables, ...drawings, ...pictures].map((x) => [x.key, x.title])),
  };
}

interface Outline {
  readonly sections: ReportDocument["sections"];
  readonly pictures: readonly { readonly key: string; readonly stage: string }[];
  readonly titles: Readonly<Record<string, string>>;
}

/** Checks an evidence pack by making it again. */
export const checkPack = ({ bytes }: { readonly bytes: Uint8Array }, tell: Tell): Promise<PackCheck> => assessPack(bytes, tell);

/** A report as a text document for word processors. */
export const docx = async ({ document }: { readonly document: ReportDocument }): Promise<{ bytes: Uint8Array }> => ({
  bytes: await reportDocx(document),
});

/** The sheet that goes with a report: who signed it, and the sums of its files. */
export const signOffSheet = async (input: SignOffSheet): Promise<{ bytes: Uint8Array }> => ({ bytes: await signOffPdf(input) });
