import { type CredibilityContext, factsOf, type OtherCase } from "../../core/assessment/credibility/factsOf.ts";
import { type Credibility, credibility } from "../../core/method/credibility/credibility.ts";
import { parameterSpecs, physicsOf } from "../../core/problems/describe/caseSetup.ts";
import type { ProgrammeRow } from "../repositories/programmes.ts";
import type { CaseBook } from "./caseBook.ts";

/** Another case with the programme it belongs to. */
export type KnownCase = Omit<OtherCase, "near"> & { readonly programmeId: string };

/** How credible one quantity of a case is, from the case, the cases beside it and its programme: nothing else is asked. */
export function credibilityFrom(
  { row, evidence, assessment, reports }: CaseBook,
  quantityKey: string,
  cases: readonly KnownCase[],
  programme: Pick<ProgrammeRow, "people" | "stakes"> | undefined,
): Credibility & { readonly code: string } {
  const specs = parameterSpecs(row.setup.problemId).filter((s) => !s.choices);
  const context: CredibilityContext = {
    cases: cases.map((r) => ({ ...r, near: r.programmeId === row.programmeId })),
    caseId: row.id,
    physics: { time: physicsOf(row.setup).time, compressible: evidence.setup.compressible },
    conditions: specs.length,
    people: programme?.people ?? [],
    reports: reports.length,
  };
  const facts = factsOf(evidence, assessment, context, quantityKey);
  const judged = credibility(facts, row.setup.credibility, { stakes: programme?.stakes ?? undefined, setupHash: evidence.setupHash });
  return { ...judged, code: facts.code.name };
}
