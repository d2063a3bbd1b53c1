import type { ErrorSource } from "../../../method/budget/errorBudget.ts";
import type { SensitivityMeans } from "../../../method/propagation/inputs.ts";
import type { CaseEvidence } from "../../../records/case.ts";
import type { QuantitySpec } from "../../../records/quantity.ts";
import type { RunEvidence } from "../../../records/run.ts";
import type { Study } from "../../../study/study.ts";
import type { RunBalance } from "../../results/balance.ts";
import type { LadderAssessment, QuantityRefinement } from "../../results/refinement.ts";
import type { RunSettling } from "../../results/settling.ts";
import type { Reason } from "../../results/verdict.ts";
import type { Scale } from "../../stages/scale.ts";

/** What the sources of one quantity are read from. */
export interface RuleInput {
  readonly evidence: CaseEvidence;
  readonly quantity: QuantitySpec;
  readonly scale: Scale;
  readonly finest?: RunEvidence;
  readonly settling?: RunSettling;
  readonly balance?: RunBalance;
  readonly refinement: QuantityRefinement;
  /** runs that differ in their time step alone */
  readonly timeSteps: Study;
  /** ladders along other axes than the mesh */
  readonly ladders: readonly LadderAssessment[];
  /** how far a run's value may be off for its record alone */
  readonly recordError: (run: RunEvidence) => number;
  readonly means: SensitivityMeans;
}

/** What an assessor found of its source. */
export type Found = Pick<ErrorSource, "relative" | "note" | "at">;

/** What the step that settles an open source depends on. */
export interface SettleInput {
  readonly quantity: QuantitySpec;
  /** results come from files */
  readonly broughtIn: boolean;
  readonly refinement: QuantityRefinement;
}

/** One error source: a new one is a file that exports such an assessor, and a line in the registry. */
export interface SourceAssessor extends Pick<ErrorSource, "key" | "name" | "group" | "stage"> {
  /** undefined where the quantity has no such source */
  readonly find: (i: RuleInput) => Found | undefined;
  /** what settles it where it is open, and where */
  readonly settle: (i: SettleInput) => Reason;
  /** what that costs, against the others: typing before looking up before running */
  readonly effort: number;
}

/** A number, or nothing where it is none. */
export const finite = (x: number | undefined): number | undefined => (x !== undefined && Number.isFinite(x) ? x : undefined);
