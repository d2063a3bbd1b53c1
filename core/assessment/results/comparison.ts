import type { ValueComparison } from "../../method/comparison/compareValue.ts";
import type { FieldOrders, ProfileComparison } from "../../method/comparison/comparison.ts";
import type { SharedInputs } from "../../method/propagation/sharedInputs.ts";
import type { DecisionRule } from "../../records/programme.ts";
import type { Reference } from "../../records/reference.ts";
import type { SweepRuns } from "../../records/sweepCurve.ts";
import type { State } from "../../remarks/remark.ts";

export interface QuantityComparison extends ValueComparison {
  readonly yardstick: string;
  readonly yardstickKey: string;
  readonly kind: Reference["kind"];
  readonly inside: boolean;
  /** takes part in the verdict: it holds here and is no other code's result */
  readonly decides: boolean;
  readonly limit: number;
  /** how it was held against the limit, where not both ways */
  readonly decision?: DecisionRule;
  readonly state: State;
  /** of conditions that count in both, where there are any: `uInput` is then of the difference */
  readonly sharedInputs?: SharedInputs;
}

export interface ComparedProfile extends ProfileComparison {
  readonly yardstick: string;
  readonly yardstickKey: string;
  readonly kind: Reference["kind"];
  /** the yardstick holds for this case */
  readonly inside: boolean;
  readonly name: string;
  /** what its places and values are counted in */
  readonly units: { readonly abscissa: string; readonly value: string };
  readonly runId: string;
  readonly runLabel: string;
  readonly code: string;
  /** of the run the case rests on; the others are the finest of other codes */
  readonly leading: boolean;
  /** of a sweep: what it varies and on which mesh, with the places of the yardstick that nobody ran */
  readonly sweep?: { readonly axisKey: string; readonly mesh: SweepRuns["mesh"]; readonly notRun: readonly number[] };
}

export interface RefusedProfile {
  readonly yardstick: string;
  readonly name: string;
  readonly sentence: string;
}

/** How one field of one method converges towards the exact one. */
export interface MethodOrders {
  /** scheme, flux, limiter and shape, as far as they are known */
  readonly method: string;
  /** which code its runs were made with */
  readonly code: string;
  readonly formalOrder: number;
  readonly orders: FieldOrders;
}

/** What became of the order of a method, in words. */
export const ORDER_WORDS: Readonly<Record<FieldOrders["verdict"], string>> = {
  exact: "exact on every mesh",
  "formal-order": "formal order",
  "below-order": "below its order",
  "above-order": "above its order",
  "too-few": "too few meshes",
};
