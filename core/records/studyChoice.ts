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

/** How the error of the finest mesh is taken to lie: about its result, or to the side of the limit the meshes run to. */
export type NumericalSpread = "centred" | "shifted";

/** A spread a person chose in place of the centred one. */
export interface ChosenSpread extends Signed {
  readonly spread: NumericalSpread;
}

/** A run a person put among those that are held against one another: it decides nothing, so nobody has to answer for it. */
export interface Amongst {
  readonly runId: string;
  readonly at: string;
}

/** Everything persons decided about the ladders of a case. */
export interface StudyChoices {
  readonly leftOut?: readonly LeftOut[];
  readonly adopted?: readonly AdoptedProcedure[];
  readonly divergent?: readonly Divergent[];
  /** one at most */
  readonly spread?: readonly ChosenSpread[];
  /** besides the finest run of every code */
  readonly amongst?: readonly Amongst[];
}
