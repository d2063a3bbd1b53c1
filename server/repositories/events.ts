import { and, asc, desc, eq, gt, lt, sql } from "drizzle-orm";
import { event } from "../db/schema.ts";
import type { Db } from "../db/store.ts";

export type EventRow = typeof event.$inferSelect;

/** a number of our own for the lock of the chain's end */
const CHAIN = 0x71_2e;

/** Adds an entry at the end of the chain; two at once come one after the other, whoever else writes into the database. */
export async function appendEvent(db: Db, make: (last: EventRow | undefined) => EventRow): Promise<EventRow> {
  return db.transaction(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(${CHAIN})`);
    const [last] = await tx.select().from(event).orderBy(desc(event.sequence)).limit(1);
    return (await tx.insert(event).values(make(last)).returning())[0];
  });
}

/** Entries before a number, the newest first. */
export function listEvents(
  db: Db,
  { caseId, before, most }: { caseId?: string | undefined; before?: number | undefined; most: number },
): Promise<EventRow[]> {
  const of = [...(caseId ? [eq(event.caseId, caseId)] : []), ...(before === undefined ? [] : [lt(event.sequence, before)])];
  return db
    .select()
    .from(event)
    .where(of.length ? and(...of) : undefined)
    .orderBy(desc(event.sequence))
    .limit(most);
}

/** Entries after a number, in their order: the chain piece by piece. */
export const eventsAfter = (db: Db, sequence: number, most: number): Promise<EventRow[]> =>
  db.select().from(event).where(gt(event.sequence, sequence)).orderBy(asc(event.sequence)).limit(most);

/** The whole chain. */
export const allEvents = (db: Db): Promise<EventRow[]> => db.select().from(event).orderBy(asc(event.sequence));
