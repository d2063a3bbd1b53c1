import type { Look, LookCoverage } from "../../method/refinement/look.ts";
import type { CurveRefinement } from "../../method/refinement/pointByPoint.ts";
import type { Procedure } from "../../method/refinement/procedures.ts";
import type { SpaceTimeFit } from "../../method/refinement/spaceTime.ts";
import type { ThreeMesh } from "../../method/refinement/threeMesh.ts";
import type { ProcedureKey } from "../../records/procedure.ts";
import type { Remark, State } from "../../remarks/remark.ts";
import type { ApartRun, LadderAxis } from "../../study/ladders.ts";

export interface Rung {
  readonly runId: string;
  readonly label: string;
  readonly cells: number;
  readonly spacing: number;
  readonly dimension: 2 | 3;
  readonly value?: number;
  readonly iterationError: number;
  /** it takes part: the finest three in the three-mesh index, all in least squares */
  readonly used: boolean;
  /** why a person took it off, and who */
  readonly leftOut?: { readonly reason: string; readonly by: string };
  readonly seconds?: number;
}

/** The procedure whose uncertainty stands, and why. */
export interface Adopted {
  readonly key: ProcedureKey;
  readonly because: string;
  /** initials and reason, where a person chose it */
  readonly by?: { readonly initials: string; readonly reason: string };
}

export interface QuantityRefinement {
  readonly key: string;
  readonly rungs: readonly Rung[];
  /** three-mesh procedure over the finest three rungs */
  readonly result?: ThreeMesh;
  /** all procedures that apply, side by side */
  readonly procedures?: readonly Procedure[];
  readonly adopted?: Adopted;
  /** what became of seeded sets that looked like this, where the rule chose the procedure */
  readonly alike?: LookCoverage & { readonly look: Look; readonly rungs: number };
  /** 95 % uncertainty that is adopted, in the quantity's unit */
  readonly uncertainty?: number;
  /** 95 % uncertainty that is adopted, over scale */
  readonly relative?: number;
  readonly limit: number;
  /** it is known not to converge */
  readonly divergent?: { readonly reason: string; readonly by: string };
  readonly next?: { readonly cells: number; readonly spacing: number; readonly seconds?: number };
  readonly remarks: readonly Remark[];
  readonly state: State;
  readonly headline: string;
}

/** One quantity along a ladder: judged where the axis has a direction and there are three rungs, else its spread. */
export interface LadderQuantity {
  readonly key: string;
  /** one a run of the ladder; absent where the run did not deliver it */
  readonly values: readonly (number | undefined)[];
  readonly kind?: ThreeMesh["kind"];
  readonly order?: number;
  /** 95 % uncertainty of the first value along this axis, over scale */
  readonly relative?: number;
  /** largest less smallest value, over scale */
  readonly spread?: number;
}

/** A ladder of a case besides its family of meshes. */
export interface LadderAssessment {
  readonly key: string;
  readonly axis: LadderAxis;
  readonly title: string;
  readonly runs: readonly { readonly runId: string; readonly label: string; readonly position?: number; readonly place: string }[];
  readonly quantities: readonly LadderQuantity[];
}

/** Every ladder there is, and the runs that stand on none. */
export interface LadderList {
  readonly list: readonly LadderAssessment[];
  /** space and time fitted at once, where runs differ in both */
  readonly together?: {
    readonly runs: readonly { readonly label: string; readonly spacing: number; readonly step: number }[];
    readonly fits: readonly { readonly key: string; readonly fit: SpaceTimeFit }[];
  };
  readonly apart: readonly ApartRun[];
}

/** A curve on the meshes of the family, with its uncertainty at every place; thinned for drawing. */
export interface CurveAssessment extends Omit<CurveRefinement, "averageOrder"> {
  readonly key: string;
  readonly name: string;
  readonly abscissa: { readonly name: string; readonly unit: string };
  readonly value: { readonly name: string; readonly unit: string };
  /** every mesh's own curve, the finest first */
  readonly rungs: readonly { readonly label: string; readonly at: readonly number[]; readonly value: readonly number[] }[];
  readonly averageOrder?: number;
  /** largest uncertainty anywhere along it, in its unit */
  readonly widest: number;
}
