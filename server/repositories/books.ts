import { and, asc, desc, inArray, isNull } from "drizzle-orm";
import { caseTable, finding, history, mesh, programme, quantity, report, run, sweep, yardstick } from "../db/schema.ts";
import type { Db } from "../db/store.ts";

/** All rows of several cases, one query a table however many cases there are. */
export async function loadRows(db: Db, ids: readonly string[]) {
  const of = [...ids];
  if (!of.length)
    return { cases: [], quantities: [], yardsticks: [], runs: [], meshes: [], findings: [], reports: [], histories: [], sweeps: [], programmes: [] };
  const present = (table: typeof quantity | typeof yardstick | typeof run | typeof finding | typeof sweep) =>
    and(inArray(table.caseId, of), isNull(table.deletedAt));
  // One after the other: the embedded database answers in the order it was asked, and all eight at once would stand before whoever asks one thing.
  const cases = await db
    .select()
    .from(caseTable)
    .where(and(inArray(caseTable.id, of), isNull(caseTable.deletedAt)))
    .orderBy(asc(caseTable.createdAt));
  const quantities = await db.select().from(quantity).where(present(quantity)).orderBy(asc(quantity.position));
  const yardsticks = await db.select().from(yardstick).where(present(yardstick)).orderBy(asc(yardstick.createdAt));
  const runs = await db.select().from(run).where(present(run)).orderBy(asc(run.createdAt));
  const meshes = await db.select().from(mesh).where(inArray(mesh.caseId, of)).orderBy(asc(mesh.cells));
  const findings = await db.select().from(finding).where(present(finding)).orderBy(asc(finding.createdAt));
  const reports = await db.select().from(report).where(inArray(report.caseId, of)).orderBy(desc(report.number));
  const sweeps = await db.select().from(sweep).where(present(sweep)).orderBy(asc(sweep.createdAt));
  const owners = [...new Set(cases.map((c) => c.programmeId))];
  const programmes = owners.length ? await db.select().from(programme).where(inArray(programme.id, owners)) : [];
  const runIds = runs.map((r) => r.id);
  const histories = runIds.length
    ? await db.select({ runId: history.runId, blob: history.blob }).from(history).where(inArray(history.runId, runIds))
    : [];
  return { cases, quantities, yardsticks, runs, meshes, findings, reports, histories, sweeps, programmes };
}

export type CaseRows = Awaited<ReturnType<typeof loadRows>>;
