import { type DelimitedTable, type FileProblem, readDelimited } from "../../core/formats/delimited.ts";
import { readSheet, type Sheet } from "../../core/formats/sheet.ts";
import type { ColumnRole } from "../../core/intake/columnRoles.ts";
import { buildHistory } from "../../core/intake/historyImport.ts";
import { buildQuantities, type FluxReading, PLAIN_FLUXES, type RowRole, readQuantityRows } from "../../core/intake/quantityImport.ts";
import type { BalanceRecord } from "../../core/records/balance.ts";
import type { ErrorNorms } from "../../core/records/profile.ts";
import type { QuantitySpec } from "../../core/records/quantity.ts";
import type { HistoryEvidence } from "../../core/records/run.ts";
import { UseCaseError } from "../usecases/failure.ts";
import { lastValues, type PackedRecord, packRecord } from "../usecases/storedRecord.ts";

/** @throws {UseCaseError} always: the first line that cannot be used, and all of them as details */
export function refuse(file: string, problems: readonly FileProblem[]): never {
  const first = problems[0];
  throw new UseCaseError(
    "invalid",
    `${file}, line ${first.line}${first.column ? `, column "${first.column}"` : ""}: ${first.sentence} Nothing was stored.`,
    problems.map((p) => ({ ...p, file })),
  );
}

/** What the columns of a file are said to be. */
export interface Mapping {
  readonly roles: readonly string[];
  /** units where a person corrected them */
  readonly units?: readonly (string | null | undefined)[];
}

/** The history a mapped sheet holds. @throws {UseCaseError} with the first line that cannot be used */
export function readHistory(
  file: string,
  sheet: Sheet,
  words: Mapping,
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
function tableOf(file: { name: string; text: string }): DelimitedTable {
  const read = readDelimited(file.text);
  return read.ok ? read.table : refuse(file.name, read.problems);
}

/** The columns of a text. @throws {UseCaseError} it is no table of numbers */
export function sheetOfText(file: { readonly name: string; readonly text: string }): Sheet {
  const read = readSheet(file.text);
  return read.ok ? read.sheet : refuse(file.name, read.problems);
}

interface RowWords {
  readonly rowRoles: readonly string[];
  readonly rowUnits?: readonly (string | null | undefined)[];
}

/** Values and flows of a mapped table of results. @throws {UseCaseError} with the first line that cannot be used */
function readQuantities(
  file: { readonly name: string; readonly text: string },
  wordsOf: (names: readonly string[]) => RowWords,
  known: readonly QuantitySpec[],
  fluxes: FluxReading,
) {
  const read = readQuantityRows(tableOf(file));
  if (!read.ok) refuse(file.name, read.problems);
  const { rowRoles, rowUnits = [] } = wordsOf(read.rows.map((r) => r.name));
  const unknown = unknownQuantity(rowRoles, known);
  if (unknown >= 0) refuse(file.name, [{ line: read.rows[unknown]?.line ?? 1, sentence: `The case has no quantity "${rowRoles[unknown]}".` }]);
  const rows = read.rows.map((r, i) => ({ ...r, unit: rowUnits[i] ?? r.unit }));
  const built = buildQuantities(rows, rowRoles as RowRole[], known, fluxes);
  return built.ok ? built : refuse(file.name, built.problems);
}

/** What was said of columns and rows by their names: files of one family need not have them in one order. */
interface ByName {
  readonly columns: Readonly<Record<string, string>>;
  readonly columnUnits: Readonly<Record<string, string>>;
  readonly rows: Readonly<Record<string, string>>;
  readonly rowUnits: Readonly<Record<string, string>>;
}

export interface ConfirmedInput {
  readonly history?: { readonly name: string; readonly sheet: Sheet } | { readonly name: string; readonly text: string };
  readonly quantities?: { readonly name: string; readonly text: string };
  readonly mapping: (Mapping & RowWords) | { readonly byName: ByName };
  readonly known: readonly QuantitySpec[];
  readonly fluxes?: FluxReading;
}

/** Everything the confirmed files of a run hold. */
export interface Confirmed {
  /** of the history, as it stands in the file */
  readonly header: readonly string[];
  readonly units: readonly (string | undefined)[];
  /** what its columns were said to be */
  readonly mapping: Mapping;
  /** the record as it is stored */
  readonly record?: PackedRecord;
  readonly inTime: boolean;
  readonly quantities: Readonly<Record<string, number>>;
  readonly balance?: BalanceRecord;
  readonly errorNorms: readonly ErrorNorms[];
}

const from = (words: Readonly<Record<string, string>>, name: string): string | undefined => (Object.hasOwn(words, name) ? words[name] : undefined);

/** Reads the confirmed files of a run. @throws {UseCaseError} naming the file, line and column that cannot be used */
export function readConfirmed({ history, quantities, mapping, known, fluxes = PLAIN_FLUXES }: ConfirmedInput): Confirmed {
  const named = "byName" in mapping ? mapping.byName : undefined;
  const sheet = history && ("sheet" in history ? history.sheet : sheetOfText(history));
  const header = sheet?.header ?? [];
  const columns: Mapping =
    "byName" in mapping
      ? { roles: header.map((h) => from(mapping.byName.columns, h) ?? "ignore"), units: header.map((h) => from(mapping.byName.columnUnits, h)) }
      : mapping;
  const rowWords = (names: readonly string[]): RowWords =>
    named
      ? { rowRoles: names.map((n) => from(named.rows, n) ?? "ignore"), rowUnits: names.map((n) => from(named.rowUnits, n)) }
      : (mapping as RowWords);
  const read = history && sheet ? readHistory(history.name, sheet, columns, known, fluxes) : undefined;
  const table = quantities ? readQuantities(quantities, rowWords, known, fluxes) : undefined;
  return {
    header,
    units: sheet?.units ?? [],
    mapping: columns,
    ...(read ? { record: packRecord(read.history) } : {}),
    inTime: read?.history.time !== undefined,
    // A table of results is taken at its word; what it does not hold comes from the ends of the records.
    quantities: { ...lastValues(read?.history.quantities ?? {}), ...table?.quantities },
    balance: table?.balance ?? read?.balance,
    errorNorms: table?.errorNorms ?? [],
  };
}
