import { assessCase, type CaseAssessment } from "../../core/assessment/assessCase.ts";
import type { CaseEvidence, HistoryEvidence, RunEvidence } from "../../core/assessment/evidence.ts";
import { setupFingerprint, setupOf } from "../../core/problems/caseSetup.ts";
import { benchProblem } from "../../core/problems/catalogue.ts";
import { bytesToDoubles } from "../blobs/blobStore.ts";
import type { HistoryColumn } from "../db/schema.ts";
import type { Store } from "../db/store.ts";
import { hashOf } from "../hash.ts";
import { type CaseRow, findCase, listQuantities, listYardsticks } from "../repositories/cases.ts";
import { cachedAssessment, type FindingRow, listFindings, listReports, type ReportRow, saveAssessment } from "../repositories/findings.ts";
import { findHistory, listHistories, listHistoryParts, listMeshes, listRuns, type MeshRow, type RunRow } from "../repositories/runs.ts";
import { UseCaseError } from "./failure.ts";

/** Raised whenever the assessments change, so that cached ones are made anew. */
const METHOD_VERSION = 2;

/** Everything a page of a case shows. */
export interface CaseBook {
  readonly row: CaseRow;
  readonly evidence: CaseEvidence;
  readonly assessment: CaseAssessment;
  readonly evidenceHash: string;
  readonly runs: readonly RunRow[];
  readonly meshes: readonly MeshRow[];
  readonly findings: readonly FindingRow[];
  readonly reports: readonly ReportRow[];
}

/** Columns of a record turned into the form assessments read. */
export function historyFromColumns(
  columns: readonly HistoryColumn[],
  column: (index: number) => number[],
  starts: Record<string, number> | null | undefined,
): HistoryEvidence {
  const residuals: Record<string, number[]> = {};
  const quantities: Record<string, number[]> = {};
  let iteration: number[] = [];
  columns.forEach((c, i) => {
    if (c.role === "iteration") iteration = column(i);
    else if (c.role === "residual") residuals[c.key] = column(i);
    else quantities[c.key] = column(i);
  });
  return { iteration, residuals, quantities, starts: starts ?? undefined };
}

/** The record of a run, finished or under way; undefined when nothing was recorded. */
export async function loadHistory(store: Store, runId: string): Promise<HistoryEvidence | undefined> {
  const row = await findHistory(store.db, runId);
  if (row) {
    const data = bytesToDoubles(await store.blobs.get(row.blob));
    return historyFromColumns(row.columns, (i) => Array.from(data.subarray(i * row.rows, (i + 1) * row.rows)), row.starts);
  }
  const parts = await listHistoryParts(store.db, runId);
  if (!parts.length) return undefined;
  const rows = parts.flatMap((p) => p.rows);
  return historyFromColumns(parts[0].columns, (i) => rows.map((r) => r[i] ?? Number.NaN), parts[0].starts);
}

/** Loads a case and assesses it; the assessment of unchanged evidence is taken from the cache. */
export async function openCase(store: Store, caseId: string): Promise<CaseBook> {
  const { db } = store;
  const row = await findCase(db, caseId);
  if (!row) throw new UseCaseError("not-found", "There is no such case; it may have been deleted.");
  const [quantities, own, runs, meshes, findings, reports] = await Promise.all([
    listQuantities(db, caseId),
    listYardsticks(db, caseId),
    listRuns(db, caseId),
    listMeshes(db, caseId),
    listFindings(db, caseId),
    listReports(db, caseId),
  ]);
  const histories = await listHistories(
    db,
    runs.map((r) => r.id),
  );
  const blobs = new Map(histories.map((h) => [h.runId, h.blob]));
  const problem = row.setup.problemId === null ? undefined : benchProblem(row.setup.problemId);
  const yardsticks = [...(problem?.yardsticks(row.setup.parameters) ?? []), ...own];
  const setupHash = hashOf(setupFingerprint(row.setup));
  const evidenceHash = hashOf({
    METHOD_VERSION,
    setup: row.setup,
    title: row.title,
    kind: row.kind,
    quantities,
    yardsticks,
    runs: runs.map((r) => [r.id, r.state, r.label, r.setupHash, r.result, r.failure, r.seconds, blobs.get(r.id) ?? null]),
    findings: findings.length,
    reports: reports.length,
  });
  const base: CaseEvidence = {
    caseId,
    title: row.title,
    kind: row.kind,
    formalOrder: problem?.formalOrder ?? (row.setup.numerics.scheme === "upwind" ? 1 : 2),
    setup: setupOf(row.setup),
    setupHash,
    dropTarget: row.setup.numerics.dropOrders,
    quantities,
    yardsticks,
    runs: runs.map((r) => runEvidence(r, meshes)),
    openFindings: findings.filter((f) => !f.curedBy).length,
    reports: reports.length,
  };
  const cached = await cachedAssessment(db, caseId);
  if (cached?.evidenceHash === evidenceHash) return { row, evidence: base, assessment: cached.result, evidenceHash, runs, meshes, findings, reports };
  const evidence = {
    ...base,
    runs: await Promise.all(base.runs.map(async (r) => ({ ...r, history: r.result ? await loadHistory(store, r.id) : undefined }))),
  };
  // What is stored is what a page reads back: numbers that JSON cannot hold become null in both.
  const assessment = JSON.parse(JSON.stringify(assessCase(evidence))) as CaseAssessment;
  await saveAssessment(db, caseId, evidenceHash, assessment);
  return { row, evidence: base, assessment, evidenceHash, runs, meshes, findings, reports };
}

function runEvidence(r: RunRow, meshes: readonly MeshRow[]): RunEvidence {
  const mesh = meshes.find((m) => m.id === r.meshId);
  return {
    id: r.id,
    label: r.label,
    origin: r.origin,
    code: r.code,
    state: r.state,
    setupHash: r.setupHash,
    mesh: mesh && { label: mesh.label, cells: mesh.cells, spacing: mesh.spacing, dimension: mesh.dimension },
    result: r.result ?? undefined,
    failure: r.failure ?? undefined,
    finishedAt: r.finishedAt?.toISOString(),
    seconds: r.seconds ?? undefined,
  };
}
