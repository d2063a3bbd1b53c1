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

/** One run of a sweep: its conditions and what it delivered. */
export interface SweptPoint {
  readonly parameters: Readonly<Record<string, number>>;
  readonly quantities: Readonly<Record<string, number>>;
}
