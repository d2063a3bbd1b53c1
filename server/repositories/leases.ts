import { and, eq, inArray, isNull, lt, or, sql } from "drizzle-orm";
import type { Build } from "../../core/records/build.ts";
import { type field, type HistoryColumn, type history, historyPart, moment, run } from "../db/schema.ts";
import type { Db } from "../db/store.ts";
import { type RunRow, saveField, saveHistory } from "./runs.ts";

/** One attempt at a run: whatever is written of it is written in its name, and refused once a later attempt has begun. */
export interface Lease {
  readonly id: string;
  readonly attempt: number;
}

/** Takes a waiting run for oneself; undefined when somebody else was faster or it waits no more. */
export async function leaseRun(db: Db, id: string, holder: string, until: Date, build?: Build): Promise<RunRow | undefined> {
  const taken = await db
    .update(run)
    .set({
      state: "running",
      leasedBy: holder,
      leaseUntil: until,
      ...(build ? { build } : {}),
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

/** Whether the lease of an attempt stands; it then stands until the transaction ends. */
async function holds(tx: Db, { id, attempt }: Lease): Promise<boolean> {
  const found = await tx
    .select({ id: run.id })
    .from(run)
    .where(and(eq(run.id, id), eq(run.attempt, attempt), eq(run.state, "running")))
    .for("update");
  return found.length > 0;
}

/** Stores rows of a record by the number of the first, only while the lease stands; rows told twice are stored once. @returns whether it stands */
export async function addRows(
  db: Db,
  lease: Lease,
  row: { sequence: number; columns: HistoryColumn[]; rows: number[][]; starts?: Record<string, number> },
): Promise<boolean> {
  return db.transaction(async (tx) => {
    if (!(await holds(tx, lease))) return false;
    await tx
      .insert(historyPart)
      .values({ runId: lease.id, ...row })
      .onConflictDoNothing();
    return true;
  });
}

/** Stores the fields of a moment by its number, only while the lease stands; told twice it is stored once. @returns whether it stands */
export async function addMoment(db: Db, lease: Lease, kept: Omit<typeof moment.$inferInsert, "id" | "runId">): Promise<boolean> {
  return db.transaction(async (tx) => {
    if (!(await holds(tx, lease))) return false;
    await tx
      .insert(moment)
      .values({ runId: lease.id, ...kept })
      .onConflictDoNothing();
    return true;
  });
}

/** What a run leaves behind at its end. */
export interface Left {
  readonly record?: typeof history.$inferInsert;
  readonly fields?: readonly (typeof field.$inferInsert)[];
  readonly change: Partial<RunRow>;
}

/** Writes record, fields and state of a run together, or, where the lease no longer stands, nothing. @returns whether it did */
export async function endLeased(db: Db, lease: Lease, { record, fields = [], change }: Left): Promise<boolean> {
  return db.transaction(async (tx) => {
    if (!(await holds(tx, lease))) return false;
    if (record) await saveHistory(tx, record);
    for (const f of fields) await saveField(tx, f);
    await tx.update(run).set(change).where(eq(run.id, lease.id));
    return true;
  });
}

/** Changes a run only while the lease of that attempt still stands. @returns whether it did */
export async function updateLeased(db: Db, { id, attempt }: Lease, change: Partial<RunRow>): Promise<boolean> {
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
    .set({ state: "waiting", leasedBy: null, leaseUntil: null, breaks: sql`${run.breaks} + 1` })
    .where(and(eq(run.state, "running"), isNull(run.deletedAt), who))
    .returning();
}
