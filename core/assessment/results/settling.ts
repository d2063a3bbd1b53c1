import type { AveragedRecord } from "../../method/averaging/record.ts";
import type { Statistic } from "../../method/averaging/statistic.ts";
import type { IterationError, ToleranceRow } from "../../method/iteration/iterationError.ts";
import type { ResidualAssessment } from "../../method/iteration/residuals.ts";
import type { Take } from "../../records/take.ts";
import type { Remark, State } from "../../remarks/remark.ts";

export interface QuantityAverage extends AveragedRecord {
  readonly key: string;
  /** what the record runs over */
  readonly abscissa: "s" | "iterations";
  /** a statistic of the record stands for the run's value */
  readonly adopted: boolean;
  /** which, and what it is with its 95 % uncertainty; absent where the record has no such thing */
  readonly take: Take;
  readonly taken?: Statistic;
  /** steady runs: how many of the last iterations the test would average over */
  readonly lastProposed?: number;
}

export interface QuantitySettling extends IterationError {
  readonly key: string;
  /** error over the quantity's scale */
  readonly relative: number;
  /** what the error is to stay below: a tenth of the mesh uncertainty, or of the limit while there is none */
  readonly threshold: number;
  readonly against: "mesh uncertainty" | "limit";
  readonly holds: boolean;
  /** iteration from which the quantity stays within its threshold of its last value */
  readonly standsFrom?: number;
}

/** Where a rule took hold, for the chart. */
export interface SettlingMark {
  readonly rule: string;
  readonly iteration: number;
  readonly label: string;
}

export interface RunSettling {
  readonly runId: string;
  readonly label: string;
  readonly residuals: readonly ResidualAssessment[];
  readonly quantities: readonly QuantitySettling[];
  readonly tolerance: readonly ToleranceRow[];
  /** records averaged over time, or over the last iterations */
  readonly averages: readonly QuantityAverage[];
  readonly smallestDrop?: number;
  readonly marks: readonly SettlingMark[];
  readonly remarks: readonly Remark[];
  readonly state: State;
}
