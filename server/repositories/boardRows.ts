import { asc, inArray, isNull, sql } from "drizzle-orm";
import type { KeptRow } from "../../core/assessment/results/boardRow.ts";
import { boardRow, caseTable } from "../db/schema.ts";
import type { Db } from "../db/store.ts";

/** The versions of all rows of a table, by case: the number of the change that wrote each, in a fixed order. */
const versions = (table: string) => `(select case_id, string_agg(xmin::text, ' ' order by id) as seen from ${table} group by case_id)`;

const OF_RUNS =
  "(select case_id, string_agg(history.xmin::text, ' ' order by run.id) as seen from history join run on run.id = run_id group by case_id)";

const TABLES = ["quantity", "yardstick", "mesh", "sweep", "run", "finding", "report"];
const PARTS = [...TABLES.map((table) => versions(table)), OF_RUNS];

const STAMPS = `select c.id, md5(concat_ws('/', c.xmin::text, g.xmin::text, ${PARTS.map((_, k) => `coalesce(p${k}.seen, '')`).join(", ")})) as stamp
  from "case" c left join programme g on g.id = c.programme_id ${PARTS.map((part, k) => `left join ${part} p${k} on p${k}.case_id = c.id`).join(" ")}
  where c.deleted_at is null`;

const ofOne = (table: string) => `(select string_agg(xmin::text, ' ' order by id) from ${table} where case_id = c.id)`;

const RUNS_OF_ONE = "(select string_agg(history.xmin::text, ' ' order by run.id) from history join run on run.id = run_id where case_id = c.id)";

const PARTS_OF_ONE = [...TABLES.map(ofOne), RUNS_OF_ONE].map((part) => `coalesce(${part}, '')`).join(", ");

/** The stamp of one case, as {@link caseStamps} gives it; undefined where there is no such case. */
export async function caseStamp(db: Db, id: string): Promise<string | undefined> {
  const asked = sql`${sql.raw(`select md5(concat_ws('/', c.xmin::text, (select xmin::text from programme where id = c.programme_id), ${PARTS_OF_ONE})) as stamp from "case" c where c.deleted_at is null and c.id = `)}${id}`;
  const { rows } = (await db.execute(asked)) as unknown as { rows: { stamp: string }[] };
  return rows[0]?.stamp;
}

/**
 * A word for all that is stored of each case, that changes with any of it, whoever changes it: the database numbers its changes, and every row
 * tells which one wrote it.
 */
export async function caseStamps(db: Db): Promise<Map<string, string>> {
  const { rows } = (await db.execute(sql.raw(STAMPS))) as unknown as { rows: { id: string; stamp: string }[] };
  return new Map(rows.map((r) => [r.id, r.stamp]));
}

/** Names of all cases, in the order they were made. */
export const caseNames = (db: Db): Promise<{ id: string; title: string; programmeId: string }[]> =>
  db
    .select({ id: caseTable.id, title: caseTable.title, programmeId: caseTable.programmeId })
    .from(caseTable)
    .where(isNull(caseTable.deletedAt))
    .orderBy(asc(caseTable.createdAt));

/** What was kept of the board of some cases. */
export async function keptBoardRows(db: Db, ids: readonly string[]): Promise<{ caseId: string; stamp: string; row: KeptRow }[]> {
  return ids.length
    ? db
        .select()
        .from(boardRow)
        .where(inArray(boardRow.caseId, [...ids]))
    : [];
}

export async function keepBoardRow(db: Db, caseId: string, stamp: string, row: KeptRow): Promise<void> {
  await db.insert(boardRow).values({ caseId, stamp, row }).onConflictDoUpdate({ target: boardRow.caseId, set: { stamp, row } });
}
