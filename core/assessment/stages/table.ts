import type { ReportTable } from "../../formats/reportDocument.ts";
import type { CaseEvidence } from "../../records/case.ts";

export type Cell = string | number | null;

/** A number for a table; what is absent or no number is an empty cell. */
export const cell = (x: number | undefined | null): Cell => (x === undefined || x === null || !Number.isFinite(x) ? null : x);

/**
 * A table, or none where it would have no row.
 * @param columns name of each column with its unit: "1" for pure numbers, nothing for words
 */
export function table(
  key: string,
  title: string,
  columns: readonly (string | readonly [name: string, unit: string])[],
  rows: Cell[][],
): ReportTable[] {
  if (!rows.length) return [];
  return [{ key, title, columns: columns.map((c) => (typeof c === "string" ? { name: c, unit: "" } : { name: c[0], unit: c[1] })), rows }];
}

/** Name of a quantity by its key. */
export const nameOf = (e: CaseEvidence, key: string): string => e.quantities.find((q) => q.key === key)?.name ?? key;

/** Unit of a quantity of the case; "1" where the case has none of that key. */
export const unitOf = (e: CaseEvidence, key: string): string => e.quantities.find((q) => q.key === key)?.unit ?? "1";
