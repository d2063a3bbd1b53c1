import type { z } from "zod";
import { type DelimitedTable, type FileProblem, readDelimited } from "../../core/formats/delimited.ts";
import { readSheet, type Sheet } from "../../core/formats/sheet.ts";
import type { ColumnRole } from "../../core/intake/columnRoles.ts";
import { buildHistory } from "../../core/intake/historyImport.ts";
import { buildQuantities, type FluxReading, PLAIN_FLUXES, type RowRole, readQuantityRows } from "../../core/intake/quantityImport.ts";
import type { BalanceRecord } from "../../core/records/balance.ts";
import type { QuantitySpec } from "../../core/records/quantity.ts";
import type { HistoryEvidence } from "../../core/records/run.ts";
import { findReading, type Reading } from "../jobs/readings.ts";
import type { BringInInput, RunWords } from "./bringInInputs.ts";
import { UseCaseError } from "./failure.ts";

/** @throws {UseCaseError} always: the first line that cannot be used, and all of them as details */
export function refuse(file: string, problems: readonly FileProblem[]): never {
  const first = problems[0];
  throw new UseCaseError(
    "invalid",
    `${file}, line ${first.line}${first.column ? `, column "${first.column}"` : ""}: ${first.sentence} Nothing was stored.`,
    problems.map((p) => ({ ...p, file })),
  );
}

/** The reading of an id, read to its end. @throws {UseCaseError} It is not, or no more. */
export function finishedReading(id: string): Reading & { sheet: Sheet } {
  const reading = findReading(id);
  if (!reading) throw new UseCaseError("not-found", "The file is no longer at hand; choose it again.");
  if (reading.state === "refused") refuse(reading.name, reading.problems);
  if (!reading.sheet) throw new UseCaseError("conflict", "The file is still being read.");
  return reading as Reading & { sheet: Sheet };
}

/** The sheet of a history, whether its text came along or it was read before. */
export async function sheetOf(history: NonNullable<z.input<typeof BringInInput>["history"]>) {
  if ("reading" in history) {
    const { name, sheet, hash } = finishedReading(history.reading);
    if (hash === undefined) throw new UseCaseError("invalid", "A log on the server is followed, not brought in.");
    return { name, sheet, hash, text: "" };
  }
  const read = readSheet(history.text);
  return read.ok ? { name: history.name, sheet: read.sheet, hash: undefined, text: history.text } : refuse(history.name, read.problems);
}

/** The history a mapped sheet holds. @throws {UseCaseError} with the first line that cannot be used */
export function readHistory(
  file: string,
  sheet: Sheet,
  words: Pick<RunWords, "roles" | "units">,
  known: readonly QuantitySpec[],
  fluxes: FluxReading = PLAIN_FLUXES,
): { history: HistoryEvidence; balance?: BalanceRecord } {
  if (words.roles.length !== sheet.header.length)
    refuse(file, [{ line: 1, sentence: `${words.roles.length} columns were mapped but the file has ${sheet.header.length}.` }]);
  const unknown = unknownQuantity(words.roles, known);
  if (unknown >= 0)
    refuse(file, [{ line: sheet.lines[0] ?? 1, column: sheet.header[unknown], sentence: `The case has no quantity "${words.roles[unknown]}".` }]);
  const units = sheet.units.map((u, i) => words.units?.[i] ?? u);
  const built = buildHistory(sheet, words.roles as ColumnRole[], known, units, fluxes);
  return built.ok ? { history: built.history, balance: built.balance } : refuse(file, built.problems);
}

/** First role that names a quantity the case does not have; -1 where there is none. */
const unknownQuantity = (roles: readonly string[], known: readonly QuantitySpec[]) =>
  roles.findIndex((r) => r.startsWith("quantity:") && !known.some((q) => `quantity:${q.key}` === r));

/** @throws {UseCaseError} The text is no table. */
export function tableOf(file: { name: string; text: string }): DelimitedTable {
  const read = readDelimited(file.text);
  return read.ok ? read.table : refuse(file.name, read.problems);
}

/** Values and flows of a mapped table of results. @throws {UseCaseError} with the first line that cannot be used */
export function readQuantities(
  file: { name: string; text: string },
  roles: RowRole[],
  known: readonly QuantitySpec[],
  fluxes: FluxReading,
  units: readonly (string | null)[] = [],
) {
  const read = readQuantityRows(tableOf(file));
  if (!read.ok) refuse(file.name, read.problems);
  const unknown = unknownQuantity(roles, known);
  if (unknown >= 0) refuse(file.name, [{ line: read.rows[unknown]?.line ?? 1, sentence: `The case has no quantity "${roles[unknown]}".` }]);
  const rows = read.rows.map((r, i) => ({ ...r, unit: units[i] ?? r.unit }));
  const built = buildQuantities(rows, roles, known, fluxes);
  return built.ok ? built : refuse(file.name, built.problems);
}
