import { z } from "zod";
import { type Coverage, coverage } from "../../core/method/coverage/coverage.ts";
import { DECISION_RULES, LEVELS } from "../../core/records/programme.ts";
import { isJudged } from "../../core/remarks/remark.ts";
import type { Store } from "../db/store.ts";
import { findCase, setLimit } from "../repositories/cases.ts";
import {
  casesOfProgrammes,
  chooseProgramme,
  currentProgramme,
  findProgramme,
  insertProgramme,
  listProgrammes,
  type ProgrammeRow,
  placeCase,
  updateProgramme,
} from "../repositories/programmes.ts";
import { boardOf } from "./board.ts";
import { UseCaseError } from "./failure.ts";
import { Reader, typed } from "./reader.ts";

export const NewProgrammeInput = z.object({
  name: z.string().trim().min(1, "A programme needs a name.").max(120),
  purpose: z.string().trim().max(4000).default(""),
});

const Degree = z.union([z.literal(1), z.literal(2), z.literal(3), z.literal(4)]);

export const ProgrammeInput = NewProgrammeInput.extend({
  people: z.array(z.object({ initials: z.string().trim().min(1, "Initials are enough.").max(12), role: z.string().trim().max(80) })).max(60),
  limits: z.array(z.object({ quantity: z.string().trim().min(1, "Name the quantity.").max(80), limit: typed })).max(60),
  decision: z.enum(DECISION_RULES),
  stakes: z.object({ consequence: Degree, influence: Degree }).nullable(),
});

export const PlaceInput = z.object({
  /** null: what its kind of truth tells */
  level: z.enum(LEVELS).nullable(),
  tags: z.array(z.string().trim().min(1).max(40)).max(20),
  programmeId: z.uuid(),
});

/** A programme, or its sentence. */
async function programmeOf(opened: Store, id: string): Promise<ProgrammeRow> {
  const row = await findProgramme(opened.db, id);
  if (!row || row.deletedAt) throw new UseCaseError("not-found", "There is no such programme; it may have been deleted.");
  return row;
}

/** Makes a programme and opens it. */
export async function createProgramme(opened: Store, input: z.infer<typeof NewProgrammeInput>): Promise<ProgrammeRow> {
  await refuseTwins(opened, input.name);
  const made = await insertProgramme(opened.db, input.name, input.purpose);
  await chooseProgramme(opened.db, made.id);
  return made;
}

async function refuseTwins(opened: Store, name: string, but?: string): Promise<void> {
  if ((await listProgrammes(opened.db)).some((p) => p.id !== but && p.name.toLowerCase() === name.toLowerCase()))
    throw new UseCaseError("invalid", "There is a programme of that name.", { name: "There is a programme of that name." });
}

/** Opens a programme: the board and what is made new belong to it. */
export async function openProgramme(opened: Store, id: string): Promise<void> {
  await programmeOf(opened, id);
  await chooseProgramme(opened.db, id);
}

/** Saves what a programme is for, who works on it, and by which limits and rule its cases are judged. */
export async function saveProgramme(opened: Store, id: string, input: z.infer<typeof ProgrammeInput>): Promise<void> {
  await programmeOf(opened, id);
  await refuseTwins(opened, input.name, id);
  const reader = new Reader();
  const limits = input.limits.map((l, k) => ({ quantity: l.quantity, limit: reader.required(`limits-${k}`, l.limit, "", 1e-12, 10) }));
  const twice = input.people.map((p) => p.initials.toLowerCase()).find((x, k, all) => all.indexOf(x) !== k);
  if (twice) reader.mistakes.people = `"${twice.toUpperCase()}" stands there twice.`;
  reader.done();
  await updateProgramme(opened.db, id, { ...input, limits });
}

/** Deletes an empty programme; one with cases keeps them, so they have to go elsewhere first. */
export async function deleteProgramme(opened: Store, id: string): Promise<void> {
  await programmeOf(opened, id);
  const cases = (await casesOfProgrammes(opened.db)).get(id) ?? 0;
  if (cases) throw new UseCaseError("conflict", `${cases} ${cases === 1 ? "case belongs" : "cases belong"} to it: move or delete them first.`);
  if ((await listProgrammes(opened.db)).length < 2) throw new UseCaseError("conflict", "It is the only programme; make another one first.");
  await updateProgramme(opened.db, id, { deletedAt: new Date() });
}

export async function restoreProgramme(opened: Store, id: string): Promise<void> {
  if (!(await findProgramme(opened.db, id))) throw new UseCaseError("not-found", "There is no such programme.");
  await updateProgramme(opened.db, id, { deletedAt: null });
}

/** Says where a case stands: its programme, its level, its tags. */
export async function placeInProgramme(opened: Store, caseId: string, input: z.infer<typeof PlaceInput>): Promise<void> {
  if (!(await findCase(opened.db, caseId))) throw new UseCaseError("not-found", "There is no such case.");
  await programmeOf(opened, input.programmeId);
  await placeCase(opened.db, caseId, { ...input, tags: [...new Set(input.tags)] });
}

/** A case whose limit is wider than its programme allows. */
export interface WideLimit {
  readonly caseId: string;
  readonly title: string;
  readonly quantityKey: string;
  readonly quantity: string;
  readonly limit: number;
  readonly allowed: number;
}

export interface ProgrammeView {
  readonly id: string;
  readonly name: string;
  readonly purpose: string;
  readonly people: ProgrammeRow["people"];
  readonly limits: ProgrammeRow["limits"];
  readonly decision: ProgrammeRow["decision"];
  readonly stakes: ProgrammeRow["stakes"];
  readonly rules: ProgrammeRow["rules"];
  readonly cases: number;
}

const viewOf = (p: ProgrammeRow, counts: ReadonlyMap<string, number>): ProgrammeView => {
  const { id, name, purpose, people, limits, decision, stakes, rules } = p;
  return { id, name, purpose, people, limits, decision, stakes, rules, cases: counts.get(id) ?? 0 };
};

/** Every programme with how many cases it has, and which one is open. */
export async function programmes(opened: Store): Promise<{ list: ProgrammeView[]; current: string | undefined }> {
  const counts = await casesOfProgrammes(opened.db);
  return { list: (await listProgrammes(opened.db)).map((p) => viewOf(p, counts)), current: (await currentProgramme(opened.db))?.id };
}

export interface CoverageOfCase {
  readonly id: string;
  readonly title: string;
  readonly coverage: Coverage;
}

/** What a programme's cases make of it: its steps, how far its applications are covered, limits that are wider than its own. */
export async function programmeSummary(opened: Store, id: string, waitMs?: number) {
  const programme = await programmeOf(opened, id);
  const { kept, view } = await boardOf(opened, id, waitMs);
  const points = kept
    .filter((r) => r.level !== "application" && r.verdicts.some(isJudged))
    .map(({ id: caseId, title, conditions }) => ({ id: caseId, title, conditions }));
  const applications = kept
    .filter((r) => r.level === "application")
    .map(({ id: caseId, title, conditions }): CoverageOfCase => ({ id: caseId, title, coverage: coverage(conditions, points) }));
  const allowed = new Map(programme.limits.map((l) => [l.quantity.toLowerCase(), l.limit]));
  const wide = kept.flatMap((r) =>
    r.quantities.flatMap((q): WideLimit[] => {
      const most = allowed.get(q.name.toLowerCase());
      return most !== undefined && q.limit > most * (1 + 1e-9)
        ? [{ caseId: r.id, title: r.title, quantityKey: q.key, quantity: q.name, limit: q.limit, allowed: most }]
        : [];
    }),
  );
  return { points: points.map(({ id: caseId, title }) => ({ id: caseId, title })), applications, wide, waiting: view.waiting.length };
}

/** Takes the programme's limits over where a case's are wider. @returns how many were changed */
export async function takeLimitsOver(opened: Store, id: string): Promise<number> {
  const { wide } = await programmeSummary(opened, id);
  await opened.db.transaction(async (tx) => {
    for (const w of wide) await setLimit(tx, w.caseId, w.quantityKey, w.allowed);
  });
  return wide.length;
}
