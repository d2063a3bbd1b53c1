import type { CaseMaterial, ReportMaterial } from "../report/document.ts";
import type { CaseBook } from "../usecases/caseBook.ts";
import { credibilityFrom, type KnownCase } from "../usecases/credibilityFrom.ts";
import type { Stored } from "./stored.ts";

/** how many meshes of a family have their fields studied, the finest */
const STUDIED = 3;

/** Runs of a case whose fields its report may show, finest first. */
export const runsWithFields = ({ assessment }: CaseBook): string[] => [
  ...new Set([
    ...assessment.ladder.slice(0, 1),
    ...(assessment.refinement[0]?.rungs ?? [])
      .filter((g) => !g.leftOut)
      .slice(0, STUDIED)
      .map((g) => g.runId),
  ]),
];

/**
 * All a report is made of, from what is stored of its cases and what is judged of them: the same where it is issued as where it is checked.
 * @param blobs folder of the blobs
 * @param books the cases in their order
 */
export function materialFrom(stored: Stored, books: readonly CaseBook[], blobs: string): ReportMaterial {
  const { number, issuedBy, issuedAt, composed } = stored.report;
  const [lead, ...also] = books.map((book) => caseMaterial(stored, book, blobs));
  return {
    cases: [lead, ...also],
    number,
    issuedBy,
    issuedAt,
    composed,
    programme: stored.programmes.find((p) => p.id === lead.book.row.programmeId)?.name ?? "",
    blobs,
  };
}

function caseMaterial(stored: Stored, book: CaseBook, blobs: string): CaseMaterial {
  const { derived, quantities, runs } = book.evidence;
  const [leading] = quantities;
  const programme = stored.programmes.find((p) => p.id === book.row.programmeId);
  const records = book.assessment.ladder.flatMap((id) => {
    const row = stored.histories.find((h) => h.runId === id);
    const run = runs.find((r) => r.id === id);
    return row ? [[id, { blobs, source: { stored: row }, ...(run && derived ? { worked: { run, derived, quantities } } : {}) }] as const] : [];
  });
  const fieldsOf = (runId: string | undefined) => {
    const run = book.runs.find((r) => r.id === runId);
    const rows = stored.fields.filter((f) => f.runId === runId);
    return run && rows.length && (run.settings.problemId || rows[0].mesh) ? { settings: run.settings, rows } : undefined;
  };
  const fields = fieldsOf(book.assessment.ladder[0]);
  const rungs = (book.assessment.refinement[0]?.rungs ?? []).filter((g) => !g.leftOut).slice(0, STUDIED);
  return {
    book,
    ...(leading ? { credibility: credibilityFrom(book, leading.key, stored.others as readonly KnownCase[], programme) } : {}),
    records: Object.fromEntries(records),
    ...(fields ? { fields } : {}),
    studied: rungs.flatMap(({ runId, label, spacing }) => {
      const source = fieldsOf(runId);
      return source ? [{ label, spacing, source }] : [];
    }),
  };
}
