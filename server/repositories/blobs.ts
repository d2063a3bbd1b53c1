import { isNotNull, sql } from "drizzle-orm";
import { field, history, moment, report, run, yardstick } from "../db/schema.ts";
import type { Db } from "../db/store.ts";

/** Hashes a list of rows holds, whatever their columns are called. */
const within = (rows: readonly object[]): string[] => rows.flatMap((r) => Object.values(r).filter((v): v is string => typeof v === "string"));

/** Hashes in the frozen settings of runs: files they were made from, and fields and mesh they started from. */
const inSettings = (db: Db) =>
  db
    .select({
      hashes: sql<
        string[] | null
      >`jsonb_path_query_array(${run.settings}, '$.files[*].hash') || jsonb_path_query_array(${run.settings}, '$.startFrom.fields[*].hash') || jsonb_path_query_array(${run.settings}, '$.startFrom.meshHash')`,
    })
    .from(run);

/** Every blob that any table names, deleted rows too: they can be brought back. A table that names blobs has its line here. */
export async function namedBlobs(db: Db): Promise<Set<string>> {
  const settings = await inSettings(db);
  return new Set([
    ...within(await db.select({ a: history.blob }).from(history)),
    ...within(await db.select({ a: field.blob, b: field.mesh }).from(field)),
    ...(await db.select({ fields: moment.fields }).from(moment)).flatMap((m) => m.fields.map((f) => f.blob)),
    ...within(await db.select({ a: report.document, b: report.pdf, c: report.archive }).from(report)),
    ...within(await db.select({ a: run.checkpoint }).from(run).where(isNotNull(run.checkpoint))),
    ...within(
      await db
        .select({
          a: sql<string | null>`${yardstick.data} -> 'provenance' -> 'file' ->> 'hash'`,
          b: sql<string | null>`${yardstick.data} -> 'figure' ->> 'hash'`,
        })
        .from(yardstick),
    ),
    ...settings.flatMap((r) => r.hashes ?? []),
  ]);
}
