import { z } from "zod";
import type { Store } from "../db/store.ts";
import { insertFinding, updateFinding } from "../repositories/findings.ts";

const RunLink = z.uuid().nullable();

export const FindingInput = z.object({
  title: z.string().trim().min(1, "Give the finding a name.").max(160),
  what: z.string().trim().min(1, "Say what is off.").max(4000),
  cause: z.string().trim().max(4000),
  change: z.string().trim().max(4000),
  shownBy: RunLink,
  curedBy: RunLink,
});
export type FindingInput = z.infer<typeof FindingInput>;

export async function createFinding(opened: Store, caseId: string, input: FindingInput) {
  return insertFinding(opened.db, { caseId, ...input });
}

export async function saveFinding(opened: Store, id: string, input: FindingInput): Promise<void> {
  await updateFinding(opened.db, id, input);
}

export async function deleteFinding(opened: Store, id: string): Promise<void> {
  await updateFinding(opened.db, id, { deletedAt: new Date() });
}

export async function restoreFinding(opened: Store, id: string): Promise<void> {
  await updateFinding(opened.db, id, { deletedAt: null });
}
