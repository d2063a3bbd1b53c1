import { and, asc, desc, eq, inArray, isNull, sql } from "drizzle-orm";
import { field, type HistoryColumn, history, historyPart, job, ladder, mesh, run, setting } from "../db/schema.ts";
import type { Db } from "../db/store.ts";

export type RunRow = typeof run.$inferSelect;
export type MeshRow = typeof mesh.$inferSelect;

export async function listRuns(db: Db, caseId: string): Promise<RunRow[]> {
  return db
    .select()
    .from(run)
    .where(and(eq(run.caseId, caseId), isNull(run.deletedAt)))
    .orderBy(asc(run.createdAt));
}

export async function findRun(db: Db, id: string): Promise<RunRow | undefined> {
  return (await db.select().from(run).where(eq(run.id, id)))[0];
}

export async function runsInState(db: Db, states: RunRow["state"][]): Promise<RunRow[]> {
  return db
    .select()
    .from(run)
    .where(and(inArray(run.state, states), isNull(run.deletedAt)))
    .orderBy(asc(run.createdAt));
}

export async function insertRun(db: Db, row: typeof run.$inferInsert): Promise<RunRow> {
  return (await db.insert(run).values(row).returning())[0];
}

export async function updateRun(db: Db, id: string, change: Partial<RunRow>): Promise<void> {
  await db.update(run).set(change).where(eq(run.id, id));
}

/** The mesh of this hash, made when the case does not have it yet. */
export async function ensureMesh(db: Db, row: typeof mesh.$inferInsert): Promise<MeshRow> {
  await db.insert(mesh).values(row).onConflictDoNothing();
  return (
    await db
      .select()
      .from(mesh)
      .where(and(eq(mesh.caseId, row.caseId), eq(mesh.hash, row.hash)))
  )[0];
}

export async function insertLadder(db: Db, caseId: string, runIds: string[]): Promise<void> {
  await db.insert(ladder).values({ caseId, kind: "mesh", runIds });
}

export async function findHistory(db: Db, runId: string) {
  return (await db.select().from(history).where(eq(history.runId, runId)))[0];
}

export async function saveHistory(db: Db, row: typeof history.$inferInsert): Promise<void> {
  await db.transaction(async (tx) => {
    await tx.insert(history).values(row).onConflictDoUpdate({ target: history.runId, set: row });
    await tx.delete(historyPart).where(eq(historyPart.runId, row.runId));
  });
}

export async function addHistoryPart(
  db: Db,
  row: { runId: string; sequence: number; columns: HistoryColumn[]; rows: number[][]; starts?: Record<string, number> },
): Promise<void> {
  await db.insert(historyPart).values(row);
}

export async function listHistoryParts(db: Db, runId: string) {
  return db.select().from(historyPart).where(eq(historyPart.runId, runId)).orderBy(asc(historyPart.sequence));
}

export async function saveField(db: Db, row: typeof field.$inferInsert): Promise<void> {
  await db
    .insert(field)
    .values(row)
    .onConflictDoUpdate({ target: [field.runId, field.name], set: row });
}

export async function listFields(db: Db, runId: string) {
  return db.select().from(field).where(eq(field.runId, runId));
}

export async function enqueue(db: Db, runId: string): Promise<void> {
  await db.insert(job).values({ runId, sequence: sql`(select coalesce(max(sequence), 0) + 1 from job)` as unknown as number });
}

export async function listJobs(db: Db) {
  return db.select().from(job).orderBy(desc(job.priority), asc(job.sequence));
}

export async function removeJob(db: Db, runId: string): Promise<void> {
  await db.delete(job).where(eq(job.runId, runId));
}

export async function readSetting(db: Db, key: string): Promise<number | string | undefined> {
  return (await db.select().from(setting).where(eq(setting.key, key)))[0]?.value;
}

export async function writeSetting(db: Db, key: string, value: number | string): Promise<void> {
  await db.insert(setting).values({ key, value }).onConflictDoUpdate({ target: setting.key, set: { value } });
}
