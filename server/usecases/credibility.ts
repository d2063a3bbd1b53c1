import { z } from "zod";
import type { Proof } from "../../core/assessment/results/proof.ts";
import type { Credibility } from "../../core/method/credibility/credibility.ts";
import { setupFingerprint } from "../../core/problems/describe/caseSetup.ts";
import { described } from "../../core/problems/describe/catalogue.ts";
import { type CredibilityLevel, type CredibilityStatement, FACTOR_KEYS, STATEMENT_KINDS } from "../../core/records/credibility.ts";
import type { Store } from "../db/store.ts";
import { desk } from "../desk/desk.ts";
import { hashOf } from "../hash.ts";
import { type CaseRow, findCase, listCases, updateCase } from "../repositories/cases.ts";
import { findProgramme } from "../repositories/programmes.ts";
import { keptRows } from "./board.ts";
import type { CaseBook } from "./caseBook.ts";
import { credibilityFrom } from "./credibilityFrom.ts";
import { openCase } from "./evidence.ts";
import { UseCaseError } from "./failure.ts";
import { Kept } from "./kept.ts";

/** How a code was verified in a case: what the case exercises, and every field it was held against. */
export interface CodeProof extends Proof {
  readonly caseId: string;
  readonly title: string;
  /** which equations and terms the case exercises, each with its share where its exact solution can be written out */
  readonly exercises: string;
}

export interface CredibilityView extends Credibility {
  readonly quantityKey: string;
  readonly code: string;
  readonly proofs: readonly CodeProof[];
}

/** How credible one quantity of a case is, factor by factor, with the code's proofs over all cases of the data folder. */
export async function credibilityOf(store: Store, book: CaseBook, quantityKey: string): Promise<CredibilityView> {
  const kept = await keptRows(store);
  const programme = await findProgramme(store.db, book.row.programmeId);
  const { code, ...judged } = credibilityFrom(book, quantityKey, kept, programme);
  const proofs = kept
    .filter((r) => r.kind === "exact")
    .flatMap((r) => r.proofs.filter((p) => p.code === code).map((p) => ({ ...p, caseId: r.id, title: r.title, exercises: "" })));
  const cases = new Map((proofs.length ? await listCases(store.db) : []).map((c) => [c.id, c]));
  const words = new Map<string, string>();
  for (const id of new Set(proofs.map((p) => p.caseId))) words.set(id, await exercisesOf(cases.get(id)));
  return { ...judged, quantityKey, code, proofs: proofs.map((p) => ({ ...p, exercises: words.get(p.caseId) ?? "" })) };
}

const MOST_WORDS = 500;
const worked = new Kept<string>(MOST_WORDS);

/** Which terms of the equations a case exercises: from its exact solution where that can be written out, else in the words of its template. */
async function exercisesOf(row: CaseRow | undefined): Promise<string> {
  const problemId = row?.setup.problemId;
  if (!row || !problemId) return "";
  const { parameters, formulas = {} } = row.setup;
  const input = { problemId, parameters, formulas };
  // A solution that takes too long to be written out is none that is worth waiting for.
  const told = await worked.get(JSON.stringify(input), () =>
    desk()
      .ask("exercised", input)
      .catch(() => ""),
  );
  return told || described(problemId).tests;
}

/** The same by the id of a case. @throws {UseCaseError} no such case or quantity */
export async function caseCredibility(store: Store, caseId: string, quantityKey: string): Promise<CredibilityView> {
  const book = await openCase(store, caseId);
  if (!book.evidence.quantities.some((q) => q.key === quantityKey)) throw new UseCaseError("not-found", "The case has no such quantity.");
  return credibilityOf(store, book, quantityKey);
}

export const CredibilityInput = z
  .object({
    factor: z.enum(FACTOR_KEYS),
    kind: z.enum(STATEMENT_KINDS),
    level: z.number().int().min(0).max(4).optional(),
    reason: z.string().trim().min(1, "Say why.").max(600),
    link: z.string().trim().max(400).optional(),
    by: z.string().trim().min(1, "Sign it; initials are enough.").max(40),
  })
  .superRefine((s, ctx) => {
    if (s.kind !== "looks-right" && s.level === undefined) ctx.addIssue({ code: "custom", path: ["level"], message: "Say which level." });
    if (s.kind === "raise" && !s.link)
      ctx.addIssue({ code: "custom", path: ["link"], message: "A level is raised only by a document: say which, and where it is." });
  });

/** Keeps what a person says of a factor: signed, dated, of the present set-up. One statement a factor; the one before gives way. */
export async function sayOfCredibility(store: Store, caseId: string, input: z.infer<typeof CredibilityInput>, at = new Date()): Promise<void> {
  const row = await rowOf(store, caseId);
  const { level, link, ...said } = input;
  const statement: CredibilityStatement = {
    ...said,
    ...(input.kind === "looks-right" || level === undefined ? {} : { level: level as CredibilityLevel }),
    ...(link ? { link } : {}),
    at: at.toISOString(),
    setupHash: hashOf(setupFingerprint(row.setup)),
  };
  await keep(store, row, [...others(row, input.factor), statement]);
}

/** Takes back what was said of a factor. */
export async function withdrawCredibility(store: Store, caseId: string, factor: string): Promise<void> {
  const row = await rowOf(store, caseId);
  await keep(store, row, others(row, factor));
}

const others = (row: CaseRow, factor: string) => (row.setup.credibility ?? []).filter((s) => s.factor !== factor);

const keep = (store: Store, row: CaseRow, credibility: readonly CredibilityStatement[]) =>
  updateCase(store.db, row.id, { setup: { ...row.setup, credibility } });

async function rowOf(store: Store, caseId: string): Promise<CaseRow> {
  const row = await findCase(store.db, caseId);
  if (!row) throw new UseCaseError("not-found", "There is no such case.");
  return row;
}
