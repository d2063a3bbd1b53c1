import type { ProcedureKey } from "./procedure.ts";

/** Who decided something, when and why. */
interface Signed {
  readonly reason: string;
  /** initials */
  readonly by: string;
  /** ISO date and time */
  readonly at: string;
}

/** A run a person took off every ladder. */
export interface LeftOut extends Signed {
  readonly runId: string;
}

/** A procedure a person adopted for a quantity in place of the one the rule adopts. */
export interface AdoptedProcedure extends Signed {
  readonly quantityKey: string;
  readonly procedure: ProcedureKey;
}

/** A quantity a person declared not to converge with the mesh: it keeps its warning, and the case does not fail for it. */
export interface Divergent extends Signed {
  readonly quantityKey: string;
}

/** Everything persons decided about the ladders of a case. */
export interface StudyChoices {
  readonly leftOut?: readonly LeftOut[];
  readonly adopted?: readonly AdoptedProcedure[];
  readonly divergent?: readonly Divergent[];
}
