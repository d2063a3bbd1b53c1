import type { ErrorBudget } from "../../method/budget/errorBudget.ts";
import type { BetweenCodes } from "../../method/comparison/betweenCodes.ts";
import type { FieldOrders } from "../../method/comparison/comparison.ts";
import type { InputBudget } from "../../method/propagation/inputs.ts";
import type { SimilarityNumber } from "../../method/setup/setup.ts";
import type { SpaceQualityAssessment } from "../../method/setup/spaceQuality.ts";
import type { Remark, State } from "../../remarks/remark.ts";
import type { RunBalance } from "./balance.ts";
import type { ComparedProfile, MethodOrders, QuantityComparison, RefusedProfile } from "./comparison.ts";
import type { DerivedAssessment } from "./derived.ts";
import type { CurveAssessment, LadderList, QuantityRefinement } from "./refinement.ts";
import type { RunSettling } from "./settling.ts";
import type { StageLine } from "./stage.ts";
import type { Verdict } from "./verdict.ts";

export interface BoardCell {
  readonly state: State;
  readonly figure: string;
}

/** Everything the application says of a case; screen, report, API and command line show this object. */
export interface CaseAssessment {
  readonly caseId: string;
  readonly setup: { readonly similarity: readonly SimilarityNumber[]; readonly remarks: readonly Remark[]; readonly state: State };
  /** runs the assessments rest on, finest first, and whether they were made with an earlier set-up */
  readonly ladder: readonly string[];
  readonly stale: boolean;
  /** meshes in space that were brought in */
  readonly meshes: readonly (SpaceQualityAssessment & { readonly runId: string; readonly label: string })[];
  readonly settling: readonly RunSettling[];
  readonly balance: readonly RunBalance[];
  readonly refinement: readonly QuantityRefinement[];
  /** ladders along other axes than the family of meshes */
  readonly ladders: LadderList;
  /** curves over the family, point by point */
  readonly curves: readonly CurveAssessment[];
  readonly comparison: {
    readonly values: Readonly<Record<string, readonly QuantityComparison[]>>;
    /** quantities that several codes have, among one another */
    readonly codes: Readonly<Record<string, BetweenCodes>>;
    readonly profiles: readonly ComparedProfile[];
    readonly refused: readonly RefusedProfile[];
    readonly orders?: FieldOrders;
    /** every field of every method that solved an exact problem on several meshes, the case's own method first */
    readonly methods: readonly MethodOrders[];
  };
  /** quantities worked out by formula */
  readonly derived: readonly DerivedAssessment[];
  readonly rules: readonly ErrorBudget[];
  /** what the uncertainties of the conditions make of each quantity; none where no uncertainty was given */
  readonly inputs: readonly (InputBudget & { readonly quantityKey: string })[];
  readonly verdicts: readonly Verdict[];
  readonly board: { readonly settled: BoardCell; readonly balanced: BoardCell; readonly refined: BoardCell; readonly compared: BoardCell };
  readonly stages: readonly StageLine[];
}
