/** Steps from one effect at a time to the thing itself. */
export const LEVELS = ["effect", "benchmark", "rig", "application"] as const;
export type Level = (typeof LEVELS)[number];

export const LEVEL_WORDS: Readonly<Record<Level, string>> = {
  effect: "One effect at a time, exact answer known",
  benchmark: "Several effects, published figures",
  rig: "Rig and site, measured",
  application: "The application itself",
};

/** The level of a case of which nobody said one: its truth tells. */
export const LEVEL_OF_KIND = { exact: "effect", published: "benchmark", measured: "rig" } as const satisfies Record<string, Level>;

export interface Person {
  readonly initials: string;
  /** what they do: prepares, checks, approves */
  readonly role: string;
}

/** How far quantities of a name may differ from the truth, in every case of a programme. */
export interface ProgrammeLimit {
  readonly quantity: string;
  /** fraction */
  readonly limit: number;
}

export const DECISION_RULES = ["both-ways", "guarded", "simple"] as const;

/** How a difference is held against a limit. */
export type DecisionRule = (typeof DECISION_RULES)[number];

export const DECISION_WORDS: Readonly<Record<DecisionRule, string>> = {
  "both-ways":
    "holds where the difference with its uncertainty added keeps the limit, fails where it breaks it with the uncertainty taken off; what lies between is a remark",
  guarded: "guarded acceptance: holds only where the difference with its uncertainty added keeps the limit; everything else fails",
  simple: "simple acceptance: holds where the difference alone keeps the limit; its uncertainty is stated and decides nothing",
};

/** What hangs on a decision that rests on the simulations, each 1 (little) to 4 (much). */
export interface Stakes {
  /** what follows where the decision is wrong */
  readonly consequence: 1 | 2 | 3 | 4;
  /** how much the decision leans on the simulations and not on tests or experience */
  readonly influence: 1 | 2 | 3 | 4;
}
