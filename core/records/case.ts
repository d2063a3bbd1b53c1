import type { Answer } from "../remarks/remark.ts";
import type { DerivedEvidence } from "./derived.ts";
import type { OpenFinding } from "./finding.ts";
import type { InputCorrelation, InputUncertainty, SweptPoint } from "./inputs.ts";
import type { OwnRule, RuleValue } from "./ownRule.ts";
import type { DecisionRule } from "./programme.ts";
import type { QuantitySpec } from "./quantity.ts";
import type { Reference } from "./reference.ts";
import type { RunEvidence } from "./run.ts";
import type { Settlement } from "./settlement.ts";
import type { Setup } from "./setup.ts";
import type { AdoptedProcedure, Amongst, ChosenSpread, Divergent, LeftOut } from "./studyChoice.ts";
import type { SweepRuns } from "./sweepCurve.ts";

/** Everything an assessment of a case reads. Plain data: the same evidence gives the same assessment, and it can be hashed. */
export interface CaseEvidence {
  readonly caseId: string;
  readonly kind: "exact" | "published" | "measured";
  readonly formalOrder: number;
  readonly setup: Setup;
  readonly setupHash: string;
  /** of the question without its numerics */
  readonly questionHash?: string;
  /** runs that persons took off every ladder */
  readonly leftOut?: readonly LeftOut[];
  /** procedures that persons adopted */
  readonly adopted?: readonly AdoptedProcedure[];
  /** quantities that persons declared not to converge */
  readonly divergent?: readonly Divergent[];
  /** how the error of the finest mesh is taken to lie, where that was chosen */
  readonly spread?: ChosenSpread;
  /** runs that persons put among those held against one another */
  readonly amongst?: readonly Amongst[];
  readonly dropTarget: number;
  /** answers to remarks on the set-up */
  readonly answers?: readonly Answer[];
  readonly quantities: readonly QuantitySpec[];
  /** quantities worked out from others, where there are any */
  readonly derived?: DerivedEvidence;
  readonly yardsticks: readonly Reference[];
  /** results of the case come from files */
  readonly broughtIn?: boolean;
  /** what persons said of error sources, oldest first */
  readonly settlements?: readonly Settlement[];
  /** precision of the codes, where it was stated */
  readonly precision?: Readonly<Record<string, "single" | "double">>;
  /** conditions whose uncertainty was typed */
  readonly inputs?: readonly InputUncertainty[];
  /** which of them are uncertain together */
  readonly correlations?: readonly InputCorrelation[];
  /** runs of sweeps, for what the quantities answer to */
  readonly swept?: readonly SweptPoint[];
  /** sets of such runs that were made with other conditions or numerics than the present ones, and tell nothing any more */
  readonly sweptEarlier?: number;
  /** sweeps over one condition on one mesh, where there are any: they are compared as curves */
  readonly sweeps?: readonly SweepRuns[];
  /** set-up rules of the programme's own, with the values they may name */
  readonly own?: { readonly rules: readonly OwnRule[]; readonly values: readonly RuleValue[] };
  /** how differences are held against limits, where it is not both ways */
  readonly decision?: DecisionRule;
  /** findings that are open, where there are any */
  readonly openFindings?: readonly OpenFinding[];
  readonly runs: readonly RunEvidence[];
}
