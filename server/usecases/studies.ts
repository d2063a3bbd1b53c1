import { z } from "zod";
import { PROCEDURES } from "../../core/records/procedure.ts";
import type { StudyChoices } from "../../core/records/studyChoice.ts";
import type { Store } from "../db/store.ts";
import { type CaseRow, findCase, listQuantities, updateCase } from "../repositories/cases.ts";
import { findRun } from "../repositories/runs.ts";
import { UseCaseError } from "./failure.ts";

const signed = {
  reason: z.string().trim().min(1, "Say why.").max(600),
  by: z.string().trim().min(1, "Sign it; initials are enough.").max(40),
};
const quantityKey = z.string().min(1).max(40);

/**
 * What a person decides about the ladders of a case: a run taken off, a procedure adopted, a quantity said not to converge, how the error of the finest
 * mesh is taken to lie, a run held against those of other codes.
 */
export const StudyInput = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("leave-out"), runId: z.uuid(), ...signed }),
  z.object({ kind: z.literal("adopt"), quantityKey, procedure: z.enum(PROCEDURES), ...signed }),
  z.object({ kind: z.literal("divergent"), quantityKey, ...signed }),
  z.object({ kind: z.literal("spread"), spread: z.enum(["centred", "shifted"]), ...signed }),
  z.object({ kind: z.literal("amongst"), runId: z.uuid() }),
]);

type Decision = z.infer<typeof StudyInput>;

const LISTS = { "leave-out": "leftOut", adopt: "adopted", divergent: "divergent", spread: "spread", amongst: "amongst" } as const;
/** what a decision is about that holds for the whole case */
const WHOLE = "case";

/** Keeps a decision, dated, those that decide something signed, in the place of an earlier one about the same thing. */
export async function decideStudy(opened: Store, caseId: string, input: Decision, at = new Date()): Promise<void> {
  const row = await caseOf(opened, caseId);
  if ("runId" in input) await ownRun(opened, row, input.runId);
  else if ("quantityKey" in input && !(await listQuantities(opened.db, caseId)).some((q) => q.key === input.quantityKey))
    throw new UseCaseError("invalid", "There is no such quantity.");
  const { kind, ...said } = input;
  await keep(opened, row, kind, subjectOf(input), { ...said, at: at.toISOString() });
}

/** Takes a decision back. @param of the run, or the quantity's key, it was about */
export async function withdrawStudy(opened: Store, caseId: string, kind: string, of: string): Promise<void> {
  if (!isKind(kind)) throw new UseCaseError("not-found", "There is no such kind of decision.");
  await keep(opened, await caseOf(opened, caseId), kind, of);
}

const isKind = (kind: string): kind is keyof typeof LISTS => Object.hasOwn(LISTS, kind);
function subjectOf(d: object): string {
  if ("runId" in d) return d.runId as string;
  return "quantityKey" in d ? (d.quantityKey as string) : WHOLE;
}

async function keep(opened: Store, row: CaseRow, kind: keyof typeof LISTS, of: string, decision?: object): Promise<void> {
  const studies: StudyChoices = row.setup.studies ?? {};
  const others = (studies[LISTS[kind]] ?? []).filter((d) => subjectOf(d) !== of);
  const list = decision ? [...others, decision] : others;
  await updateCase(opened.db, row.id, { setup: { ...row.setup, studies: { ...studies, [LISTS[kind]]: list } } });
}

async function caseOf(opened: Store, caseId: string): Promise<CaseRow> {
  const row = await findCase(opened.db, caseId);
  if (!row) throw new UseCaseError("not-found", "There is no such case.");
  return row;
}

async function ownRun(opened: Store, { id }: CaseRow, runId: string): Promise<void> {
  const run = await findRun(opened.db, runId);
  if (run?.caseId !== id) throw new UseCaseError("invalid", "There is no such run in this case.");
}
