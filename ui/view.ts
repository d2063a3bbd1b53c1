import type { CaseAssessment } from "@/core/assessment/results/case";
import type { Margin } from "@/core/assessment/results/margin";
import type { Stage } from "@/core/assessment/results/stage";
import type { MeshQuality } from "@/core/mesh/quality";
import type { CaseSetup } from "@/core/problems/describe/caseSetup";
import type { MeshSpec, RunSettings } from "@/core/problems/describe/runSettings";
import type { CaseEvidence } from "@/core/records/case";
import type { RunJudging, RunResult, RunState } from "@/core/records/run";

export interface RunView {
  readonly id: string;
  readonly label: string;
  readonly origin: "bench" | "brought-in";
  readonly code: string;
  readonly state: RunState;
  readonly settings: RunSettings;
  readonly settingsHash: string;
  readonly current: boolean;
  readonly result: RunResult | null;
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
  readonly id: string;
  readonly title: string;
  readonly what: string;
  readonly cause: string;
  readonly change: string;
  readonly shownBy: string | null;
  readonly curedBy: string | null;
}

export interface ReportView {
  readonly number: number;
  readonly issuedBy: string;
  readonly issuedAt: string;
}

/** All a stage shows: plain data, the same object the report and the interface for programs are made from. */
export interface CaseView {
  readonly id: string;
  readonly title: string;
  readonly purpose: string;
  readonly setup: CaseSetup;
  readonly evidence: CaseEvidence;
  readonly assessment: CaseAssessment;
  readonly runs: readonly RunView[];
  readonly sweeps: readonly SweepView[];
  readonly meshes: readonly MeshView[];
  readonly findings: readonly FindingView[];
  readonly reports: readonly ReportView[];
  readonly stage: Stage;
  readonly quantityKey: string;
  readonly margin: Margin | null;
}
