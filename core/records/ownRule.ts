export const RELATIONS = ["at least", "at most"] as const;
export const OWN_SEVERITIES = ["stop", "doubt", "note"] as const;

/** A set-up rule of a programme's own: two formulas over the conditions of a case, and how the first has to stand to the second. */
export interface OwnRule {
  readonly key: string;
  readonly name: string;
  readonly left: string;
  readonly relation: (typeof RELATIONS)[number];
  readonly right: string;
  readonly severity: (typeof OWN_SEVERITIES)[number];
  /** why it is there */
  readonly reason: string;
  readonly by: string;
  readonly at: string;
  /** the finding it was made of */
  readonly findingId?: string;
}

/** A name a rule may use, with its value in SI. */
export interface RuleValue {
  readonly name: string;
  readonly unit: string;
  readonly value: number;
}
