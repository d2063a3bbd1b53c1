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
  readonly next?: Reason;
}
