import type { ReportTable } from "../formats/reportDocument.ts";
import { sentenceCase } from "../formatting/number.ts";
import type { CaseEvidence } from "../records/case.ts";
import { balanceAssessor } from "./balance/assessor.ts";
import { balance } from "./balance/part.ts";
import { boardAssessor } from "./board.ts";
import { budgetAssessor } from "./budget/assessor.ts";
import { budgetChapter } from "./budget/chapter.ts";
import { comparisonAssessor } from "./comparison/assessor.ts";
import { comparison } from "./comparison/part.ts";
import { derivedAssessor } from "./derived/assessor.ts";
import { meshesAssessor } from "./meshes/assessor.ts";
import { meshes } from "./meshes/part.ts";
import { setupAssessor } from "./question/assessor.ts";
import { question } from "./question/part.ts";
import { refinementAssessor } from "./refinement/assessor.ts";
import { curvesAssessor } from "./refinement/curves.ts";
import { laddersAssessor } from "./refinement/ladders.ts";
import { refinement } from "./refinement/part.ts";
import type { CaseAssessment } from "./results/case.ts";
import type { Margin } from "./results/margin.ts";
import type { Stage, StageLine } from "./results/stage.ts";
import { runs } from "./runs/part.ts";
import { settlingAssessor } from "./settling/assessor.ts";
import { settling } from "./settling/part.ts";
import type { Assessor } from "./stages/assessor.ts";
import { type Assessed, plural, type ReportChapter, type Reported, type StagePart } from "./stages/part.ts";
import { verdictAssessor } from "./verdict/assessor.ts";
import { verdict } from "./verdict/part.ts";
import { yardsticks } from "./yardsticks/part.ts";

/** The stages of the work in their order, the verdict last. */
const PARTS: readonly StagePart[] = [question, yardsticks, meshes, runs, settling, balance, refinement, comparison, verdict];

/** The steps of an assessment. Each may use what those before it found: the meshes' uncertainty says what settling and balances are held against. */
export const ASSESSORS: readonly Assessor[] = [
  setupAssessor,
  meshesAssessor,
  refinementAssessor,
  laddersAssessor,
  curvesAssessor,
  settlingAssessor,
  balanceAssessor,
  budgetAssessor,
  comparisonAssessor,
  derivedAssessor,
  verdictAssessor,
  boardAssessor,
];

/** Chapters of a report in their order; a file of findings follows them. */
const CHAPTERS: readonly ReportChapter[] = [budgetChapter, ...PARTS.flatMap((p) => p.chapter ?? [])];

/** One line of state for every stage of the work that rests on evidence. */
export function stageLines(e: CaseEvidence, a: Assessed): StageLine[] {
  return PARTS.map((p) => {
    const { line, state } = p.line(e, a);
    return { stage: p.stage, title: sentenceCase(p.stage), line, state: a.stale && p.restsOnRuns && state !== "none" ? "stale" : state };
  });
}

/** Whether what a stage says is worked out from the runs: it is that of an earlier set-up where the runs are. */
export const restsOnRuns = (stage: Stage): boolean => PARTS.find((p) => p.stage === stage)?.restsOnRuns === true;

/** The line of the reports, which rest on the evidence but are none. */
export function reportLine(count: number): StageLine {
  return {
    stage: "report",
    title: "Report",
    line: count ? `${plural(count, "report")} issued` : "not issued",
    state: count ? "holds" : "none",
  };
}

/** What the evidence says at one stage about one quantity, in sentences. Of runs older than the set-up it says so first, and claims nothing. */
export function marginFor(stage: Stage, evidence: CaseEvidence, assessment: CaseAssessment, quantityKey: string): Margin | undefined {
  const part = PARTS.find((p) => p.stage === stage);
  const quantity = evidence.quantities.find((x) => x.key === quantityKey) ?? evidence.quantities[0];
  const margin = quantity && part?.words?.({ evidence, assessment, quantity });
  // The verdict says itself that it is stale.
  return margin && assessment.stale && part?.restsOnRuns && stage !== "verdict" ? ofOldRuns(margin) : margin;
}

const ofOldRuns = (margin: Margin): Margin => ({
  ...margin,
  verdict: "Stale: made with an earlier set-up",
  tone: "stale",
  notes: [
    {
      heading: "Older than the set-up",
      sentence: "The set-up was changed after these runs. Nothing here holds for it until they are made again.",
      go: "runs",
    },
    ...margin.notes
      .filter((n) => n.heading !== "Next")
      .map((n) => ({ ...n, heading: `Of the old runs: ${n.heading[0].toLowerCase()}${n.heading.slice(1)}` })),
  ],
});

export interface WrittenChapter {
  readonly key: string;
  readonly title: string;
  readonly sentences: readonly string[];
  readonly tables: readonly ReportTable[];
}

/** The chapters of a report: every figure is the assessment's. */
export const reportChapters = (r: Reported): WrittenChapter[] =>
  CHAPTERS.map((c) => ({
    key: c.key,
    title: c.title,
    sentences: c.sentences(r).filter(Boolean).map(sentenceCase),
    tables: c.tables?.(r) ?? [],
    // What has nothing to tell is no chapter.
  })).filter((c) => c.sentences.length || c.tables.length);
