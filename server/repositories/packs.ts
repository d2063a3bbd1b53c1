import { asc, eq, inArray } from "drizzle-orm";
import type { PgTable } from "drizzle-orm/pg-core";
import { caseTable, earlierLine, field, finding, history, mesh, programme, quantity, run, sweep, yardstick } from "../db/schema.ts";
import type { Db } from "../db/store.ts";
import type { Stored } from "../pack/stored.ts";

/** Cases of these ids that are here, deleted ones too. */
export async function casesHere(db: Db, ids: readonly string[]) {
  return ids.length
    ? db
        .select()
        .from(caseTable)
        .where(inArray(caseTable.id, [...ids]))
    : [];
}

/** rows of one statement: databases take so many values at once */
const AT_ONCE = 200;

async function insertAll<T extends PgTable>(db: Db, table: T, rows: readonly T["$inferInsert"][]): Promise<void> {
  for (let at = 0; at < rows.length; at += AT_ONCE) await db.insert(table).values(rows.slice(at, at + AT_ONCE) as never);
}

/** Stores the cases of a pack with all that belongs to them; its programmes where they are not here yet. */
export async function insertPacked(db: Db, s: Stored): Promise<void> {
  for (const row of s.programmes) await db.insert(programme).values(row).onConflictDoNothing();
  await insertAll(db, caseTable, s.cases);
  await insertAll(db, quantity, s.quantities);
  await insertAll(db, yardstick, s.yardsticks);
  await insertAll(db, mesh, s.meshes);
  await insertAll(db, sweep, s.sweeps);
  await insertAll(db, run, s.runs);
  await insertAll(db, history, s.histories);
  await insertAll(db, field, s.fields);
  await insertAll(db, finding, s.findings);
}

export async function insertEarlierLine(db: Db, row: typeof earlierLine.$inferInsert): Promise<void> {
  await db.insert(earlierLine).values(row);
}

/** What was done to a case before it came here, the first pack first. */
export const listEarlierLines = (db: Db, caseId: string) =>
  db.select().from(earlierLine).where(eq(earlierLine.caseId, caseId)).orderBy(asc(earlierLine.createdAt));
