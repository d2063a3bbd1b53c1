import { z } from "zod";
import { type ReportDifference, reportDifferences } from "../../core/formats/reportDifferences.ts";
import { ReportDocument } from "../../core/formats/reportDocument.ts";
import { SIGN_ROLES, signRefusal, supersededBy } from "../../core/records/signOff.ts";
import type { Store } from "../db/store.ts";
import { desk } from "../desk/desk.ts";
import type { Papers } from "../desk/paperTasks.ts";
import type { Told } from "../desk/told.ts";
import { packedLine } from "../pack/packedLine.ts";
import type { Composed } from "../report/document.ts";
import { allEvents } from "../repositories/events.ts";
import { findReport, insertReport, listReports, nextReportNumber, type ReportRow, updateReport } from "../repositories/findings.ts";
import { UseCaseError } from "./failure.ts";
import { gathered } from "./gathered.ts";
import { UnderWay } from "./underWay.ts";

const initials = (said: string) => z.string().trim().min(1, said).max(80);

/** cases one report may have */
const MOST_CASES = 12;

export const IssueInput = z.object({
  issuedBy: initials("Say who issues it; initials are enough."),
  /** chapters in the order they are to stand, by key; all of them in their own order unless given */
  blocks: z.array(z.string().max(40)).min(1, "Choose a chapter at least.").max(30).optional(),
  /** words of one's own, in Markdown; they follow the page for the decision */
  text: z.string().trim().max(20_000).optional(),
  /** what is said under figures and tables, by their key */
  captions: z.record(z.string().max(120), z.string().trim().max(400)).optional(),
  /** other cases that stand in it too, in their order */
  also: z
    .array(z.uuid())
    .max(MOST_CASES - 1, `A report has ${MOST_CASES} cases at most.`)
    .optional(),
});

export const SignInput = z.object({ role: z.enum(SIGN_ROLES), by: initials("Sign it; initials are enough.") });
export const WithdrawInput = z.object({ by: initials("Sign it; initials are enough."), reason: z.string().trim().min(1, "Say why.").max(600) });

const issuing = new UnderWay("report of a case");

/** How far the report of a case is that is being made. */
export const reportUnderWay = (caseId: string): Told | undefined => issuing.told(caseId);

/** Gives up the report that is being made of a case. */
export const giveUpReport = (caseId: string): void => issuing.giveUp(caseId);

/**
 * Freezes a case into a numbered report: document, PDF and archive are stored by content and never change. Reports of one case follow one another;
 * its other changes need not wait.
 */
export const issueReport = (opened: Store, caseId: string, issuedBy: string, at = new Date(), composed: Composed = {}): Promise<ReportRow> =>
  opened.alone(`report of ${caseId}`, () =>
    issuing.follow(caseId, "Reading the evidence", async (asking) => {
      const number = await nextReportNumber(opened.db, caseId);
      const found = await gathered(opened, caseId, { number, issuedBy, issuedAt: at, composed });
      const line = packedLine(
        await allEvents(opened.db),
        found.books.map((b) => b.row.id),
      );
      const papers = await desk().ask("report", { ...found, line }, asking);
      return store(opened, { caseId, number, issuedBy, issuedAt: at, evidenceHash: found.books[0].evidenceHash }, papers);
    }),
  );

export const OutlineInput = z.object({ blocks: IssueInput.shape.blocks, also: IssueInput.shape.also });

/** What a report would show if it were issued now, chapter by chapter. */
export async function outlineOf(opened: Store, caseId: string, composed: z.infer<typeof OutlineInput>) {
  const number = await nextReportNumber(opened.db, caseId);
  const found = await gathered(opened, caseId, { number, issuedBy: "", issuedAt: new Date(), composed });
  const { sections, titles, pictures } = await desk().ask("outline", found);
  const named = (keys: readonly string[]) => keys.map((key) => ({ key, title: titles[key] ?? key }));
  return sections.map((s) => ({
    title: s.title,
    figures: named([...s.drawings, ...pictures.filter((p) => p.stage === s.stage).map((p) => p.key)]),
    tables: named(s.tables),
  }));
}

type Issued = Pick<ReportRow, "caseId" | "number" | "issuedBy" | "issuedAt" | "evidenceHash">;

async function store(opened: Store, issued: Issued, papers: Papers): Promise<ReportRow> {
  const [document, pdf, archive] = await Promise.all([
    opened.blobs.put(papers.document),
    opened.blobs.put(papers.pdf),
    opened.blobs.put(papers.archive),
  ]);
  return insertReport(opened.db, { ...issued, document, pdf, archive });
}

/** Puts a signature under an issued report. @throws {UseCaseError} it is withdrawn, a role before is missing, or the same person prepared it */
export const signReport = (opened: Store, caseId: string, number: number, input: z.infer<typeof SignInput>, at = new Date()): Promise<void> =>
  opened.alone(`report of ${caseId}`, async () => {
    const row = await rowOf(opened, caseId, number);
    if (row.withdrawn) throw new UseCaseError("conflict", `Report ${number} was withdrawn; nothing is signed under it any more.`);
    const refusal = signRefusal(input.role, input.by, row.signOffs);
    if (refusal) throw new UseCaseError("conflict", refusal, { by: refusal });
    await updateReport(opened.db, row.id, { signOffs: [...row.signOffs, { ...input, at: at.toISOString() }] });
  });

/** Says that an issued report no longer stands, and why: it stays as it was, for good. */
export const withdrawReport = (opened: Store, caseId: string, number: number, input: z.infer<typeof WithdrawInput>, at = new Date()): Promise<void> =>
  opened.alone(`report of ${caseId}`, async () => {
    const row = await rowOf(opened, caseId, number);
    if (row.withdrawn) throw new UseCaseError("conflict", `Report ${number} was withdrawn already, by ${row.withdrawn.by}.`);
    await updateReport(opened.db, row.id, { withdrawn: { ...input, at: at.toISOString() } });
  });

/** What was said of a report since it was issued, and which later one stands in its place. */
export async function standingOf(opened: Store, row: ReportRow) {
  const later = supersededBy(row.number, await listReports(opened.db, row.caseId));
  return { signOffs: row.signOffs, withdrawn: row.withdrawn, supersededBy: later ?? null };
}

async function rowOf(opened: Store, caseId: string, number: number): Promise<ReportRow> {
  const row = await findReport(opened.db, caseId, number);
  if (!row) throw new UseCaseError("not-found", `There is no report ${number} of this case.`);
  return row;
}

/** What differs between two issued reports of a case, line by line. */
export async function compareReports(opened: Store, caseId: string, left: number, right: number): Promise<ReportDifference[]> {
  const [a, b] = [await readReport(opened, caseId, left), await readReport(opened, caseId, right)];
  return reportDifferences(a.document, b.document);
}

export async function readReport(opened: Store, caseId: string, number: number): Promise<{ row: ReportRow; document: ReportDocument }> {
  const row = await findReport(opened.db, caseId, number);
  if (!row) throw new UseCaseError("not-found", `There is no report ${number} of this case.`);
  const document = ReportDocument.parse(JSON.parse(new TextDecoder().decode(await opened.blobs.get(row.document))));
  return { row, document };
}
