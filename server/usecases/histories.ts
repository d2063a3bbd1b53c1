import type { HistoryEvidence } from "../../core/records/run.ts";
import type { Store } from "../db/store.ts";
import { historyFromColumns, type RecordMaterial, type RecordSource, readRecord } from "../desk/records.ts";
import { findCase, listQuantities } from "../repositories/cases.ts";
import { findHistory, findRun, listHistoryParts } from "../repositories/runs.ts";
import { derivedEvidence, runEvidence } from "./evidenceParts.ts";

/** Where the record of a run is, finished or under way; undefined when nothing was recorded. */
export async function recordSource(store: Store, runId: string): Promise<RecordSource | undefined> {
  const row = await findHistory(store.db, runId);
  if (row) return { stored: { blob: row.blob, columns: row.columns, rows: row.rows, starts: row.starts } };
  const parts = await listHistoryParts(store.db, runId);
  if (!parts.length) return undefined;
  const rows = parts.flatMap((p) => p.rows);
  return { underWay: historyFromColumns(parts[0].columns, (i) => Float64Array.from(rows, (r) => r[i] ?? Number.NaN), parts[0].starts) };
}

/** The record of a run with what is needed to work out the derived quantities of its case. */
export async function recordMaterial(store: Store, runId: string): Promise<RecordMaterial | undefined> {
  const source = await recordSource(store, runId);
  if (!source) return undefined;
  const run = await findRun(store.db, runId);
  const row = run && (await findCase(store.db, run.caseId));
  const base = { blobs: store.blobs.folder, source };
  if (!run || !row?.setup.derived) return base;
  const quantities = await listQuantities(store.db, row.id);
  const { derived } = derivedEvidence(row.setup, quantities);
  return derived ? { ...base, worked: { run: runEvidence(run, []), derived, quantities } } : base;
}

/** The record of a run as it was recorded; for short ones, since it is read here. */
export async function loadHistory(store: Store, runId: string): Promise<HistoryEvidence | undefined> {
  const source = await recordSource(store, runId);
  return source && readRecord(store.blobs.folder, source);
}
