import { and, desc, eq } from "drizzle-orm";
import { pilot } from "../db/schema.ts";
import type { Db } from "../db/store.ts";

export type PilotRow = typeof pilot.$inferSelect;

/** Autopilots of a case, the latest first. */
export async function listPilots(db: Db, caseId: string): Promise<PilotRow[]> {
  return db.select().from(pilot).where(eq(pilot.caseId, caseId)).orderBy(desc(pilot.createdAt));
}

export async function findPilot(db: Db, id: string): Promise<PilotRow | undefined> {
  return (await db.select().from(pilot).where(eq(pilot.id, id)))[0];
}

/** Those that are under way, of all cases. */
export async function pilotsUnderWay(db: Db): Promise<PilotRow[]> {
  return db.select().from(pilot).where(eq(pilot.state, "under way"));
}

export async function insertPilot(db: Db, row: typeof pilot.$inferInsert): Promise<PilotRow> {
  return (await db.insert(pilot).values(row).returning())[0];
}

/** Writes what was decided, once: who decided on the same position later is refused. @returns whether it was written */
export async function decidePilot(db: Db, { id, moves }: Pick<PilotRow, "id" | "moves">, change: Partial<PilotRow>): Promise<boolean> {
  const written = await db
    .update(pilot)
    .set({ ...change, moves: moves + 1 })
    .where(and(eq(pilot.id, id), eq(pilot.moves, moves), eq(pilot.state, "under way")))
    .returning({ id: pilot.id });
  return written.length > 0;
}
