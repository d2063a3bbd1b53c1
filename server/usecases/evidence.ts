import { reportLine } from "../../core/assessment/registry.ts";
import type { CaseAssessment } from "../../core/assessment/results/case.ts";
import type { Varied } from "../../core/exact/answering.ts";
import { benchProblem } from "../../core/problems/build/catalogue.ts";
import { type CaseSetup, inputsOf, setupFingerprint, setupOf } from "../../core/problems/describe/caseSetup.ts";
import { conditionsOf } from "../../core/problems/describe/conditions.ts";
import { questionOf } from "../../core/problems/describe/made.ts";
import type { CaseEvidence } from "../../core/records/case.ts";
import type { Store } from "../db/store.ts";
import { hashOf } from "../hash.ts";
import { methodVersion } from "../method.ts";
import { caseStamp } from "../repositories/boardRows.ts";
import { type CaseRows, loadRows } from "../repositories/books.ts";
import { type CaseRow, quantitySpec } from "../repositories/cases.ts";
import type { FindingRow } from "../repositories/findings.ts";
import type { ProgrammeRow } from "../repositories/programmes.ts";
import { listSettings } from "../repositories/runs.ts";
import { assessed, exactYardsticks, ownYardsticks } from "./assessed.ts";
import type { CaseBook } from "./caseBook.ts";
import { derivedEvidence, ruleValues, runEvidence } from "./evidenceParts.ts";
import { UseCaseError } from "./failure.ts";
import { Kept } from "./kept.ts";
import { precisionOf } from "./sources.ts";
import { curvesOfSweeps, sweptEvidence, sweptSets } from "./sweptSets.ts";

/** Loads a case and assesses it. */
export async function openCase(store: Store, caseId: string): Promise<CaseBook> {
  const own = await caseStamp(store.db, caseId);
  if (own === undefined) throw new UseCaseError("not-found", "There is no such case; it may have been deleted.");
  const books = booksOf(store);
  const stamp = `${caseId} ${await commonStamp(store)} ${own}`;
  const kept = books.find(stamp);
  if (kept) return kept;
  const [book] = await openCases(store, [caseId]);
  if (!book) throw new UseCaseError("not-found", "There is no such case; it may have been deleted.");
  // What cannot be read now may be brought back.
  if (!book.damaged.length) books.keep(stamp, book);
  return book;
}

const MOST_BOOKS = 12;

const held = globalThis as unknown as { tinRulerBooks?: WeakMap<object, Kept<CaseBook>> };

/** Cases as they were last opened, by the stamp of all that is stored of them: turning from stage to stage loads nothing anew. */
function booksOf(store: Store): Kept<CaseBook> {
  held.tinRulerBooks ??= new WeakMap();
  const books = held.tinRulerBooks.get(store.blobs) ?? new Kept<CaseBook>(MOST_BOOKS);
  held.tinRulerBooks.set(store.blobs, books);
  return books;
}

/** A word for what every case rests on besides its own: the method, and what was said of codes. */
export async function commonStamp(store: Store): Promise<string> {
  return hashOf({ method: methodVersion(), precision: precisionOf(await listSettings(store.db)) });
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
      await openRows(store, row, rows, precision).catch((error) => ({
        row,
        sentence: error instanceof Error ? error.message : String(error),
        error,
      })),
    );
  return found;
}

async function openRows(store: Store, row: CaseRow, rows: CaseRows, precision: NonNullable<CaseEvidence["precision"]>): Promise<CaseBook> {
  const own = <T extends { caseId: string }>(list: readonly T[]) => list.filter((r) => r.caseId === row.id);
  const all = own(rows.runs);
  // Runs of a sweep have conditions of their own: they are shown, but are no evidence for the case.
  const runs = all.filter((r) => r.sweepId === null);
  const meshes = own(rows.meshes);
  const findings = own(rows.findings);
  const reports = own(rows.reports);
  const known = row.setup.problemId === null ? undefined : benchProblem(row.setup.problemId).quantities;
  const quantities = own(rows.quantities).map((q) => {
    const take = row.setup.takes?.[q.key];
    const { divergent, ofDomain } = known?.find((k) => k.key === q.key) ?? {};
    return { ...quantitySpec(q), ...(take ? { take } : {}), ...(divergent ? { divergent } : {}), ...(ofDomain ? { ofDomain } : {}) };
  });
  const blobs = new Map(rows.histories.map((h) => [h.runId, h.blob]));
  const problem = row.setup.problemId === null ? undefined : benchProblem(row.setup.problemId);
  const { problemId, parameters, formulas = {} } = row.setup;
  const varied = variedSetups(row.setup);
  const yardsticks = [
    ...(problemId === null
      ? []
      : await exactYardsticks({
          problemId,
          parameters,
          formulas,
          ...(varied.length ? { varied: varied.map((v) => ({ ...v, down: v.down.parameters, up: v.up.parameters })) } : {}),
        })),
    ...(await ownYardsticks({
      yardsticks: own(rows.yardsticks).map((y) => ({ ...y.data, key: y.id, typed: true })),
      conditions: conditionsOf(row.setup),
      quantities: quantities.map(({ key, name, unit }) => ({ key, name, unit })),
      varied: varied.map((v) => ({ ...v, down: conditionsOf(v.down), up: conditionsOf(v.up) })),
    })),
  ];
  const setupHash = hashOf(setupFingerprint(row.setup));
  const programme = rows.programmes.find((p) => p.id === row.programmeId);
  const sets = sweptSets(row.setup, own(rows.sweeps), all);
  const evidence: CaseEvidence = {
    caseId: row.id,
    kind: row.kind,
    formalOrder: problem?.formalOrder ?? row.setup.stated?.schemeOrder ?? 2,
    setup: setupOf(row.setup),
    setupHash,
    questionHash: hashOf(questionOf(row.setup, setupHash)),
    ...studyChoices(row.setup),
    dropTarget: row.setup.numerics.dropOrders,
    ...(row.setup.answers ? { answers: row.setup.answers } : {}),
    quantities,
    ...derivedEvidence(row.setup, quantities),
    yardsticks,
    broughtIn: row.setup.problemId === null,
    ...(row.setup.settlements?.length ? { settlements: row.setup.settlements } : {}),
    precision: Object.fromEntries(Object.entries(precision).filter(([code]) => runs.some((r) => r.code === code))),
    ...decisionOf(programme),
    ...(programme?.rules.length ? { own: { rules: programme.rules, values: ruleValues(row.setup) } } : {}),
    ...openFindings(findings),
    ...(row.setup.inputs ? { inputs: inputsOf(row.setup) } : {}),
    ...(row.setup.inputs ? sweptEvidence(sets) : {}),
    ...curvesOfSweeps(
      row.setup,
      sets,
      meshes,
      runs.filter((r) => r.setupHash === setupHash),
    ),
    ...(row.setup.correlations?.length ? { correlations: row.setup.correlations } : {}),
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
  const found = await assessed(store, { evidence, evidenceHash, title: row.title });
  return { ...book, damaged: found.damaged, assessment: withReports(found.assessment, reports.length) };
}

/** The set-up with each of its uncertain conditions a step of its own uncertainty to either side. */
function variedSetups(setup: CaseSetup): Varied<CaseSetup>[] {
  return inputsOf(setup).flatMap(({ key, value, uncertainty }) => {
    const step = Math.abs(uncertainty / value);
    if (!(step > 0 && step < 1)) return [];
    const at = (by: number): CaseSetup => ({ ...setup, parameters: { ...setup.parameters, [key]: value * (1 + by) } });
    return [{ key, step, down: at(-step), up: at(step) }];
  });
}

/** What persons decided about the ladders of a case, where they decided anything. */
function studyChoices({ studies = {} }: CaseRow["setup"]): Pick<CaseEvidence, "leftOut" | "adopted" | "divergent" | "spread" | "amongst"> {
  const { leftOut = [], adopted = [], divergent = [], spread = [], amongst = [] } = studies;
  return {
    ...(spread[0] ? { spread: spread[0] } : {}),
    ...(amongst.length ? { amongst } : {}),
    ...(leftOut.length ? { leftOut } : {}),
    ...(adopted.length ? { adopted } : {}),
    ...(divergent.length ? { divergent } : {}),
  };
}

/** How differences are held against limits, where the programme says so. */
const decisionOf = (p: ProgrammeRow | undefined): Pick<CaseEvidence, "decision"> => (p && p.decision !== "both-ways" ? { decision: p.decision } : {});

/** Findings nobody has shown cured: they weigh on the verdict. */
function openFindings(findings: readonly FindingRow[]): Pick<CaseEvidence, "openFindings"> {
  const open = findings
    // A minor one changes no verdict.
    .filter((f) => f.curedBy === null && f.severity !== "minor")
    .map(({ title, quantityKey, severity }) => ({
      title,
      ...(quantityKey === null ? {} : { quantityKey }),
      ...(severity === "blocking" ? { blocking: true as const } : {}),
    }));
  return open.length ? { openFindings: open } : {};
}

const withReports = (a: CaseAssessment, count: number): CaseAssessment => ({ ...a, stages: [...a.stages, reportLine(count)] });
