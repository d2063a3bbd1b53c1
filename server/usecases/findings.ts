import { z } from "zod";
import { STAGES } from "../../core/assessment/results/stage.ts";
import { findCause } from "../../core/assessment/verdict/causes.ts";
import { FINDING_SEVERITIES } from "../../core/records/finding.ts";
import type { Store } from "../db/store.ts";
import { listQuantities } from "../repositories/cases.ts";
import { findFinding, insertFinding, updateFinding } from "../repositories/findings.ts";
import { UseCaseError } from "./failure.ts";

const RunLink = z.uuid().nullable();

export const FindingInput = z.object({
  title: z.string().trim().min(1, "Give the finding a name.").max(160),
  what: z.string().trim().min(1, "Say what is off.").max(4000),
  cause: z.string().trim().max(4000),
  change: z.string().trim().max(4000),
  shownBy: RunLink,
  curedBy: RunLink,
  /** one of the known causes, "" for one in words alone */
  causeKey: z
    .string()
    .max(40)
    .refine((key) => key === "" || findCause(key) !== undefined, "That is no cause of the list.")
    .default(""),
  severity: z.enum(FINDING_SEVERITIES).default("major"),
  owner: z.string().trim().max(40).default(""),
  /** what was done to test the suspicion, and what came of it */
  test: z.string().trim().max(4000).default(""),
  /** what it is about: all of the case where absent */
  quantityKey: z.string().max(40).nullable().default(null),
  /** the stage it was seen at */
  stage: z.enum(STAGES).nullable().default(null),
});
export type FindingInput = z.input<typeof FindingInput>;

/** @throws {UseCaseError} It is about a quantity the case does not have. */
async function known(opened: Store, caseId: string, { quantityKey }: FindingInput): Promise<void> {
  if (quantityKey && !(await listQuantities(opened.db, caseId)).some((q) => q.key === quantityKey))
    throw new UseCaseError("invalid", "The case has no such quantity.", { quantityKey: "The case has no such quantity." });
}

export async function createFinding(opened: Store, caseId: string, input: FindingInput) {
  await known(opened, caseId, input);
  return insertFinding(opened.db, { caseId, ...input, ...(input.curedBy ? { curedAt: new Date() } : {}) });
}

export async function saveFinding(opened: Store, id: string, input: FindingInput): Promise<void> {
  const row = await findFinding(opened.db, id);
  if (row) await known(opened, row.caseId, input);
  const curedAt = input.curedBy ? (row?.curedAt ?? new Date()) : null;
  await updateFinding(opened.db, id, { ...input, curedAt });
}

export async function deleteFinding(opened: Store, id: string): Promise<void> {
  await updateFinding(opened.db, id, { deletedAt: new Date() });
}

export async function restoreFinding(opened: Store, id: string): Promise<void> {
  await updateFinding(opened.db, id, { deletedAt: null });
}
