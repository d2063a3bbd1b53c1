import type { CaseAssessment } from "../../core/assessment/results/case.ts";
import type { CaseEvidence } from "../../core/records/case.ts";
import type { sweep } from "../db/schema.ts";
import type { CaseRow } from "../repositories/cases.ts";
import type { FindingRow, ReportRow } from "../repositories/findings.ts";
import type { MeshRow, RunRow } from "../repositories/runs.ts";

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
