import type { CaseAssessment } from "@/core/assessment/results/case";
import type { Margin } from "@/core/assessment/results/margin";
import type { RunSettling } from "@/core/assessment/results/settling";
import type { Stage } from "@/core/assessment/results/stage";
import type { MeshQuality } from "@/core/mesh/quality";
import type { CaseSetup } from "@/core/problems/describe/caseSetup";
import type { MeshSpec, RunSettings } from "@/core/problems/describe/runSettings";
import type { Build } from "@/core/records/build";
import type { CaseEvidence } from "@/core/records/case";
import type { FindingSeverity } from "@/core/records/finding";
import type { RunJudging, RunResult, RunState } from "@/core/records/run";
import type { SignOff, Withdrawal } from "@/core/records/signOff";
import type { SweepCurve } from "@/core/records/sweepCurve";
import type { QuestionEntries } from "./stages/question/questionEntries";

/** A run as every stage knows it. */
export interface RunLine {
  readonly id: string;
  readonly label: string;
  readonly origin: "bench" | "brought-in";
  readonly code: string;
  readonly build: Build | null;
  readonly state: RunState;
  readonly current: boolean;
  /** it left a result */
  readonly finished: boolean;
  /** orders its residuals fell by at least, where it has a record */
  readonly drop: number | null;
  readonly failure: string | null;
  readonly iterations: number;
  readonly judging: RunJudging | null;
  readonly seconds: number | null;
  readonly priority: number;
  /** it left its state behind and can go on from there */
  readonly resumable: boolean;
  readonly createdAt: string;
  readonly cells: number | null;
  readonly spacing: number | null;
}

/** A run with what it was made with and what it gave. */
export interface RunView extends RunLine {
  readonly settings: RunSettings;
  /** its first digits */
  readonly settingsHash: string;
  readonly quantities: RunResult["quantities"];
  readonly surface: RunResult["surface"] | null;
  /** it has a file that lies in space and can be looked at */
  readonly space: boolean;
}

/** A run with what flows through its boundaries. */
export interface RunFlows extends RunLine {
  readonly balance: RunResult["balance"] | null;
  readonly surface: RunResult["surface"] | null;
}

export interface SweepView {
  readonly id: string;
  readonly label: string;
  readonly axes: readonly { readonly key: string; readonly label: string; readonly unit: string; readonly values: readonly number[] }[];
  readonly runs: readonly RunView[];
}

export interface MeshView {
  readonly id: string;
  readonly label: string;
  readonly spec: MeshSpec | null;
  readonly cells: number;
  readonly spacing: number;
  readonly dimension: 2 | 3;
  readonly quality: MeshQuality | null;
}

export interface FindingView {
  readonly severity: FindingSeverity;
  readonly owner: string;
  /** how the suspicion was tested */
  readonly test: string;
  readonly createdAt: string;
  readonly curedAt: string | null;
  readonly id: string;
  readonly title: string;
  readonly what: string;
  readonly cause: string;
  readonly change: string;
  readonly shownBy: string | null;
  readonly curedBy: string | null;
  /** both of these runs have files that lie in space */
  readonly space: boolean;
  readonly causeKey: string;
  readonly quantityKey: string | null;
  readonly stage: string | null;
  /** the quantity in the run that shows it and in the one that cures it */
  readonly before: number | null;
  readonly after: number | null;
}

export interface ReportView {
  readonly number: number;
  readonly issuedBy: string;
  readonly issuedAt: string;
  readonly signOffs: readonly SignOff[];
  readonly withdrawn: Withdrawal | null;
}

/** what every stage shows of an assessment */
type Always = "caseId" | "ladder" | "stale" | "verdicts" | "rules" | "stages";

/**
 * What a stage shows: plain data, the same objects the report and the interface for programs are made from. A stage is sent what it shows, not the
 * whole case: with hundreds of runs that would be a megabyte at every turn.
 * @template Part what of the assessment the stage shows besides what all of them show
 * @template Run how much of each run
 */
export interface CaseView<Part extends keyof CaseAssessment = never, Run extends RunLine = RunLine> {
  readonly id: string;
  readonly title: string;
  readonly purpose: string;
  readonly setup: CaseSetup;
  readonly evidence: Omit<CaseEvidence, "runs" | "swept" | "sweeps">;
  readonly assessment: Pick<CaseAssessment, Part | Always>;
  readonly runs: readonly Run[];
  readonly stage: Stage;
  readonly quantityKey: string;
  /** changes with anything the case rests on */
  readonly version: string;
  readonly margin: Margin | null;
}

/** The question comes as it is typed, in the units it was typed in. */
export type QuestionView = CaseView<"setup" | "derived" | "inputs"> & { readonly entries: QuestionEntries };
export type YardsticksView = CaseView & { readonly profiles: RunResult["profiles"] };
export type MeshesView = CaseView<"meshes"> & { readonly meshes: readonly MeshView[]; readonly judged: readonly JudgedMesh[] };
/** The mesh of a run in space, as it was judged. */
export type JudgedMesh = { readonly runId: string; readonly label: string; readonly quality: NonNullable<RunResult["quality"]> };
export type RunsView = CaseView<"comparison", RunView> & { readonly sweeps: readonly SweepView[] };
/** Of many runs the figures of the first come along; those of the others are asked for when one is chosen. */
export type SettlingView = CaseView<"settling"> & { readonly settled: readonly Pick<RunSettling, "runId" | "label" | "state">[] };
export type BalanceView = CaseView<"balance", RunFlows>;
export type RefinementView = CaseView<"refinement" | "ladders" | "curves" | "comparison">;
/** Curves of every run that is compared, by its id. */
export type ComparisonView = CaseView<"comparison" | "curves"> & {
  readonly profilesOf: Readonly<Record<string, RunResult["profiles"]>>;
  /** mesh uncertainty of the curves of sweeps, by their keys */
  readonly bandsOf: Readonly<Record<string, NonNullable<SweepCurve["band"]>>>;
};
export type VerdictView = CaseView<"comparison"> & { readonly findings: readonly FindingView[] };
export type ReportStageView = CaseView & { readonly reports: readonly ReportView[] };
