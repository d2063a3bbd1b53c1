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

interface Line {
  /** counted from 1 */
  readonly number: number;
  readonly text: string;
}

const COMMENT = /^(#|%|\/\/|!)/;

/**
 * Reads delimited text of the shapes codes write: comma, semicolon, tab or blanks; decimal commas; comments (#, %, //, !); a header of one or
 * several lines, in a comment or repeated after a restart, with more columns from some line on; a line of units; vectors in brackets.
 * Every line must have as many cells as the header above it.
 */
export function readDelimited(text: string): TableResult {
  const clean = text.replace(/^\uFEFF/, "");
  if (clean.includes("\u0000")) return refused(1, "The file holds binary data, not text. Export it as CSV.");
  const all = clean.split(/\r\n|\n|\r/).map((t, i): Line => ({ number: i + 1, text: t }));
  const lines = all.filter((l) => l.text.trim() !== "");
  if (!lines.length) return refused(1, "The file is empty.");
  const plain = lines.filter((l) => !COMMENT.test(l.text.trim()));
  if (!plain.length) return refused(lines[0].number, "The file holds comments only, no rows.");
  const vectors = plain.slice(0, 200).some((l) => VECTOR.test(l.text));
  const opened = vectors ? plain.map((l) => ({ ...l, text: l.text.replace(BRACKETS, (_, inside: string) => openVector(inside)) })) : plain;
  const numericFrom = opened.findIndex((l) => isNumeric(l.text));
  const delimiter = findDelimiter(opened.slice(Math.max(0, numericFrom), Math.max(0, numericFrom) + 20).map((l) => l.text));
  const head =
    numericFrom === 0 ? commentHeader(lines, opened[0], delimiter) : headerOf(opened.slice(0, numericFrom < 0 ? 1 : numericFrom), delimiter);
  if (!head) return refused(opened[0].number, "The first line holds numbers; a header line naming the columns is needed.");
  const body = opened.slice(numericFrom <= 0 ? (numericFrom === 0 ? 0 : 1) : numericFrom);
  const names = vectors ? withComponents(head.names, plain, numericFrom, delimiter) : head.names;
  const repeated = names.find((n, i) => names.indexOf(n) !== i);
  if (repeated !== undefined) return refused(head.line, `Two columns are both named "${repeated}".`, repeated);
  if (!body.length) return refused(head.line, "There is a header but no row below it.");
  return rowsUnder(names, head, body, delimiter);
}

const refused = (line: number, sentence: string, column?: string): TableResult => ({
  ok: false,
  problems: [{ line, ...(column === undefined ? {} : { column }), sentence }],
});

const NUMBER = "[-+]?(?:\\d+\\.?\\d*|\\.\\d+)(?:[eEdD][-+]?\\d+)?";
const VECTOR = new RegExp(`\\(\\s*${NUMBER}(?:[\\s,]+${NUMBER}){1,8}\\s*\\)`);
const BRACKETS = new RegExp(`\\(\\s*(${NUMBER}(?:[\\s,]+${NUMBER}){1,8})\\s*\\)`, "g");

/** between the components of a vector, whatever the delimiter of the file: found again when the line is split */
const JOINT = "\u0001";
const openVector = (inside: string) =>
  inside
    .trim()
    .split(/[\s,]+/)
    .join(JOINT);

/** Does a line begin like a row: its first cell is a number or a stated gap? */
const FIRST_NUMBER = new RegExp(`^\\s*["']?${NUMBER}(?=[\\s,;"'${JOINT}]|$)`);
const isNumeric = (text: string) => FIRST_NUMBER.test(text);

interface Header {
  readonly names: readonly string[];
  readonly units?: readonly (string | undefined)[];
  readonly line: number;
}

/** Where the rows begin at once, the nearest comment above with as many cells names them. */
function commentHeader(lines: readonly Line[], first: Line, delimiter: string): Header | undefined {
  const cells = split(first.text, delimiter).length;
  const above = lines.filter((l) => l.number < first.number).reverse();
  for (const l of above) {
    const text = l.text.trim().replace(COMMENT, "").trim();
    const names = split(text, delimiter);
    if (names.length === cells && names.every((n) => n !== "" && !isNumeric(n))) return { names, line: l.number };
  }
  return undefined;
}

const UNITS = /^([[(].*[\])]|-|1|%|[a-zA-Zµμ°Ω²³]{1,4}([*/^·.\s-]?[a-zA-Zµμ°\d²³-]{1,4}){0,4})$/;
const UNIT_LINE_SHARE = 0.99;

/** Lines above the rows: one of names, perhaps others of titles, groups or units. */
function headerOf(lines: readonly Line[], delimiter: string): Header | undefined {
  const cells = lines.map((l) => split(l.text, delimiter));
  const most = Math.max(...cells.map((c) => c.length));
  // A title above the names has fewer cells than they have.
  const kept = lines.map((l, i) => ({ line: l.number, cells: cells[i] })).filter((l) => l.cells.length === most);
  if (!kept.length) return undefined;
  const last = kept[kept.length - 1];
  const isUnits =
    kept.length > 1 &&
    last.cells.filter((c) => c === "" || UNITS.test(c)).length >= UNIT_LINE_SHARE * last.cells.length &&
    last.cells.some((c) => /^[[(]|^(s|m|Pa|N|K|W|kg|Hz|-|1|%)$|\//.test(c));
  const naming = isUnits ? kept.slice(0, -1) : kept;
  const names = naming[0].cells.map((_, k) =>
    naming
      .map((l) => l.cells[k])
      .filter((c) => c !== "")
      .join(" "),
  );
  const bare = (u: string) => u.replace(/^[[(]\s*|\s*[\])]$/g, "");
  const units = isUnits ? last.cells.map((u) => (u === "" ? undefined : bare(u) === "-" ? "1" : bare(u))) : undefined;
  return { names, units, line: naming[naming.length - 1].line };
}

/** Names of the components of vector columns: position x, position y, position z. */
function withComponents(names: readonly string[], plain: readonly Line[], numericFrom: number, delimiter: string): string[] {
  const row = plain[Math.max(0, numericFrom)];
  const marked = split(
    row.text.replace(BRACKETS, (_, inside: string) => openVector(inside)),
    delimiter,
    false,
  );
  if (marked.length !== names.length) return [...names];
  return names.flatMap((name, k) => {
    const parts = marked[k].split(JOINT).length;
    if (parts === 1) return [name];
    const unit = name.match(/\s*[([][^)\]]*[)\]]\s*$/)?.[0] ?? "";
    const bare = name.slice(0, name.length - unit.length);
    return Array.from({ length: parts }, (_, i) => `${bare} ${parts <= 3 ? "xyz"[i] : i + 1}${unit}`);
  });
}

/** Rows below a header; the header may stand again after a restart, also with columns that join from there on. */
function rowsUnder(first: readonly string[], head: Header, body: readonly Line[], delimiter: string): TableResult {
  const names = [...first];
  let places = names.map((_, i) => i);
  let above = head.line;
  const cells: string[][] = [];
  const at: number[] = [];
  const problems: FileProblem[] = [];
  for (const [k, line] of body.entries()) {
    let row = split(line.text, delimiter);
    // A delimiter at the end of every line opens no column.
    if (row.length === places.length + 1 && row[row.length - 1] === "") row = row.slice(0, -1);
    // A row begins with a number or a gap; what begins with a name may be the header again.
    if (names.includes(row[0]) && row.filter((c) => names.includes(c)).length > row.length / 2) {
      for (const n of row) if (!names.includes(n)) names.push(n);
      places = row.map((n) => names.indexOf(n));
      above = line.number;
      continue;
    }
    if (row.length !== places.length && problems.length < MOST_PROBLEMS) {
      const last = k === body.length - 1;
      const where = above === head.line ? "the header has" : `the header in line ${above} has`;
      problems.push({
        line: line.number,
        sentence: `${row.length} cells where ${where} ${places.length}${last ? "; the file looks cut off here" : ""}.`,
      });
    }
    const full = new Array<string>(names.length).fill("");
    row.forEach((c, i) => {
      if (places[i] !== undefined) full[places[i]] = c;
    });
    cells.push(full);
    at.push(line.number);
    if (cells.length > MOST_ROWS) return refused(line.number, `More than ${MOST_ROWS} rows; thin the record before bringing it in.`);
  }
  if (problems.length) return { ok: false, problems };
  if (!cells.length) return refused(head.line, "There is a header but no row below it.");
  // Rows before a column joined are gaps in it.
  for (const row of cells) while (row.length < names.length) row.push("");
  const header = names.map((n) => n.replace(/\s*[([].*[)\]]\s*$/, "").trim() || n);
  const units = names.map((n, i) => unitOf(n) ?? head.units?.[i]);
  return { ok: true, table: { delimiter, header, units, cells, lines: at } };
}

function findDelimiter(sample: readonly string[]): string {
  for (const d of ["\t", ";", ","]) {
    const counts = sample.map((l) => split(l, d, false).length);
    if (counts[0] > 1 && counts.filter((c) => c === counts[0]).length >= counts.length * 0.7) return d;
  }
  return sample[0].includes(",") ? "," : " ";
}

function split(line: string, delimiter: string, components = true): string[] {
  const cells = delimiter === " " ? line.trim().split(/\s+/) : cellsOf(line, delimiter).map((c) => c.trim());
  return components && line.includes(JOINT) ? cells.flatMap((c) => c.split(JOINT)) : cells;
}

/** Quotes are rare in records: only a line that has some is given to the parser. */
function cellsOf(line: string, delimiter: string): string[] {
  return line.includes('"') ? (Papa.parse<string[]>(line, { delimiter }).data[0] ?? []) : line.split(delimiter);
}

function unitOf(name: string): string | undefined {
  const inside = name.match(/[([]\s*([^)\]]+?)\s*[)\]]\s*$/)?.[1];
  return inside === "-" ? "1" : inside;
}

/** A cell as a number; decimal commas count where the delimiter is no comma. NaN for a stated gap, undefined for anything else. */
export function numberOf(cell: string, delimiter: string): number | undefined {
  const plain = cell === "" ? Number.NaN : Number(cell);
  if (Number.isFinite(plain)) return plain;
  const text = delimiter === "," ? cell : cell.replace(/^([-+]?\d*),(\d+)/, "$1.$2");
  if (text === "" || /^([-+]?(nan|inf|infinity)(\([a-z]*\))?|na|n\/a|-+|\*+|null)$/i.test(text)) return Number.NaN;
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
