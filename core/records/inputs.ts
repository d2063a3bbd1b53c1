/** A condition of a case with how well it is known. */
export interface InputUncertainty {
  readonly key: string;
  readonly label: string;
  /** SI */
  readonly value: number;
  readonly unit: string;
  /** 95 %, SI */
  readonly uncertainty: number;
  /** percent by which quantities change when it changes by one percent, as typed, by quantity */
  readonly sensitivities: Readonly<Record<string, number>>;
}

/** Two conditions that are uncertain together, such as two readings of one instrument. */
export interface InputCorrelation {
  readonly between: readonly [string, string];
  /** coefficient of correlation, -1 to 1 */
  readonly coefficient: number;
}

/** One run of a set made to learn what quantities answer to: its conditions and what it delivered. */
export interface SweptPoint {
  readonly parameters: Readonly<Record<string, number>>;
  readonly quantities: Readonly<Record<string, number>>;
  /** the set it belongs to: runs of one set share mesh and numerics, runs of two need not */
  readonly set?: string;
}
