import {
  COMMENT,
  commentHeader,
  findDelimiter,
  type Header,
  headerOf,
  isNumeric,
  type Line,
  LOGARITHM,
  MOST_COLUMNS,
  namesProblem,
  openVectors,
  split,
  unitOf,
  VECTOR,
  withComponents,
} from "./delimitedShape.ts";

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

/** problems that are told of one file */
export const MOST_PROBLEMS = 12;
export const MOST_ROWS = 5_000_000;
/** of text handed over whole */
export const MOST_BYTES = 16 * 1024 * 1024;
/** characters of one line; a longer one is no row of a table */
const LONGEST_LINE = 1_000_000;
/** lines after the first row of numbers that are looked at before the shape of the file is decided */
const LOOK_AHEAD = 200;
/** rows that tell the shape of a file that is still being written */
const FEWEST_ROWS = 2;
/** lines without a number at their beginning after which the first is taken for the header */
const MOST_WORDS = 2000;

/** Takes what a reader finds. */
interface Sink {
  /** Names and units of the columns, told again when columns join: the earlier ones keep their places. */
  columns(names: readonly string[], units: readonly (string | undefined)[], delimiter: string): void;
  /** One row; `places` says to which column each cell belongs. */
  row(cells: readonly string[], places: readonly number[], line: number): void;
}

/**
 * Reads delimited text of the shapes codes write, in pieces of any length: comma, semicolon, tab or blanks; decimal commas; comments (#, %, //, !);
 * a header of one or several lines, in a comment or repeated after a restart, with more columns from some line on; a line of units; vectors in
 * brackets. Every line must have as many cells as the header above it.
 */
export class DelimitedReader {
  private rest = "";
  private lineNumber = 0;
  private head: Line[] | undefined = [];
  private firstNumeric = -1;
  private plainInHead = 0;
  private body: BodyReader | undefined;
  readonly problems: FileProblem[] = [];
  /** a problem that ends the reading at once */
  private broken = false;

  /** @param delimiter where it is known, as for a sheet of cells */
  constructor(
    private readonly sink: Sink,
    private readonly delimiter?: string,
  ) {}

  /** Rows read so far. */
  get rows(): number {
    return this.body?.rows ?? 0;
  }

  get failed(): boolean {
    return this.broken;
  }

  push(text: string): void {
    if (this.broken) return;
    let all = this.rest + text;
    // A return at the very end may be half of a line's end.
    const held = all.endsWith("\r");
    if (held) all = all.slice(0, -1);
    if (all.includes("\r")) all = all.replaceAll("\r\n", "\n").replaceAll("\r", "\n");
    const lines = all.split("\n");
    this.rest = (lines.pop() ?? "") + (held ? "\r" : "");
    for (const line of lines) this.line(line);
    if (this.rest.length > LONGEST_LINE) this.refuse(this.lineNumber + 1, "A line of more than a million characters is no row of a table.");
  }

  /** Decides by the lines that are there, for a file that is still being written. */
  settle(): void {
    if (!this.broken && this.head && this.firstNumeric >= 0 && this.plainInHead - this.firstNumeric >= FEWEST_ROWS) this.decide();
  }

  /** Leaves out what stands behind the last end of a line. @returns whether anything did */
  dropOpenLine(): boolean {
    const open = this.rest.trim() !== "";
    this.rest = "";
    return open;
  }

  /** @returns the problems found; none means every row went to the sink */
  end(): readonly FileProblem[] {
    if (!this.broken && this.rest !== "") this.line(this.rest.replace(/\r$/, ""));
    if (!this.broken && this.head) this.decide();
    if (!this.broken) this.body?.end();
    return this.problems;
  }

  /** Ends the reading with one problem. */
  refuse(line: number, sentence: string, column?: string): undefined {
    this.broken = true;
    this.problems.splice(0, this.problems.length, { line, ...(column === undefined ? {} : { column }), sentence });
  }

  private line(raw: string): void {
    if (this.broken) return;
    const number = ++this.lineNumber;
    const text = number === 1 ? raw.replace(/^\uFEFF/, "") : raw;
    if (this.body) {
      this.body.line(text, number);
      if (this.body.rows > MOST_ROWS) this.refuse(number, `More than ${MOST_ROWS} rows; thin the record before bringing it in.`);
      return;
    }
    if (text.includes("\u0000")) {
      this.refuse(1, "The file holds binary data, not text. Export it as CSV.");
      return;
    }
    if (text.trim() === "") return;
    this.head?.push({ number, text });
    if (COMMENT.test(text.trim())) return;
    if (this.firstNumeric < 0 && isNumeric(openVectors(text))) this.firstNumeric = this.plainInHead;
    this.plainInHead++;
    if (this.plainInHead - Math.max(0, this.firstNumeric) >= (this.firstNumeric < 0 ? MOST_WORDS : LOOK_AHEAD)) this.decide();
  }

  /** Decides the shape of the file from its first lines and reads them. */
  private decide(): undefined {
    const lines = this.head ?? [];
    this.head = undefined;
    if (!lines.length) return this.refuse(1, "The file is empty.");
    const plain = lines.filter((l) => !COMMENT.test(l.text.trim()));
    if (!plain.length) return this.refuse(lines[0].number, "The file holds comments only, no rows.");
    const vectors = plain.slice(0, LOOK_AHEAD).some((l) => VECTOR.test(l.text));
    const opened = vectors ? plain.map((l) => ({ ...l, text: openVectors(l.text) })) : plain;
    const from = opened.findIndex((l) => isNumeric(l.text));
    const delimiter = this.delimiter ?? findDelimiter(opened.slice(Math.max(0, from), Math.max(0, from) + 20).map((l) => l.text));
    const head = from === 0 ? commentHeader(lines, opened[0], delimiter) : headerOf(opened.slice(0, from < 0 ? 1 : from), delimiter);
    if (!head) return this.refuse(opened[0].number, "The first line holds numbers; a header line naming the columns is needed.");
    const odd = namesProblem(head.names);
    if (odd) return this.refuse(head.line, odd);
    const parts = vectors ? withComponents(head.names, plain, from, delimiter) : head.names.map((n) => [n]);
    const names = parts.flat();
    const many = namesProblem(names);
    if (many) return this.refuse(head.line, many);
    const repeated = names.find((n, i) => names.indexOf(n) !== i);
    if (repeated !== undefined) return this.refuse(head.line, `Two columns are both named "${repeated}".`, repeated);
    this.body = new BodyReader(names, new Map(head.names.map((n, i) => [n, parts[i]])), head, delimiter, vectors, this.sink, this.problems);
    const rows = plain.slice(from <= 0 ? (from === 0 ? 0 : 1) : from);
    if (!rows.length) return this.refuse(head.line, "There is a header but no row below it.");
    for (const l of rows) this.body.line(l.text, l.number);
  }
}

/** Rows below a header; the header may stand again after a restart, also with columns that join from there on. */
class BodyReader {
  rows = 0;
  private readonly names: string[];
  private places: number[];
  private above: number;
  private shortAt = -1;
  private lastLine = 0;

  constructor(
    names: readonly string[],
    /** components of each name of the header */
    private readonly parts: ReadonlyMap<string, readonly string[]>,
    private readonly head: Header,
    private readonly delimiter: string,
    private readonly vectors: boolean,
    private readonly sink: Sink,
    private readonly problems: FileProblem[],
  ) {
    this.names = [...names];
    this.places = names.map((_, i) => i);
    this.above = head.line;
    this.tell();
  }

  private tell(): void {
    const header = this.names.map((n) => (LOGARITHM.test(n) ? n.trim() : n.replace(/[\s_]*[([].*[)\]]\s*$/, "").trim() || n));
    this.sink.columns(
      header,
      this.names.map((n, i) => unitOf(n) ?? this.head.units?.[i]),
      this.delimiter,
    );
  }

  line(text: string, number: number): void {
    const first = text.charCodeAt(0);
    // Most lines begin with a digit or a blank: only others can be comments.
    if ((first < 48 || first > 57) && (text.trim() === "" || COMMENT.test(text.trim()))) return;
    let row = split(this.vectors ? openVectors(text) : text, this.delimiter, this.vectors);
    const { length } = this.places;
    // A delimiter at the end of every line opens no column.
    if (row.length === length + 1 && row[length] === "") row = row.slice(0, -1);
    // A row begins with a number or a gap; what begins with a name may be the header again.
    if ((first < 48 || first > 57) && this.parts.has(row[0]) && row.filter((c) => this.parts.has(c)).length > row.length / 2) {
      const before = this.names.length;
      row = row.flatMap((n) => this.parts.get(n) ?? [n]);
      for (const n of row) if (!this.names.includes(n) && this.names.length < MOST_COLUMNS) this.names.push(n);
      if (row.some((n) => !this.names.includes(n))) {
        this.problems.push({ line: number, sentence: `With the columns that join here there are more than the ${MOST_COLUMNS} a record may have.` });
        return;
      }
      this.places = row.map((n) => this.names.indexOf(n));
      this.above = number;
      if (this.names.length > before) this.tell();
      return;
    }
    if (row.length !== length) {
      if (this.problems.length < MOST_PROBLEMS) {
        const where = this.above === this.head.line ? "the header has" : `the header in line ${this.above} has`;
        this.problems.push({ line: number, sentence: `${row.length} cells where ${where} ${length}.` });
        this.shortAt = number;
      }
      this.lastLine = number;
      return;
    }
    this.lastLine = number;
    this.rows++;
    this.sink.row(row, this.places, number);
  }

  end(): void {
    // A row too short at the very end tells of a file that was cut off.
    const last = this.problems[this.problems.length - 1];
    if (last && this.shortAt === this.lastLine) {
      const sentence = last.sentence.replace(/\.$/, "; the file looks cut off here.");
      this.problems[this.problems.length - 1] = { ...last, sentence };
    } else if (!this.rows && !this.problems.length) this.problems.push({ line: this.head.line, sentence: "There is a header but no row below it." });
  }
}

/**
 * Reads a whole text into cells as written, for tables of words and numbers.
 * @example
 * readDelimited("it,drag (N)\n1,2.5\n").table.units // [undefined, "N"]
 */
export function readDelimited(text: string): TableResult {
  const cells: string[][] = [];
  const lines: number[] = [];
  let [header, units, delimiter]: [readonly string[], readonly (string | undefined)[], string] = [[], [], ","];
  const reader = new DelimitedReader({
    columns: (names, u, d) => {
      [header, units, delimiter] = [names, u, d];
    },
    row: (row, places, line) => {
      const full = new Array<string>(header.length).fill("");
      row.forEach((c, i) => {
        full[places[i]] = c;
      });
      cells.push(full);
      lines.push(line);
    },
  });
  reader.push(text);
  const problems = reader.end();
  if (problems.length) return { ok: false, problems };
  // Rows before a column joined are gaps in it.
  for (const row of cells) while (row.length < header.length) row.push("");
  return { ok: true, table: { delimiter, header, units, cells, lines } };
}
