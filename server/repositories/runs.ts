import { and, asc, count, desc, eq, inArray, isNull } from "drizzle-orm";
import { caseTable, field, type HistoryColumn, history, historyPart, mesh, moment, run, setting, sweep } from "../db/schema.ts";
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

/** Names of runs, deleted ones left out. */
export async function labelsOfRuns(db: Db, ids: readonly string[]): Promise<Map<string, string>> {
  if (!ids.length) return new Map();
  const rows = await db
    .select({ id: run.id, label: run.label })
    .from(run)
    .where(and(inArray(run.id, [...ids]), isNull(run.deletedAt)));
  return new Map(rows.map((r) => [r.id, r.label]));
}

/** How many runs are in each state. */
export async function countRuns(db: Db): Promise<Partial<Record<RunRow["state"], number>>> {
  const rows = await db.select({ state: run.state, count: count() }).from(run).where(isNull(run.deletedAt)).groupBy(run.state);
  return Object.fromEntries(rows.map((r) => [r.state, r.count]));
}

export async function insertRun(db: Db, row: typeof run.$inferInsert): Promise<RunRow> {
  return (await db.insert(run).values(row).returning())[0];
}

export async function updateRun(db: Db, id: string, change: Partial<RunRow>): Promise<void> {
  await db.update(run).set(change).where(eq(run.id, id));
}

export async function findMesh(db: Db, id: string): Promise<MeshRow | undefined> {
  return (await db.select().from(mesh).where(eq(mesh.id, id)))[0];
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

export async function findHistory(db: Db, runId: string) {
  return (await db.select().from(history).where(eq(history.runId, runId)))[0];
}

/** Where the finished records of runs are; runs that have none are left out. */
export async function listHistories(db: Db, runIds: readonly string[]) {
  return runIds.length
    ? db
        .select()
        .from(history)
        .where(inArray(history.runId, [...runIds]))
    : [];
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

/** Fields of several runs. */
export const listFieldsOf = async (db: Db, runIds: readonly string[]) =>
  runIds.length
    ? db
        .select()
        .from(field)
        .where(inArray(field.runId, [...runIds]))
    : [];

/** Gives a run its fields in the place of those it has. */
export async function replaceFields(db: Db, runId: string, rows: readonly (typeof field.$inferInsert)[]): Promise<void> {
  await db.delete(field).where(eq(field.runId, runId));
  await db.insert(field).values([...rows]);
}

export async function setMeshQuality(db: Db, id: string, quality: MeshRow["quality"]): Promise<void> {
  await db.update(mesh).set({ quality }).where(eq(mesh.id, id));
}

export async function listFields(db: Db, runId: string) {
  return db.select().from(field).where(eq(field.runId, runId));
}

/** Moments of a run whose fields were kept, in time. */
export async function listMoments(db: Db, runId: string) {
  return db.select().from(moment).where(eq(moment.runId, runId)).orderBy(asc(moment.sequence));
}

/** Finished bench runs of all cases with the size of their meshes. */
export async function finishedWithMeshes(db: Db) {
  return db
    .select({ id: run.id, label: run.label, settings: run.settings, caseTitle: caseTable.title, quality: mesh.quality })
    .from(run)
    .innerJoin(mesh, eq(mesh.id, run.meshId))
    .innerJoin(caseTable, eq(caseTable.id, run.caseId))
    .where(and(eq(run.origin, "bench"), inArray(run.state, ["done", "stopped"]), isNull(run.deletedAt), isNull(caseTable.deletedAt)))
    .orderBy(asc(caseTable.title), asc(mesh.cells));
}

/** Runs that wait, in the order they will be taken. */
export async function waitingRuns(db: Db): Promise<RunRow[]> {
  return db
    .select()
    .from(run)
    .where(and(eq(run.state, "waiting"), isNull(run.deletedAt)))
    .orderBy(desc(run.priority), asc(run.createdAt));
}

export async function clearHistoryParts(db: Db, runId: string): Promise<void> {
  await db.delete(historyPart).where(eq(historyPart.runId, runId));
}

export async function insertSweep(db: Db, row: typeof sweep.$inferInsert) {
  return (await db.insert(sweep).values(row).returning())[0];
}

export async function listSweeps(db: Db, caseId: string) {
  return db
    .select()
    .from(sweep)
    .where(and(eq(sweep.caseId, caseId), isNull(sweep.deletedAt)))
    .orderBy(asc(sweep.createdAt));
}

export async function updateSweep(db: Db, id: string, change: Partial<typeof sweep.$inferSelect>): Promise<void> {
  await db.update(sweep).set(change).where(eq(sweep.id, id));
}

export async function readSetting(db: Db, key: string): Promise<number | string | undefined> {
  return (await db.select().from(setting).where(eq(setting.key, key)))[0]?.value;
}

export async function writeSetting(db: Db, key: string, value: number | string): Promise<void> {
  await db.insert(setting).values({ key, value }).onConflictDoUpdate({ target: setting.key, set: { value } });
}

export async function listSettings(db: Db): Promise<{ key: string; value: number | string }[]> {
  return db.select().from(setting);
}
