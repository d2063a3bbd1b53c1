import type { ReportTable } from "../../formats/reportDocument.ts";
import type { CaseSetup } from "../../problems/describe/caseSetup.ts";
import type { CaseEvidence } from "../../records/case.ts";
import type { QuantitySpec } from "../../records/quantity.ts";
import type { RunResult } from "../../records/run.ts";
import type { State } from "../../remarks/remark.ts";
import type { CaseAssessment } from "../results/case.ts";
import type { Margin } from "../results/margin.ts";
import type { Stage } from "../results/stage.ts";

/** An assessment while its lines of state are still to be written. */
export type Assessed = Omit<CaseAssessment, "stages">;

/** A run as a report lists it. */
export interface ReportedRun {
  readonly id: string;
  readonly label: string;
  readonly code: string;
  readonly origin: "bench" | "brought-in";
  readonly state: string;
  readonly cells?: number;
  /** m */
  readonly spacing?: number;
  readonly iterations: number;
  /** s */
  readonly seconds: number | null;
  readonly settingsHash: string;
  readonly result: RunResult | null;
}

/** Everything the tables and sentences of a report are taken from. */
export interface Reported {
  readonly evidence: CaseEvidence;
  readonly assessment: Assessed;
  readonly setup: CaseSetup;
  readonly purpose: string;
  readonly runs: readonly ReportedRun[];
}

/** What the margin speaks of: a case, and one quantity of it. */
export interface Told {
  readonly evidence: CaseEvidence;
  readonly assessment: Assessed;
  readonly quantity: QuantitySpec;
}

/** A chapter of a report: its sentences and its tables. */
export interface ReportChapter {
  readonly key: string;
  readonly title: string;
  readonly sentences: (r: Reported) => string[];
  /** those without a row are left out */
  readonly tables?: (r: Reported) => ReportTable[];
}

/** One stage of the work. A new one is a folder that exports such a part, and a line in the registry. */
export interface StagePart {
  readonly stage: Exclude<Stage, "report">;
  /** what it says is stale when the runs it rests on were made with an earlier set-up */
  readonly restsOnRuns?: boolean;
  /** its line in the list of stages */
  readonly line: (e: CaseEvidence, a: Assessed) => { readonly line: string; readonly state: State };
  /** what the margin says at it */
  readonly words?: (t: Told) => Margin | undefined;
  readonly chapter?: ReportChapter;
}

/** A count with its noun. */
export const plural = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;
