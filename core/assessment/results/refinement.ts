import type { ThreeMesh } from "../../method/refinement/threeMesh.ts";
import type { Remark, State } from "../../remarks/remark.ts";

export interface Rung {
  readonly runId: string;
  readonly label: string;
  readonly cells: number;
  readonly spacing: number;
  readonly value?: number;
  readonly iterationError: number;
  readonly used: boolean;
  readonly seconds?: number;
}

export interface QuantityRefinement {
  readonly key: string;
  readonly rungs: readonly Rung[];
  readonly result?: ThreeMesh;
  /** 95 % uncertainty over scale */
  readonly relative?: number;
  readonly limit: number;
  readonly next?: { readonly cells: number; readonly spacing: number; readonly seconds?: number };
  readonly remarks: readonly Remark[];
  readonly state: State;
  readonly headline: string;
}
