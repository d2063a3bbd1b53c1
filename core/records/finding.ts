/** A finding that nobody has shown cured. */
export interface OpenFinding {
  readonly title: string;
  /** the quantity it is about; all of the case where absent */
  readonly quantityKey?: string;
  /** nothing is claimed until it is cured */
  readonly blocking?: true;
}

export const FINDING_SEVERITIES = ["minor", "major", "blocking"] as const;
export type FindingSeverity = (typeof FINDING_SEVERITIES)[number];
