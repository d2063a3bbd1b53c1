import type { BalanceRecord } from "./balance.ts";
import type { Build } from "./build.ts";
import type { LawReading, SecondReading } from "./laws.ts";
import type { ErrorNorms, Profile } from "./profile.ts";
import type { SpaceQuality } from "./spaceQuality.ts";
import type { SurfaceRecord } from "./surfaces.ts";

export type RunState = "waiting" | "running" | "paused" | "done" | "stopped" | "interrupted" | "diverged" | "failed" | "followed";

/** A run that delivered figures. */
export const FINISHED: readonly RunState[] = ["done", "stopped"];

export interface MeshEvidence {
  readonly label: string;
  readonly cells: number;
  readonly spacing: number;
  readonly dimension: 2 | 3;
}

export interface HistoryEvidence {
  /** iterations, or time steps where there are times */
  readonly iteration: Float64Array;
  /** s; present in transient runs */
  readonly time?: Float64Array;
  /** linear residuals by equation */
  readonly residuals: Readonly<Record<string, Float64Array>>;
  /** watched quantities by key */
  readonly quantities: Readonly<Record<string, Float64Array>>;
  /** net over throughput at each entry, for what was watched: "mass", "energy" */
  readonly balances?: Readonly<Record<string, Float64Array>>;
  /** starting levels where they are known otherwise than from the record */
  readonly starts?: Readonly<Record<string, number>>;
}

export interface RunResult {
  readonly quantities: Readonly<Record<string, number>>;
  readonly balance?: BalanceRecord;
  readonly profiles: readonly Profile[];
  readonly errorNorms: readonly ErrorNorms[];
  /** how far the answer is from rules that hold for every flow */
  readonly laws?: readonly LawReading[];
  /** quantities worked out a second way */
  readonly second?: readonly SecondReading[];
  /** quality of its mesh in space, where the mesh was brought in */
  readonly quality?: SpaceQuality;
  /** the surface of what the flow acts on, with the forces integrated over it */
  readonly surface?: SurfaceRecord;
}

/** What a person decided about reading a run's record; whatever is absent is left to the tests. */
export interface RunJudging {
  /** entries left out at the beginning before averaging */
  readonly cut?: number;
  /** the same of single quantities */
  readonly cuts?: Readonly<Record<string, number>>;
  /** means stand for the run's values */
  readonly average?: boolean;
  /** entry (from 1) whose residuals count as the starting level */
  readonly startEntry?: number;
  /** entry (from 1) from which the slope of the residuals is taken */
  readonly stretchFrom?: number;
}

export interface RunEvidence {
  readonly id: string;
  readonly label: string;
  readonly origin: "bench" | "brought-in";
  readonly code: string;
  /** version, options, compiler and machine of the code */
  readonly build?: Build;
  readonly state: RunState;
  readonly setupHash: string;
  /** the question it answers, numerics left out: runs that share it may stand on one ladder */
  readonly questionHash?: string;
  /** what it was made with, by the name of the setting, as far as that is known */
  readonly made?: Readonly<Record<string, string | number>>;
  readonly mesh?: MeshEvidence;
  readonly history?: HistoryEvidence;
  readonly judging?: RunJudging;
  /** what a brought-in run was made with where it differs from what the case says of its code */
  readonly stated?: {
    readonly schemeOrder?: 1 | 2 | undefined;
    readonly dropOrders?: number | undefined;
    readonly timeStepS?: number | undefined;
    /** how far the domain reaches, m, where that is what a study varies */
    readonly domainM?: number | undefined;
  };
  readonly result?: RunResult;
  readonly failure?: string;
  readonly finishedAt?: string;
  readonly seconds?: number;
}
