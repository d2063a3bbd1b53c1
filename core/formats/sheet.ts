import { numberOf } from "./cellNumber.ts";
import { DelimitedReader, type FileProblem, MOST_PROBLEMS } from "./delimited.ts";

/** Numbers of a table by columns, however long. */
export interface Sheet {
  readonly delimiter: string;
  readonly header: readonly string[];
  readonly units: readonly (string | undefined)[];
  readonly rows: number;
  /** NaN where a cell is a gap, or no number */
  readonly columns: readonly Float64Array[];
  /** line of the file each row stands on */
  readonly lines: Float64Array;
  /** first rows as written */
  readonly sample: readonly (readonly string[])[];
  /** cells that are neither numbers nor gaps, by column: the first few */
  readonly faults: readonly (readonly FileProblem[])[];
}

export type SheetResult = { readonly ok: true; readonly sheet: Sheet } | { readonly ok: false; readonly problems: readonly FileProblem[] };

const SAMPLE_ROWS = 5;
/** numbers a sheet may hold */
const MOST_NUMBERS = 120e6;

/** Reads delimited text in pieces into columns of numbers. */
export class SheetReader {
  private header: readonly string[] = [];
  private units: readonly (string | undefined)[] = [];
  private delimiter = ",";
  private columns: Float64Array[] = [];
  private lines = new Float64Array(1024);
  private count = 0;
  private readonly sample: string[][] = [];
  private readonly faults: FileProblem[][] = [];
  private readonly reader: DelimitedReader;

  constructor(delimiter?: string) {
    this.reader = new DelimitedReader(
      {
        columns: (names, units, d) => {
          [this.header, this.units, this.delimiter] = [names, units, d];
          while (this.columns.length < names.length) {
            this.columns.push(new Float64Array(this.lines.length).fill(Number.NaN));
            this.faults.push([]);
          }
        },
        row: (cells, places, line) => this.take(cells, places, line),
      },
      delimiter,
    );
  }

  get rows(): number {
    return this.count;
  }

  get failed(): boolean {
    return this.reader.failed;
  }

  push(text: string): void {
    this.reader.push(text);
  }

  private grow(): void {
    const wider = (old: Float64Array) => {
      const next = new Float64Array(2 * old.length).fill(Number.NaN, old.length);
      next.set(old);
      return next;
    };
    this.columns = this.columns.map(wider);
    this.lines = wider(this.lines);
  }

  private take(cells: readonly string[], places: readonly number[], line: number): void {
    if (this.count === this.lines.length) {
      if (2 * this.count * this.columns.length > MOST_NUMBERS) {
        this.reader.refuse(
          line,
          `${this.columns.length} columns of more than ${this.count} rows need more memory than there is; thin the record or leave columns out.`,
        );
        return;
      }
      this.grow();
    }
    const at = this.count++;
    this.lines[at] = line;
    for (let i = 0; i < cells.length; i++) {
      const cell = cells[i];
      const plain = cell === "" ? Number.NaN : +cell;
      // Infinity and words take the slower way.
      const value = plain - plain === 0 ? plain : numberOf(cell, this.delimiter);
      const c = places[i];
      this.columns[c][at] = value ?? Number.NaN;
      if (value === undefined && this.faults[c].length < MOST_PROBLEMS)
        this.faults[c].push({ line, column: this.header[c], sentence: `"${cell.slice(0, 40)}" is not a number.` });
    }
    if (at < SAMPLE_ROWS) this.sample.push([...cells]);
  }

  /** Reads what has come although the file may be still at its beginning. */
  settle(): void {
    this.reader.settle();
  }

  /** Leaves out what stands behind the last end of a line. @returns whether anything did */
  dropOpenLine(): boolean {
    return this.reader.dropOpenLine();
  }

  get columnCount(): number {
    return this.header.length;
  }

  /** Rows that could not be taken, so far. */
  get problems(): readonly FileProblem[] {
    return this.reader.problems;
  }

  /** What has been read from a row on. */
  sheet(from = 0): Sheet {
    const { delimiter, header, units, count, sample, faults } = this;
    const columns = this.columns.map((c) => c.slice(from, count));
    return { delimiter, header, units, rows: count - from, columns, lines: this.lines.slice(from, count), sample, faults };
  }

  end(): SheetResult {
    const problems = this.reader.end();
    return problems.length ? { ok: false, problems } : { ok: true, sheet: this.sheet() };
  }
}

/** Reads a whole text into columns of numbers. */
export function readSheet(text: string): SheetResult {
  const reader = new SheetReader();
  reader.push(text);
  return reader.end();
}
