import { reportLine } from "../../core/assessment/registry.ts";
import type { Varied } from "../../core/exact/answering.ts";
import { heldToConditions } from "../../core/exact/statedConditions.ts";
import { benchProblem } from "../../core/problems/build/catalogue.ts";
import { type CaseSetup, inputsOf, setupFingerprint, setupOf } from "../../core/problems/describe/caseSetup.ts";
import { conditionsOf } from "../../core/problems/describe/conditions.ts";
import { questionOf } from "../../core/problems/describe/made.ts";
import type { CaseEvidence } from "../../core/records/case.ts";
import type { Reference } from "../../core/records/reference.ts";
import type { ExactInput, LibraryInput } from "../desk/caseTasks.ts";
import { hashOf } from "../hash.ts";
import { methodVersion } from "../method.ts";
import type { CaseRows } from "../repositories/books.ts";
import { type CaseRow, quantitySpec } from "../repositories/cases.ts";
import type { FindingRow } from "../repositories/findings.ts";
import type { ProgrammeRow } from "../repositories/programmes.ts";
import type { CaseBook } from "./caseBook.ts";
import { derivedEvidence, ruleValues, runEvidence } from "./evidenceParts.ts";
import { curvesOfSweeps, sweptEvidence, sweptSets } from "./sweptSets.ts";

/** Everything of a case but what is judged of it. */
export type Unjudged = Omit<CaseBook, "assessment" | "damaged">;

/** Who works exact solutions out. */
export interface Answers {
  /** those a bench problem knows by itself. @throws {RangeError} its exact solution does not exist there */
  yardsticks(input: ExactInput): Answered;
  /** those taken from the library, for the conditions they follow */
  fromLibrary(input: LibraryInput): Answered;
}
type Answered = readonly Reference[] | Promise<readonly Reference[]>;

/** What the evidence of a case is put together from. */
export interface EvidenceOf {
  readonly row: CaseRow;
  /** rows of this case, and of any others */
  readonly rows: Pick<CaseRows, "quantities" | "yardsticks" | "runs" | "meshes" | "findings" | "reports" | "sweeps" | "programmes" | "histories">;
  readonly precision: NonNullable<CaseEvidence["precision"]>;
  readonly answers: Answers;
  /** which code it is assessed by; the present one unless given */
  readonly method?: string;
}

/** The evidence of a case from its rows alone, with the hash of all it rests on: the same rows give the same evidence on any machine. */
export async function evidenceOf({ row, rows, precision, answers, method = methodVersion() }: EvidenceOf): Promise<Unjudged> {
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
      : await answers.yardsticks({
          problemId,
          parameters,
          formulas,
          ...(varied.length ? { varied: varied.map((v) => ({ ...v, down: v.down.parameters, up: v.up.parameters })) } : {}),
        })),
    ...(await ownYardsticks(answers, {
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
  const evidenceHash = hashOf({ method, evidence, records: runs.map((r) => blobs.get(r.id) ?? null) });
  return {
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
}

/** A case with what is judged of it. */
export const judged = (book: Unjudged, found: Pick<CaseBook, "assessment" | "damaged">): CaseBook => ({
  ...book,
  damaged: found.damaged,
  assessment: { ...found.assessment, stages: [...found.assessment.stages, reportLine(book.reports.length)] },
});

/**
 * Yardsticks of persons: those taken from the library worked out for the conditions they follow, the others held to the conditions they were made at.
 * Curves that were brought in stay where they are: only what the library is asked for is handed on.
 */
async function ownYardsticks(answers: Answers, { yardsticks, conditions, quantities, varied }: LibraryInput): Promise<readonly Reference[]> {
  const made = yardsticks.filter((y) => y.made);
  const input = { yardsticks: made, conditions, quantities, ...(varied?.length ? { varied } : {}) };
  const found = made.length ? await answers.fromLibrary(input) : [];
  const byKey = new Map(found.map((y) => [y.key, y]));
  return yardsticks.map((y) => byKey.get(y.key) ?? heldToConditions(y, conditions));
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
