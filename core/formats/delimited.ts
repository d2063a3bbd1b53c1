import Papa from "papaparse";

/** Something wrong in a file, and where. Lines count from 1 as an editor shows them. */
export interface FileProblem {
  readonly line: number;
  readonly column?: string;
  readonly sentence: string;
}

export interface DelimitedTable {
  readonly delimiter: string;
  readonly header: readonly string[];
  /** unit in brackets after a name, such as "drag (N)" */
  readonly units: readonly (string | undefined)[];
  /** cells as written, one array a line */
  readonly cells: readonly (readonly string[])[];
  /** line of the file each row stands on */
  readonly lines: readonly number[];
}

export type TableResult = { readonly ok: true; readonly table: DelimitedTable } | { readonly ok: false; readonly problems: readonly FileProblem[] };

const MOST_PROBLEMS = 12;
export const MOST_ROWS = 200_000;
export const MOST_BYTES = 16 * 1024 * 1024;

/**
 * Splits delimited text with a header line; the delimiter is found among comma, semicolon, tab and blanks.
 * Lines starting with # are comments. Every line must have as many cells as the header.
 */
export function readDelimited(text: string): TableResult {
  const clean = text.replace(/^\uFEFF/, "");
  if (clean.includes("\u0000")) return { ok: false, problems: [{ line: 1, sentence: "The file holds binary data, not text. Export it as CSV." }] };
  const lines = clean.split(/\r\n|\n|\r/);
  const first = lines.findIndex((l) => l.trim() !== "" && !l.trim().startsWith("#"));
  if (first < 0) return { ok: false, problems: [{ line: 1, sentence: "The file is empty." }] };
  const delimiter = findDelimiter(lines.slice(first, first + 20).filter((l) => l.trim() !== ""));
  const names = split(lines[first], delimiter);
  if (names.every((n) => numberOf(n, delimiter) !== undefined)) {
    return { ok: false, problems: [{ line: first + 1, sentence: "The first line holds numbers; a header line naming the columns is needed." }] };
  }
  const repeated = names.find((n, i) => names.indexOf(n) !== i);
  if (repeated !== undefined)
    return { ok: false, problems: [{ line: first + 1, column: repeated, sentence: `Two columns are both named "${repeated}".` }] };
  const cells: string[][] = [];
  const at: number[] = [];
  const problems: FileProblem[] = [];
  for (let i = first + 1; i < lines.length; i++) {
    const line = lines[i];
    if (line.trim() === "" || line.trim().startsWith("#")) continue;
    const row = split(line, delimiter);
    if (row.length !== names.length && problems.length < MOST_PROBLEMS) {
      const last = i >= lines.length - 1 || lines.slice(i + 1).every((l) => l.trim() === "");
      problems.push({
        line: i + 1,
        sentence: `${row.length} cells where the header has ${names.length}${last ? "; the file looks cut off here" : ""}.`,
      });
    }
    cells.push(row);
    at.push(i + 1);
    if (cells.length > MOST_ROWS)
      return { ok: false, problems: [{ line: i + 1, sentence: `More than ${MOST_ROWS} rows; thin the record before bringing it in.` }] };
  }
  if (problems.length) return { ok: false, problems };
  if (!cells.length) return { ok: false, problems: [{ line: first + 1, sentence: "There is a header but no row below it." }] };
  const header = names.map((n) => n.replace(/\s*[([].*[)\]]\s*$/, "").trim() || n);
  return { ok: true, table: { delimiter, header, units: names.map(unitOf), cells, lines: at } };
}

function findDelimiter(sample: readonly string[]): string {
  for (const d of ["\t", ";", ","]) {
    const counts = sample.map((l) => split(l, d).length);
    if (counts[0] > 1 && counts.filter((c) => c === counts[0]).length >= counts.length * 0.7) return d;
  }
  return sample[0].includes(",") ? "," : " ";
}

function split(line: string, delimiter: string): string[] {
  if (delimiter === " ") return line.trim().split(/\s+/);
  const parsed = Papa.parse<string[]>(line, { delimiter });
  return (parsed.data[0] ?? []).map((c) => c.trim());
}

function unitOf(name: string): string | undefined {
  const inside = name.match(/[([]\s*([^)\]]+?)\s*[)\]]\s*$/)?.[1];
  return inside === "-" ? "1" : inside;
}

/** A cell as a number; decimal commas count where the delimiter is no comma. NaN for a stated gap, undefined for anything else. */
export function numberOf(cell: string, delimiter: string): number | undefined {
  const text = delimiter === "," ? cell : cell.replace(/^([-+]?\d*),(\d+)/, "$1.$2");
  if (text === "" || /^(nan|na|-|null)$/i.test(text)) return Number.NaN;
  const value = Number(text.replace(/[dD](?=[-+]?\d+$)/, "e"));
  return Number.isFinite(value) ? value : undefined;
}

/** One column as numbers, or the lines that are not. */
export function numericColumn(table: DelimitedTable, index: number): { values: number[]; problems: FileProblem[] } {
  const values: number[] = [];
  const problems: FileProblem[] = [];
  table.cells.forEach((row, i) => {
    const value = numberOf(row[index], table.delimiter);
    if (value === undefined && problems.length < MOST_PROBLEMS)
      problems.push({ line: table.lines[i], column: table.header[index], sentence: `"${row[index].slice(0, 40)}" is not a number.` });
    values.push(value ?? Number.NaN);
  });
  return { values, problems };
}

/** Comma-separated text; text cells that a spreadsheet would take for formulas are defused with an apostrophe. */
export function writeCsv(header: readonly string[], rows: readonly (readonly (string | number)[])[]): string {
  const safe = (c: string | number) => (typeof c === "number" ? String(c) : /^[=+\-@\t\r]/.test(c) && !Number.isFinite(Number(c)) ? `'${c}` : c);
  return `${Papa.unparse({ fields: [...header], data: rows.map((r) => r.map(safe)) }, { newline: "\n" })}\n`;
}
