import type { State } from "../../remarks/remark.ts";
import type { Stage } from "./stage.ts";

/** A sentence of the margin with its heading, and the rule it comes from. */
export interface MarginNote {
  readonly heading: string;
  readonly sentence: string;
  readonly rule?: string;
  readonly go?: Stage;
}

export interface Margin {
  /** label above the big figure */
  readonly label: string;
  readonly figure: string;
  readonly verdict: string;
  /** how it stands: the colour of the verdict */
  readonly tone: State;
  readonly notes: readonly MarginNote[];
}
