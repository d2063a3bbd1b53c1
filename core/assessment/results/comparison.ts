import type { ValueComparison } from "../../method/comparison/compareValue.ts";
import type { ProfileComparison } from "../../method/comparison/comparison.ts";
import type { Reference } from "../../records/reference.ts";
import type { State } from "../../remarks/remark.ts";

export interface QuantityComparison extends ValueComparison {
  readonly yardstick: string;
  readonly yardstickKey: string;
  readonly kind: Reference["kind"];
  readonly inside: boolean;
  /** takes part in the verdict: it holds here and is no other code's result */
  readonly decides: boolean;
  readonly limit: number;
  readonly state: State;
}

export interface ComparedProfile extends ProfileComparison {
  readonly yardstick: string;
  readonly name: string;
  readonly runLabel: string;
}

export interface RefusedProfile {
  readonly yardstick: string;
  readonly name: string;
  readonly sentence: string;
}
