export const FACTOR_KEYS = ["code", "solution", "validation", "inputs", "uncertainty", "robustness", "history", "people"] as const;
export type FactorKey = (typeof FACTOR_KEYS)[number];

export type CredibilityLevel = 0 | 1 | 2 | 3 | 4;

export const STATEMENT_KINDS = ["lower", "raise", "looks-right"] as const;

/** What a person says of a factor: lower with a reason, raised with a document, or "it looks right". */
export interface CredibilityStatement {
  readonly factor: FactorKey;
  readonly kind: (typeof STATEMENT_KINDS)[number];
  /** absent where it only looks right, which is worth 1 at most */
  readonly level?: CredibilityLevel;
  readonly reason: string;
  /** the document that shows it; always where it is raised */
  readonly link?: string;
  readonly by: string;
  readonly at: string;
  /** set-up it was said of */
  readonly setupHash: string;
}
