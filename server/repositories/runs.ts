import { and, asc, desc, eq, inArray, isNull, lt, or, sql } from "drizzle-orm";
import { caseTable, field, type HistoryColumn, history, historyPart, mesh, run, setting, sweep } from "../db/schema.ts";
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

/** Takes a waiting run for oneself; undefined when somebody else was faster or it waits no more. */
export async function leaseRun(db: Db, id: string, holder: string, until: Date): Promise<RunRow | undefined> {
  const taken = await db
    .update(run)
    .set({
      state: "running",
      leasedBy: holder,
      leaseUntil: until,
      attempt: sql`${run.attempt} + 1`,
      startedAt: sql`coalesce(${run.startedAt}, now())`,
    })
    .where(and(eq(run.id, id), eq(run.state, "waiting"), isNull(run.deletedAt)))
    .returning();
  return taken[0];
}

/** Takes followed runs whose follower fell silent before a time, and renews one's own. @returns those newly taken */
export async function takeFollowed(db: Db, holder: string, silentSince: Date, until: Date, own: readonly string[]): Promise<RunRow[]> {
  if (own.length)
    await db
      .update(run)
      .set({ leaseUntil: until })
      .where(and(eq(run.leasedBy, holder), inArray(run.id, [...own])));
  return db
    .update(run)
    .set({ leasedBy: holder, leaseUntil: until })
    .where(
      and(
        eq(run.state, "followed"),
        isNull(run.deletedAt),
        or(isNull(run.leaseUntil), lt(run.leaseUntil, silentSince)),
        own.length ? sql`${run.id} not in ${[...own]}` : undefined,
      ),
    )
    .returning();
}

/** Changes a run only while the lease of that attempt still stands. @returns whether it did */
export async function updateLeased(db: Db, id: string, attempt: number, change: Partial<RunRow>): Promise<boolean> {
  const changed = await db
    .update(run)
    .set(change)
    .where(and(eq(run.id, id), eq(run.attempt, attempt), eq(run.state, "running")))
    .returning({ id: run.id });
  return changed.length > 0;
}

/** Puts runs whose holder has gone back among the waiting; they go on from their last checkpoint. */
export async function releaseLost(db: Db, lost: { readonly holder?: string; readonly now?: Date }): Promise<RunRow[]> {
  const who = lost.holder === undefined ? or(isNull(run.leaseUntil), lt(run.leaseUntil, lost.now ?? new Date())) : eq(run.leasedBy, lost.holder);
  return db
    .update(run)
    .set({ state: "waiting", leasedBy: null, leaseUntil: null })
    .where(and(eq(run.state, "running"), isNull(run.deletedAt), who))
    .returning();
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
