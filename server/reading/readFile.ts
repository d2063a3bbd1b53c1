import { createReadStream, type ReadStream } from "node:fs";
import { open, readFile as readWhole, stat } from "node:fs/promises";
import ExcelJS from "exceljs";
import { unzipSync } from "fflate";
import { readRecordJson } from "../../core/formats/recordJson.ts";
import { SheetReader, type SheetResult } from "../../core/formats/sheet.ts";

/** What a reading tells while it is under way. */
export interface Progress {
  readonly read: number;
  readonly total: number;
  readonly rows: number;
}

export interface ReadOptions {
  readonly progress?: (p: Progress) => void;
  /** asked between pieces: true ends the reading */
  readonly stopped?: () => boolean;
  /** sheet of a workbook, the first unless given */
  readonly sheet?: string;
}

export type ReadResult = SheetResult & { readonly sheets?: readonly string[]; readonly stopped?: boolean };

const PIECE = 1 << 20;
const MOST_JSON = 256 * 1024 * 1024;
const MOST_WORKBOOK = 64 * 1024 * 1024;
/** what a workbook may hold unpacked: a zip of a few MB can unpack to more than there is memory */
const MOST_UNPACKED = 512 * 1024 * 1024;
/** rows a sheet can have */
const MOST_SHEET_ROWS = 1_048_576;
/** cells of one row of a workbook */
const MOST_CELLS = 400;
/** characters of a cell that are looked at */
const LONGEST_CELL = 200;

/** A damaged archive can leave its reader waiting for ever: it is given up when neither a byte nor a row came for so long, and for the time that unpacking takes. */
const QUIET_MS = 4000;
const UNPACKED_PER_MS = 10_000;
const TICK_MS = 250;

const refused = (sentence: string, line = 1): ReadResult => ({ ok: false, problems: [{ line, sentence }] });

/** Reads a record from a file: delimited text of any length in pieces, JSON of the published schema, or a sheet of a workbook (.xlsx). */
export async function readRecordFile(path: string, name: string, options: ReadOptions = {}): Promise<ReadResult> {
  const { size } = await stat(path);
  const head = await firstBytes(path);
  // A workbook is a zip archive; its first bytes say so whatever it is called.
  if (head[0] === 0x50 && head[1] === 0x4b) return readWorkbook(path, size, options);
  if (/\.xlsx$/i.test(name))
    return refused("This is no workbook: it does not begin as one. It may be damaged, or an older format; save it as .xlsx or CSV.");
  const first = new TextDecoder().decode(head).trimStart();
  if (/\.json$/i.test(name) || first.startsWith('{"format"')) {
    if (size > MOST_JSON) return refused(`A JSON record may have ${MOST_JSON / 1024 / 1024} MB at most; a longer one is read as CSV.`);
    return readRecordJson(await readWhole(path, "utf8"));
  }
  const reader = new SheetReader();
  const decoder = new TextDecoder();
  let read = 0;
  for await (const chunk of createReadStream(path, { highWaterMark: PIECE })) {
    read += (chunk as Buffer).length;
    reader.push(decoder.decode(chunk as Buffer, { stream: true }));
    options.progress?.({ read, total: size, rows: reader.rows });
    if (options.stopped?.()) return { ...refused("Stopped."), stopped: true };
    if (reader.failed) break;
  }
  reader.push(decoder.decode());
  return reader.end();
}

async function firstBytes(path: string): Promise<Uint8Array> {
  const file = await open(path);
  try {
    const bytes = new Uint8Array(64);
    const { bytesRead } = await file.read(bytes, 0, 64, 0);
    return bytes.subarray(0, bytesRead);
  } finally {
    await file.close();
  }
}

/** A cell as the text a person sees, with nothing that could break a row. */
function cellText(value: unknown): string {
  if (value === null || value === undefined) return "";
  if (typeof value === "number") return String(value);
  if (value instanceof Date) return value.toISOString();
  if (typeof value === "object") {
    const { result, text, richText } = value as { result?: unknown; text?: unknown; richText?: { text: string }[] };
    if (result !== undefined) return cellText(result);
    if (richText) return cellText(richText.map((r) => r.text).join(""));
    return text === undefined ? "" : cellText(text);
  }
  return String(value)
    .slice(0, LONGEST_CELL)
    .replace(/[\t\r\n]+/g, " ")
    .trim();
}

/** What the parts of a zip archive say they have unpacked; undefined where its contents cannot be told. */
function unpackedSize(archive: Uint8Array): number | undefined {
  let sum = 0;
  try {
    unzipSync(archive, {
      filter: ({ originalSize }) => {
        sum += originalSize;
        return false;
      },
    });
  } catch {
    return undefined;
  }
  return sum;
}

/** One sheet of a workbook, row by row; formulas count by their stored results. */
async function readWorkbook(path: string, size: number, options: ReadOptions): Promise<ReadResult> {
  if (size > MOST_WORKBOOK) return refused(`A workbook may have ${MOST_WORKBOOK / 1024 / 1024} MB at most; save the sheet as CSV.`);
  const unpacked = unpackedSize(await readWhole(path));
  if (unpacked === undefined)
    return refused("The workbook cannot be opened: its table of contents cannot be read. It may be damaged; save it again as .xlsx or CSV.");
  if (unpacked > MOST_UNPACKED)
    return refused(
      `Unpacked the workbook has ${Math.round(unpacked / 1024 / 1024)} MB, more than ${MOST_UNPACKED / 1024 / 1024}; save the sheet as CSV.`,
    );
  const source = createReadStream(path);
  const sheets = new SheetsRead(source, size, options);
  const patience = (QUIET_MS + unpacked / UNPACKED_PER_MS) / TICK_MS;
  let watch: ReturnType<typeof setInterval> | undefined;
  const stalled = new Promise<ReadResult>((resolve) => {
    let [last, quiet] = [-1, 0];
    watch = setInterval(() => {
      quiet = sheets.activity === last ? quiet + 1 : 0;
      last = sheets.activity;
      if (quiet >= patience)
        resolve(refused("The workbook cannot be opened: it ends where more should come. It may be damaged; save it again as .xlsx or CSV."));
    }, TICK_MS);
  });
  try {
    return await Promise.race([sheets.read(), stalled]);
  } finally {
    clearInterval(watch);
    source.destroy();
  }
}

/** The sheets of a workbook as its package tells of them, and how far that is. */
class SheetsRead {
  private rows = 0;

  constructor(
    private readonly source: ReadStream,
    private readonly size: number,
    private readonly options: ReadOptions,
  ) {}

  /** grows while anything happens */
  get activity(): number {
    return this.source.bytesRead + this.rows;
  }

  async read(): Promise<ReadResult> {
    const wanted = this.options.sheet;
    const sheets: string[] = [];
    let reader: SheetReader | undefined;
    try {
      const book = new ExcelJS.stream.xlsx.WorkbookReader(this.source, {
        worksheets: "emit",
        sharedStrings: "cache",
        styles: "ignore",
        hyperlinks: "ignore",
        entries: "ignore",
      });
      for await (const sheet of book) {
        const { name } = sheet as unknown as { name: string };
        sheets.push(name);
        const into = (wanted === undefined ? !reader : wanted === name) ? new SheetReader("\t") : undefined;
        reader = into ?? reader;
        const ended = await this.readRows(sheet, name, into);
        if (ended) return ended;
      }
    } catch (error) {
      // What the package trips over in itself says nothing to anybody.
      const why = error instanceof TypeError ? "its parts do not fit together" : (error as Error).message.slice(0, 120);
      return refused(`The workbook cannot be opened: ${why}. It may be damaged or protected; save it again as .xlsx or CSV.`);
    }
    if (!reader) return refused(wanted === undefined ? "The workbook has no sheet." : `The workbook has no sheet "${wanted}".`);
    return { ...reader.end(), sheets };
  }

  /** @returns what ends the reading, if anything does */
  private async readRows(sheet: ExcelJS.stream.xlsx.WorksheetReader, name: string, reader: SheetReader | undefined): Promise<ReadResult | undefined> {
    let line = 0;
    for await (const row of sheet) {
      this.rows++;
      if (!reader) continue;
      if (row.number > MOST_SHEET_ROWS)
        return refused(`The sheet "${name}" has a row of number ${row.number}; ${MOST_SHEET_ROWS} is the most a sheet can have.`);
      // Empty rows are not told of, but count.
      for (; line + 1 < row.number; line++) reader.push("\n");
      line++;
      const values = row.values as unknown[];
      const cells = Array.from({ length: Math.min(MOST_CELLS, values.length - 1) }, (_, i) => cellText(values[i + 1]));
      reader.push(`${cells.join("\t")}\n`);
      if (line % 2000 === 0) this.options.progress?.({ read: Math.min(this.size, line), total: this.size, rows: reader.rows });
      if (this.options.stopped?.()) return { ...refused("Stopped."), stopped: true };
    }
    return undefined;
  }
}
