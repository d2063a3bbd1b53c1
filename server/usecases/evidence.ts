import { assessCase } from "../../core/assessment/assessCase.ts";
import { derivedSet, withDerived } from "../../core/assessment/derived/derivedQuantities.ts";
import { reportLine } from "../../core/assessment/registry.ts";
import type { CaseAssessment } from "../../core/assessment/results/case.ts";
import { readAssessment, writeAssessment } from "../../core/assessment/stored.ts";
import { readDerived } from "../../core/method/propagation/derived.ts";
import { benchProblem } from "../../core/problems/build/catalogue.ts";
import { type CaseSetup, inputsOf, parameterSpecs, setupFingerprint, setupOf } from "../../core/problems/describe/caseSetup.ts";
import type { CaseEvidence } from "../../core/records/case.ts";
import type { DerivedEvidence } from "../../core/records/derived.ts";
import type { QuantitySpec } from "../../core/records/quantity.ts";
import type { HistoryEvidence, RunEvidence } from "../../core/records/run.ts";
import { BlobError, bytesToDoubles } from "../blobs/blobStore.ts";
import type { HistoryColumn, sweep } from "../db/schema.ts";
import type { Store } from "../db/store.ts";
import { hashOf } from "../hash.ts";
import { isResult } from "../jobs/messageShape.ts";
import { methodVersion } from "../method.ts";
import { type CaseRows, loadRows } from "../repositories/books.ts";
import { type CaseRow, findCase, listQuantities, quantitySpec } from "../repositories/cases.ts";
import { type FindingRow, type ReportRow, saveAssessment } from "../repositories/findings.ts";
import { findHistory, findRun, listHistoryParts, listSettings, type MeshRow, type RunRow } from "../repositories/runs.ts";
import { UseCaseError } from "./failure.ts";
import { Kept } from "./kept.ts";
import { precisionOf } from "./sources.ts";

type SweepRow = typeof sweep.$inferSelect;

/** Everything a page of a case shows. */
export interface CaseBook {
  readonly row: CaseRow;
  readonly evidence: CaseEvidence;
  readonly assessment: CaseAssessment;
  readonly evidenceHash: string;
  readonly runs: readonly RunRow[];
  /** runs of sweeps */
  readonly swept: readonly RunRow[];
  readonly sweeps: readonly SweepRow[];
  readonly meshes: readonly MeshRow[];
  readonly findings: readonly FindingRow[];
  readonly reports: readonly ReportRow[];
  /** what is stored of it and cannot be read, in sentences; the rest goes on without */
  readonly damaged: readonly string[];
}

/** Columns of a record turned into the form assessments read. */
export function historyFromColumns(
  columns: readonly HistoryColumn[],
  column: (index: number) => Float64Array,
  starts: Record<string, number> | null | undefined,
): HistoryEvidence {
  const residuals: Record<string, Float64Array> = {};
  const quantities: Record<string, Float64Array> = {};
  const balances: Record<string, Float64Array> = {};
  let iteration: Float64Array = new Float64Array();
  let time: Float64Array | undefined;
  columns.forEach((c, i) => {
    if (c.role === "iteration") iteration = column(i);
    else if (c.role === "time") time = column(i);
    else if (c.role === "residual") residuals[c.key] = column(i);
    else if (c.role === "balance") balances[c.key] = column(i);
    else quantities[c.key] = column(i);
  });
  return {
    iteration,
    ...(time ? { time } : {}),
    residuals,
    quantities,
    ...(Object.keys(balances).length ? { balances } : {}),
    starts: starts ?? undefined,
  };
}

/** numbers of records that are kept at hand */
const MOST_NUMBERS = 24e6;
const records = new Kept<HistoryEvidence>(
  MOST_NUMBERS,
  (h) => h.iteration.length * (2 + Object.keys(h.residuals).length + Object.keys(h.quantities).length + Object.keys(h.balances ?? {}).length),
);

/** The record of a run, finished or under way; undefined when nothing was recorded. */
export async function loadHistory(store: Store, runId: string): Promise<HistoryEvidence | undefined> {
  const row = await findHistory(store.db, runId);
  if (row)
    return records.get(`${row.blob} ${JSON.stringify([row.columns, row.starts])}`, async () => {
      const data = bytesToDoubles(await store.blobs.get(row.blob));
      return historyFromColumns(row.columns, (i) => data.subarray(i * row.rows, (i + 1) * row.rows), row.starts);
    });
  const parts = await listHistoryParts(store.db, runId);
  if (!parts.length) return undefined;
  const rows = parts.flatMap((p) => p.rows);
  return historyFromColumns(parts[0].columns, (i) => Float64Array.from(rows, (r) => r[i] ?? Number.NaN), parts[0].starts);
}

/** The record of a run with the derived quantities of its case. */
export async function loadWorkedHistory(store: Store, runId: string): Promise<HistoryEvidence | undefined> {
  const history = await loadHistory(store, runId);
  const run = await findRun(store.db, runId);
  const row = run && (await findCase(store.db, run.caseId));
  if (!history || !run || !row?.setup.derived) return history;
  const quantities = await listQuantities(store.db, row.id);
  const { derived } = derivedEvidence(row.setup, quantities);
  return derived ? withDerived({ ...runEvidence(run, []), history }, derived, derivedSet(derived, quantities)).history : history;
}

/** Loads a case and assesses it. */
export async function openCase(store: Store, caseId: string): Promise<CaseBook> {
  const [book] = await openCases(store, [caseId]);
  if (!book) throw new UseCaseError("not-found", "There is no such case; it may have been deleted.");
  return book;
}

/** Loads several cases, in the order they were made; assessments of unchanged evidence are taken from the cache. */
export async function openCases(store: Store, ids: readonly string[]): Promise<CaseBook[]> {
  return (await openEach(store, ids)).map((found) => {
    if ("sentence" in found) throw found.error;
    return found;
  });
}

/** A case that cannot be shown, with the reason. */
export interface BrokenCase {
  readonly row: CaseRow;
  readonly sentence: string;
  readonly error: unknown;
}

/** Loads several cases; one that cannot be read or assessed leaves the others as they are. */
export async function openEach(store: Store, ids: readonly string[]): Promise<(CaseBook | BrokenCase)[]> {
  const rows = await loadRows(store.db, ids);
  const precision = precisionOf(await listSettings(store.db));
  const found: (CaseBook | BrokenCase)[] = [];
  for (const row of rows.cases)
    found.push(
      await openRows(store, row, rows, precision).catch((error) => {
        console.error(`Case ${row.id}:`, error);
        return { row, sentence: error instanceof Error ? error.message : String(error), error };
      }),
    );
  return found;
}

/** Records of runs; one that is missing or damaged is named, and its run goes without. */
async function withRecords(store: Store, runs: readonly RunEvidence[]): Promise<{ runs: RunEvidence[]; damaged: string[] }> {
  const damaged: string[] = [];
  const load = async (r: RunEvidence) => {
    try {
      return { ...r, history: r.result ? await loadHistory(store, r.id) : undefined };
    } catch (error) {
      if (!(error instanceof BlobError)) throw error;
      damaged.push(`The record of ${r.label} cannot be read. ${error.message}`);
      return r;
    }
  };
  return { runs: await Promise.all(runs.map(load)), damaged };
}

/** Assesses a case; runs whose stored result is none are named and left out, where that is what stands in the way. */
function assessSound(e: CaseEvidence): { assessment: CaseAssessment; damaged: string[] } {
  try {
    return { assessment: assessCase(e), damaged: [] };
  } catch (error) {
    const broken = e.runs.filter((r) => r.result && !isResult(r.result));
    if (!broken.length) throw error;
    const runs = e.runs.map((r) => (broken.includes(r) ? { ...r, result: undefined, history: undefined } : r));
    return {
      assessment: assessCase({ ...e, runs }),
      damaged: broken.map((r) => `The stored result of ${r.label} is none; run it again or delete it.`),
    };
  }
}

async function openRows(store: Store, row: CaseRow, rows: CaseRows, precision: NonNullable<CaseEvidence["precision"]>): Promise<CaseBook> {
  const own = <T extends { caseId: string }>(list: readonly T[]) => list.filter((r) => r.caseId === row.id);
  const all = own(rows.runs);
  // Runs of a sweep have conditions of their own: they are shown, but are no evidence for the case.
  const runs = all.filter((r) => r.sweepId === null);
  const meshes = own(rows.meshes);
  const findings = own(rows.findings);
  const reports = own(rows.reports);
  const quantities = own(rows.quantities).map((q) => {
    const take = row.setup.takes?.[q.key];
    return { ...quantitySpec(q), ...(take ? { take } : {}) };
  });
  const blobs = new Map(rows.histories.map((h) => [h.runId, h.blob]));
  const problem = row.setup.problemId === null ? undefined : benchProblem(row.setup.problemId);
  const yardsticks = [
    ...(problem?.yardsticks(row.setup.parameters, row.setup.formulas ?? {}) ?? []),
    ...own(rows.yardsticks).map((y) => ({ ...y.data, key: y.id, typed: true })),
  ];
  const evidence: CaseEvidence = {
    caseId: row.id,
    kind: row.kind,
    formalOrder: problem?.formalOrder ?? row.setup.stated?.schemeOrder ?? 2,
    setup: setupOf(row.setup),
    setupHash: hashOf(setupFingerprint(row.setup)),
    dropTarget: row.setup.numerics.dropOrders,
    ...(row.setup.answers ? { answers: row.setup.answers } : {}),
    quantities,
    ...derivedEvidence(row.setup, quantities),
    yardsticks,
    broughtIn: row.setup.problemId === null,
    ...(row.setup.settlements?.length ? { settlements: row.setup.settlements } : {}),
    precision: Object.fromEntries(Object.entries(precision).filter(([code]) => runs.some((r) => r.code === code))),
    ...(row.setup.inputs ? { inputs: inputsOf(row.setup) } : {}),
    ...(row.setup.inputs ? { swept: sweptPoints(all) } : {}),
    runs: runs.map((r) => runEvidence(r, meshes)),
  };
  const evidenceHash = hashOf({ method: methodVersion(), evidence, records: runs.map((r) => blobs.get(r.id) ?? null) });
  const book = {
    row,
    evidence,
    evidenceHash,
    runs,
    swept: all.filter((r) => r.sweepId !== null),
    sweeps: own(rows.sweeps),
    meshes,
    findings,
    reports,
  };
  const cached = own(rows.cached)[0];
  const known = cached?.evidenceHash === evidenceHash ? readAssessment(cached.result) : undefined;
  if (known) return { ...book, damaged: [], assessment: withReports(known, reports.length) };
  const read = await withRecords(store, evidence.runs);
  const { assessment, damaged: results } = assessSound({ ...evidence, runs: read.runs });
  const damaged = [...read.damaged, ...results];
  // What rests on half the evidence is not kept: the other half may be brought back.
  if (!damaged.length)
    await saveAssessment(store.db, row.id, evidenceHash, writeAssessment(assessment)).catch((error: Error) => {
      // A full disk keeps nobody from reading: it is worked out again next time.
      console.error(`The assessment of ${row.title} could not be kept: ${error.message}`);
    });
  return { ...book, damaged, assessment: withReports(assessment, reports.length) };
}

const withReports = (a: CaseAssessment, count: number): CaseAssessment => ({ ...a, stages: [...a.stages, reportLine(count)] });

/** Finished runs of sweeps made with the present conditions but for what they vary. */
const sweptPoints = (runs: readonly RunRow[]) =>
  runs.flatMap((r) => (r.sweepId !== null && r.result ? [{ parameters: r.settings.parameters, quantities: r.result.quantities }] : []));

/** Inputs of a case that a formula may name, with their values. */
export function formulaInputs(setup: CaseSetup): DerivedEvidence["inputs"] {
  return parameterSpecs(setup.problemId).flatMap((s) =>
    s.choices || setup.parameters[s.key] === undefined ? [] : [{ name: s.key, unit: s.unit || "1", value: setup.parameters[s.key] }],
  );
}

/** Formulas of a case with the inputs they may name; those of quantities taken off, and what rests on them, are left out. */
function derivedEvidence(setup: CaseSetup, quantities: readonly QuantitySpec[]): { derived?: DerivedEvidence } {
  const inputs = formulaInputs(setup);
  let specs = (setup.derived ?? []).filter((d) => quantities.some((q) => q.key === d.key));
  for (let before = -1; before !== specs.length; ) {
    before = specs.length;
    const names = [
      ...inputs.map((i) => i.name),
      ...quantities.map((q) => q.key).filter((k) => !setup.derived?.some((d) => d.key === k) || specs.some((d) => d.key === k)),
    ];
    specs = specs.filter((d) => readable(d.formula, names));
  }
  return specs.length ? { derived: { specs, inputs } } : {};
}

function readable(formula: string, names: readonly string[]): boolean {
  try {
    readDerived(formula, names);
    return true;
  } catch {
    return false;
  }
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
    ...(r.judging ? { judging: r.judging } : {}),
    ...(r.settings.stated ? { stated: r.settings.stated } : {}),
    result: r.result ?? undefined,
    failure: r.failure ?? undefined,
    finishedAt: r.finishedAt?.toISOString(),
    seconds: r.seconds ?? undefined,
  };
}
