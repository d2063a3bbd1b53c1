import { and, asc, eq, inArray, isNull, sql } from "drizzle-orm";
import { caseTable, programme } from "../db/schema.ts";
import type { Db } from "../db/store.ts";
import { readSetting, writeSetting } from "./runs.ts";

export type ProgrammeRow = typeof programme.$inferSelect;
export type ProgrammeChange = Partial<Pick<ProgrammeRow, "name" | "purpose" | "people" | "limits" | "decision" | "rules" | "stakes" | "deletedAt">>;

const CURRENT = "programme";

/** Programmes in the order they were made. */
export const listProgrammes = (db: Db): Promise<ProgrammeRow[]> =>
  db.select().from(programme).where(isNull(programme.deletedAt)).orderBy(asc(programme.createdAt), asc(programme.id));

export async function findProgramme(db: Db, id: string): Promise<ProgrammeRow | undefined> {
  return (await db.select().from(programme).where(eq(programme.id, id)))[0];
}

/** The programme that is open: the one chosen last, else the first there is. */
export async function currentProgramme(db: Db): Promise<ProgrammeRow | undefined> {
  const [chosen, all] = [await readSetting(db, CURRENT), await listProgrammes(db)];
  return all.find((p) => p.id === chosen) ?? all[0];
}

export const chooseProgramme = (db: Db, id: string): Promise<void> => writeSetting(db, CURRENT, id);

export async function insertProgramme(db: Db, name: string, purpose = ""): Promise<ProgrammeRow> {
  return (await db.insert(programme).values({ name, purpose }).returning())[0];
}

export async function updateProgramme(db: Db, id: string, change: ProgrammeChange): Promise<void> {
  await db.update(programme).set(change).where(eq(programme.id, id));
}

/** How many cases each programme has. */
export async function casesOfProgrammes(db: Db): Promise<Map<string, number>> {
  const rows = await db
    .select({ id: caseTable.programmeId, count: sql<number>`count(*)::int` })
    .from(caseTable)
    .where(isNull(caseTable.deletedAt))
    .groupBy(caseTable.programmeId);
  return new Map(rows.map((r) => [r.id, r.count]));
}

/** Brings the programme of a case back, where it was deleted: a case that comes back needs it. */
export async function reviveProgrammeOf(db: Db, caseId: string): Promise<void> {
  const of = db.select({ id: caseTable.programmeId }).from(caseTable).where(eq(caseTable.id, caseId));
  await db.update(programme).set({ deletedAt: null }).where(inArray(programme.id, of));
}

/** Says where a case stands in its programme. */
export async function placeCase(
  db: Db,
  id: string,
  place: Partial<Pick<typeof caseTable.$inferSelect, "programmeId" | "level" | "tags">>,
): Promise<void> {
  await db
    .update(caseTable)
    .set(place)
    .where(and(eq(caseTable.id, id), isNull(caseTable.deletedAt)));
}
