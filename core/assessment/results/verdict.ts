import type { SourceKey } from "../../records/settlement.ts";
import type { State } from "../../remarks/remark.ts";
import type { Stage } from "./stage.ts";

/** Something that bears on a verdict, with the page that shows it and the rule that says it. */
export interface Reason {
  readonly sentence: string;
  readonly go: Stage;
  readonly rule?: string;
}

export type VerdictWord = "holds" | "holds with a remark" | "fails" | "stale" | "incomplete";

/** What a step would change, and what it costs, as far as figures tell. */
export interface Gain {
  /** 95 % band of the quantity now and after it, fractions of its scale; absent where nobody can tell */
  readonly from?: number;
  readonly to?: number;
  /** computing time, s */
  readonly seconds?: number;
  readonly sentence: string;
}

/** What may be claimed of a quantity, in parts and in one exact sentence. */
export interface Claim {
  /** of the model's error, of the value's numerical uncertainty alone, or nothing */
  readonly kind: "model-error" | "numerical" | "nothing";
  /** interval: fractions of the scale for a model error, the quantity's unit for a value */
  readonly low?: number;
  readonly high?: number;
  readonly confidence?: number;
  readonly conditions: readonly string[];
  readonly restsOn: readonly string[];
  /** sources that were settled by a person's reason, not by measuring */
  readonly byArgument: readonly string[];
  readonly notCovered: readonly string[];
  readonly sentence: string;
}

export interface Verdict {
  readonly quantityKey: string;
  readonly state: State;
  readonly word: VerdictWord;
  readonly sentence: string;
  /** why it is not simply "holds" */
  readonly reasons: readonly Reason[];
  /** what would settle each open source */
  readonly settles: readonly (Reason & { readonly source: SourceKey })[];
  /** the step that costs least */
  readonly next?: Reason & { readonly gain?: Gain };
  readonly claim: Claim;
}
