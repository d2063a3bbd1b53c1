/** What a quantity is, where a rule depends on it. It is stated, never read off a display name. */
export const QUANTITY_KINDS = ["plain", "cross-force", "efficiency"] as const;

export type QuantityKind = (typeof QUANTITY_KINDS)[number];

export const KIND_WORDS: Readonly<Record<QuantityKind, string>> = {
  plain: "nothing special",
  "cross-force": "lift or side force",
  efficiency: "efficiency",
};

/** What rules ask of each kind, for those who choose it. */
export const KIND_HELP: Readonly<Record<QuantityKind, string>> = {
  plain: "No rule asks for what it is.",
  "cross-force": "Must vanish where body and flow are said to be symmetric.",
  efficiency: "Must not exceed one.",
};

const PROPOSALS: readonly (readonly [RegExp, QuantityKind])[] = [
  [/\blift\b|\b(side|cross) force\b/i, "cross-force"],
  [/\befficiency\b|\beffectiveness\b/i, "efficiency"],
];

/**
 * The kind a form proposes while a name is typed: shown beside it, to be confirmed or changed. Nothing else may ask this.
 * @example
 * proposedKind("lift coefficient") // "cross-force"
 * proposedKind("drag") // "plain"
 */
export const proposedKind = (name: string): QuantityKind => PROPOSALS.find(([words]) => words.test(name))?.[1] ?? "plain";
