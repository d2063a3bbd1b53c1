import type { ErrorSource } from "./rule.ts";

export const SETTLEMENT_KINDS = ["estimated", "bounded", "not-applicable"] as const;
export type SettlementKind = (typeof SETTLEMENT_KINDS)[number];

/** What a person says of an error source that no run shows. */
export interface Settlement {
  readonly source: ErrorSource["key"];
  /** the quantity it is said of; null for every quantity of the case */
  readonly quantityKey: string | null;
  readonly kind: SettlementKind;
  /** fraction of the quantity's scale at 95 %; absent where the source does not apply */
  readonly relative?: number;
  readonly reason: string;
  /** initials */
  readonly by: string;
  /** ISO date and time */
  readonly at: string;
  /** set-up it was said of: after a change it has to be said again */
  readonly setupHash: string;
}

export const SETTLEMENT_WORDS: Readonly<Record<SettlementKind, string>> = {
  estimated: "estimated",
  bounded: "bounded by argument",
  "not-applicable": "does not apply",
};

/**
 * An error source with what a person said of it, where nothing measured it: the newest statement of this quantity, else of all. One that was
 * made of an earlier set-up leaves the source missing and says so.
 */
export function settled(source: ErrorSource, statements: readonly Settlement[], quantityKey: string, setupHash: string): ErrorSource {
  if (source.relative !== undefined) return source;
  const own = statements.filter((s) => s.source === source.key && (s.quantityKey === quantityKey || s.quantityKey === null));
  const found = own.filter((s) => s.quantityKey !== null).at(-1) ?? own.at(-1);
  if (!found) return source;
  const signed = `${SETTLEMENT_WORDS[found.kind]} by ${found.by} on ${found.at.slice(0, 10)}: ${found.reason}`;
  if (found.setupHash !== setupHash) return { ...source, note: `was ${signed}; that was said of an earlier set-up and has to be said again` };
  return {
    ...source,
    relative: found.kind === "not-applicable" ? 0 : found.relative,
    note: signed,
    at: found.at,
    settled: { kind: found.kind, by: found.by, reason: found.reason },
  };
}
