import { asc, isNull, sql } from "drizzle-orm";
import type { BoardRow } from "../../core/assessment/results/boardRow.ts";
import { boardRow, caseTable } from "../db/schema.ts";
import type { Db } from "../db/store.ts";

/** The versions of all rows of a table, by case: the number of the change that wrote each, in a fixed order. */
const versions = (table: string, key = "id") =>
  `(select case_id, string_agg(xmin::text, ' ' order by ${key}) as seen from ${table} group by case_id)`;

const OF_RUNS =
  "(select case_id, string_agg(history.xmin::text, ' ' order by run.id) as seen from history join run on run.id = run_id group by case_id)";

const PARTS = [...["quantity", "yardstick", "mesh", "sweep", "run", "finding", "report"].map((table) => versions(table)), OF_RUNS];

const STAMPS = `select c.id, md5(concat_ws('/', c.xmin::text, ${PARTS.map((_, k) => `coalesce(p${k}.seen, '')`).join(", ")})) as stamp
  from "case" c ${PARTS.map((part, k) => `left join ${part} p${k} on p${k}.case_id = c.id`).join(" ")}
  where c.deleted_at is null`;

/**
 * A word for all that is stored of each case, that changes with any of it, whoever changes it: the database numbers its changes, and every row
 * tells which one wrote it.
 */
export async function caseStamps(db: Db): Promise<Map<string, string>> {
  const { rows } = (await db.execute(sql.raw(STAMPS))) as unknown as { rows: { id: string; stamp: string }[] };
  return new Map(rows.map((r) => [r.id, r.stamp]));
}

/** Names of all cases, in the order they were made. */
export const caseNames = (db: Db): Promise<{ id: string; title: string }[]> =>
  db.select({ id: caseTable.id, title: caseTable.title }).from(caseTable).where(isNull(caseTable.deletedAt)).orderBy(asc(caseTable.createdAt));

/** What was kept of the board, by case. */
export async function keptBoardRows(db: Db): Promise<Map<string, { stamp: string; row: BoardRow }>> {
  return new Map((await db.select().from(boardRow)).map(({ caseId, ...kept }) => [caseId, kept]));
}

export async function keepBoardRow(db: Db, caseId: string, stamp: string, row: BoardRow): Promise<void> {
  await db.insert(boardRow).values({ caseId, stamp, row }).onConflictDoUpdate({ target: boardRow.caseId, set: { stamp, row } });
}
