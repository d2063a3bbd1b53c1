import type { Settlement, SettlementKind } from "../../records/settlement.ts";
import type { ErrorSource } from "./errorBudget.ts";

export const SETTLEMENT_WORDS: Readonly<Record<SettlementKind, string>> = {
  measured: "measured elsewhere",
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
  const signed = `${SETTLEMENT_WORDS[found.kind]} by ${found.by} on ${found.at.slice(0, 10)}: ${found.reason}${found.link ? ` (${found.link})` : ""}`;
  if (found.setupHash !== setupHash) return { ...source, note: `was ${signed}; that was said of an earlier set-up and has to be said again` };
  return {
    ...source,
    relative: found.kind === "not-applicable" ? 0 : found.relative,
    note: signed,
    at: found.at,
    settled: { kind: found.kind, by: found.by, reason: found.reason, ...(found.link ? { link: found.link } : {}) },
  };
}
