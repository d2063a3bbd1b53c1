/** Names an error source: the assessors of the budget say which there are. */
export type SourceKey = string;

export const SETTLEMENT_KINDS = ["measured", "estimated", "bounded", "not-applicable"] as const;

export type SettlementKind = (typeof SETTLEMENT_KINDS)[number];

/** What a person says of an error source that no run shows. */
export interface Settlement {
  readonly source: SourceKey;
  /** the quantity it is said of; null for every quantity of the case */
  readonly quantityKey: string | null;
  readonly kind: SettlementKind;
  /** fraction of the quantity's scale at 95 %; absent where the source does not apply */
  readonly relative?: number;
  readonly reason: string;
  /** where it is written down: a document, an address; always where it was measured elsewhere */
  readonly link?: string;
  /** initials */
  readonly by: string;
  /** ISO date and time */
  readonly at: string;
  /** set-up it was said of: after a change it has to be said again */
  readonly setupHash: string;
}
