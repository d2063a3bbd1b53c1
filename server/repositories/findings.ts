import { and, asc, count, eq, isNull, sql } from "drizzle-orm";
import { assessmentCache, caseTable, finding, report } from "../db/schema.ts";
import type { Db } from "../db/store.ts";

export type FindingRow = typeof finding.$inferSelect;
export type ReportRow = typeof report.$inferSelect;

export async function listFindings(db: Db, caseId?: string): Promise<FindingRow[]> {
  const alive = isNull(finding.deletedAt);
  return db
    .select()
    .from(finding)
    .where(caseId ? and(alive, eq(finding.caseId, caseId)) : alive)
    .orderBy(asc(finding.createdAt));
}

/** How many findings of the cases at hand are not cured. */
export async function countOpenFindings(db: Db): Promise<number> {
  const open = and(isNull(finding.deletedAt), isNull(finding.curedBy), isNull(caseTable.deletedAt));
  const [found] = await db.select({ count: count() }).from(finding).innerJoin(caseTable, eq(caseTable.id, finding.caseId)).where(open);
  return found.count;
}

export async function findFinding(db: Db, id: string): Promise<FindingRow | undefined> {
  return (await db.select().from(finding).where(eq(finding.id, id)))[0];
}

export async function insertFinding(db: Db, row: typeof finding.$inferInsert): Promise<FindingRow> {
  return (await db.insert(finding).values(row).returning())[0];
}

export async function updateFinding(db: Db, id: string, change: Partial<FindingRow>): Promise<void> {
  await db.update(finding).set(change).where(eq(finding.id, id));
}

export async function findReport(db: Db, caseId: string, number: number): Promise<ReportRow | undefined> {
  return (
    await db
      .select()
      .from(report)
      .where(and(eq(report.caseId, caseId), eq(report.number, number)))
  )[0];
}

/** Issued reports of a case, the first one first. */
export const listReports = (db: Db, caseId: string): Promise<ReportRow[]> =>
  db.select().from(report).where(eq(report.caseId, caseId)).orderBy(asc(report.number));

/** Stores a report under the next number of its case. */
export async function insertReport(db: Db, row: typeof report.$inferInsert): Promise<ReportRow> {
  return (await db.insert(report).values(row).returning())[0];
}

export async function updateReport(db: Db, id: string, change: Pick<Partial<ReportRow>, "signOffs" | "withdrawn">): Promise<void> {
  await db.update(report).set(change).where(eq(report.id, id));
}

export async function nextReportNumber(db: Db, caseId: string): Promise<number> {
  const [row] = await db
    .select({ top: sql<number>`coalesce(max(${report.number}), 0)` })
    .from(report)
    .where(eq(report.caseId, caseId));
  return Number(row.top) + 1;
}

/** What was kept of an assessment, where it rests on this evidence. */
export async function keptAssessment(db: Db, caseId: string, evidenceHash: string): Promise<unknown> {
  const of = and(eq(assessmentCache.caseId, caseId), eq(assessmentCache.evidenceHash, evidenceHash));
  return (await db.select({ result: assessmentCache.result }).from(assessmentCache).where(of))[0]?.result;
}

export async function saveAssessment(db: Db, caseId: string, evidenceHash: string, result: unknown): Promise<void> {
  await db
    .insert(assessmentCache)
    .values({ caseId, evidenceHash, result })
    .onConflictDoUpdate({ target: assessmentCache.caseId, set: { evidenceHash, result } });
}
