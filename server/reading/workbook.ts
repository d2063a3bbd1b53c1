import { readFile as readWhole } from "node:fs/promises";
import path from "node:path";
import { crc32 } from "node:zlib";
import { unzipSync } from "fflate";
import { SaxesParser, type SaxesTagPlain } from "saxes";
import { SheetReader } from "../../core/formats/sheet.ts";
import { type ReadOptions, type ReadResult, refused } from "./result.ts";

// The parts are taken by the table of contents and read one after the other: readers of a workbook as a stream must hold back what comes too early, and now and then refuse a sound one.

const MOST_WORKBOOK = 64 * 1024 * 1024;
/** what a workbook may hold unpacked: a zip of a few MB can unpack to more than there is memory */
const MOST_UNPACKED = 512 * 1024 * 1024;
/** rows a sheet can have */
const MOST_SHEET_ROWS = 1_048_576;
/** cells of one row of a workbook */
const MOST_CELLS = 400;
/** characters of a cell that are looked at */
const LONGEST_CELL = 200;
const END_OF_CONTENTS = Uint8Array.of(0x50, 0x4b, 5, 6);
/** bytes given to the parser at once */
const PIECE = 1 << 18;

const inMegabytes = (bytes: number): number => Math.round(bytes / 1024 / 1024);

/** One sheet of a workbook, row by row; formulas count by their stored results. */
export async function readWorkbook(file: string, size: number, options: ReadOptions): Promise<ReadResult> {
  if (size > MOST_WORKBOOK) return refused(`A workbook may have ${inMegabytes(MOST_WORKBOOK)} MB at most; save the sheet as CSV.`);
  const archive = new Uint8Array(await readWhole(file));
  const unpacked = unpackedSize(archive);
  if (unpacked === undefined)
    return refused("The workbook cannot be opened: its table of contents cannot be read. It may be damaged; save it again as .xlsx or CSV.");
  if (unpacked > MOST_UNPACKED)
    return refused(`Unpacked the workbook has ${inMegabytes(unpacked)} MB, more than ${inMegabytes(MOST_UNPACKED)}; save the sheet as CSV.`);
  try {
    return readSheet(archive, size, options);
  } catch (error) {
    if (error instanceof Stopped) return { ...refused("Stopped."), stopped: true };
    return refused(`The workbook cannot be opened: ${reasonOf(error)}. It may be damaged or protected; save it again as .xlsx or CSV.`);
  }
}

/** thrown out of the parser where the reading is told to stop */
class Stopped extends Error {}

/** What the packages trip over in themselves says nothing to anybody. */
const reasonOf = (error: unknown): string =>
  error instanceof TypeError || error instanceof RangeError
    ? "its parts do not fit together"
    : (error as Error).message.slice(0, 120).replace(/\.$/, "");

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

function readSheet(archive: Uint8Array, size: number, options: ReadOptions): ReadResult {
  const { sheets, strings } = contents(archive);
  if (sheets.length === 0) return refused("The workbook has no sheet.");
  const wanted = options.sheet === undefined ? sheets[0] : sheets.find((s) => s.name === options.sheet);
  if (!wanted) return refused(`The workbook has no sheet "${options.sheet}".`);
  const cells = part(archive, wanted.part);
  if (!cells) throw new Error(`its sheet "${wanted.name}" is not in it`);
  const shared = part(archive, strings);
  const rows = new RowsRead(wanted.name, shared ? sharedStrings(shared) : [], (share, count) => {
    options.progress?.({ read: Math.round(share * size), total: size, rows: count });
    if (options.stopped?.()) throw new Stopped();
  });
  const ended = rows.read(cells);
  return ended ?? { ...rows.reader.end(), sheets: sheets.map((s) => s.name) };
}

/** One part of the archive, unpacked; undefined where there is none of that name. @throws Error where it is not what was packed */
function part(archive: Uint8Array, name: string): Uint8Array | undefined {
  const bytes = unzipSync(archive, { filter: (file) => file.name === name })[name];
  const sum = bytes && checksums(archive).get(name);
  if (sum !== undefined && crc32(bytes) !== sum) throw new Error(`its part ${name} is not what was packed: its checksum differs`);
  return bytes;
}

/** The checksums of the parts as the table of contents tells them, which the package that unpacks does not look at. */
function checksums(archive: Uint8Array): Map<string, number> {
  const out = new Map<string, number>();
  const bytes = Buffer.from(archive.buffer, archive.byteOffset, archive.byteLength);
  const end = bytes.lastIndexOf(END_OF_CONTENTS);
  const count = bytes.readUInt16LE(end + 10);
  for (let k = 0, at = bytes.readUInt32LE(end + 16); k < count && at + 46 <= bytes.length; k++) {
    const [name, extra, comment] = [28, 30, 32].map((offset) => bytes.readUInt16LE(at + offset));
    out.set(bytes.toString("utf8", at + 46, at + 46 + name), bytes.readUInt32LE(at + 16));
    at += 46 + name + extra + comment;
  }
  return out;
}

interface Contents {
  readonly sheets: readonly { readonly name: string; readonly part: string }[];
  /** the part that holds texts used in many cells */
  readonly strings: string;
}

/** The sheets in the workbook's order and the parts they are in, as its relationships tell. */
function contents(archive: Uint8Array): Contents {
  const [book, relations] = [part(archive, "xl/workbook.xml"), part(archive, "xl/_rels/workbook.xml.rels")];
  if (!book || !relations) throw new Error("its list of sheets is not in it");
  const targets = new Map<string, string>();
  let strings = "xl/sharedStrings.xml";
  scan(relations, {
    open: (name, { Id, Type, Target }) => {
      if (name !== "Relationship" || !Id || !Target) return;
      const at = Target.startsWith("/") ? Target.slice(1) : path.posix.join("xl", Target);
      targets.set(Id, at);
      if (Type?.endsWith("/sharedStrings")) strings = at;
    },
  });
  const sheets: { name: string; part: string }[] = [];
  scan(book, {
    open: (name, attributes) => {
      if (name !== "sheet" || attributes.name === undefined) return;
      // The prefix of a relationship's attribute is the file's own choice.
      const id = Object.entries(attributes).find(([key]) => /(^|:)id$/.test(key))?.[1];
      const target = targets.get(id ?? "");
      // Sheets that are charts are no tables.
      if (target && !/\/chartsheets\//.test(target)) sheets.push({ name: attributes.name, part: target });
    },
  });
  return { sheets, strings };
}

interface Handler {
  readonly open?: (name: string, attributes: Readonly<Record<string, string>>) => void;
  readonly text?: (text: string) => void;
  readonly close?: (name: string) => void;
  /** called between pieces with the share that is read */
  readonly piece?: (share: number) => void;
}

const withoutPrefix = (name: string): string => name.slice(name.indexOf(":") + 1);

/** Walks through a part of XML in pieces. @throws Error where it is not well formed, with the place */
function scan(bytes: Uint8Array, { open, text, close, piece }: Handler): void {
  const parser = new SaxesParser();
  parser.on("error", (error) => {
    throw error;
  });
  if (open) parser.on("opentag", (tag: SaxesTagPlain) => open(withoutPrefix(tag.name), tag.attributes));
  if (text) {
    parser.on("text", text);
    parser.on("cdata", text);
  }
  if (close) parser.on("closetag", (tag: SaxesTagPlain) => close(withoutPrefix(tag.name)));
  const decoder = new TextDecoder();
  for (let from = 0; from < bytes.length; from += PIECE) {
    parser.write(decoder.decode(bytes.subarray(from, from + PIECE), { stream: true }));
    piece?.(Math.min(1, (from + PIECE) / bytes.length));
  }
  parser.close();
}

/** The texts that cells name by number; how they are spoken is not part of them. */
function sharedStrings(bytes: Uint8Array): string[] {
  const out: string[] = [];
  let [current, inText, spoken] = ["", false, false];
  scan(bytes, {
    open: (name) => {
      if (name === "si") current = "";
      else if (name === "rPh") spoken = true;
      inText = name === "t" && !spoken;
    },
    text: (text) => {
      if (inText && current.length < LONGEST_CELL) current += text;
    },
    close: (name) => {
      if (name === "si") out.push(shown(current));
      else if (name === "rPh") spoken = false;
      inText = false;
    },
  });
  return out;
}

/** A cell as the text a person sees, with nothing that could break a row. */
const shown = (text: string): string =>
  text
    .slice(0, LONGEST_CELL)
    .replace(/[\t\r\n]+/g, " ")
    .trim();

/** Column of a cell's name from 0: A1 is 0, AB7 is 27. */
function columnOf(ref: string | undefined): number | undefined {
  const letters = /^[A-Z]{1,3}/.exec(ref ?? "")?.[0];
  return letters ? [...letters].reduce((sum, letter) => sum * 26 + letter.charCodeAt(0) - 64, 0) - 1 : undefined;
}

/** The rows of one sheet, given to the reader of tables. */
class RowsRead {
  readonly reader = new SheetReader("\t");
  private line = 0;
  private cells: string[] = [];
  private at = 0;
  private kind: string | undefined;
  private value = "";
  private inValue = false;

  constructor(
    private readonly name: string,
    private readonly strings: readonly string[],
    private readonly piece: (share: number, rows: number) => void,
  ) {}

  /** @returns what ends the reading, if anything does */
  read(bytes: Uint8Array): ReadResult | undefined {
    let tooFar: number | undefined;
    scan(bytes, {
      open: (name, attributes) => {
        if (name === "row") {
          const number = Number(attributes.r ?? this.line + 1);
          if (number > MOST_SHEET_ROWS || !(number >= 1)) tooFar ??= number;
          if (tooFar === undefined) this.beginRow(number);
        } else if (name === "c") {
          this.at = columnOf(attributes.r) ?? this.at + 1;
          this.kind = attributes.t;
          this.value = "";
        }
        this.inValue = name === "v" || name === "t";
      },
      text: (text) => {
        if (this.inValue && this.value.length < LONGEST_CELL) this.value += text;
      },
      close: (name) => {
        this.inValue = false;
        if (name === "c" && this.at < MOST_CELLS) this.cells[this.at] = this.cellText();
        else if (name === "row" && tooFar === undefined) this.endRow();
      },
      piece: (share) => this.piece(share, this.reader.rows),
    });
    if (tooFar === undefined) return undefined;
    return refused(`The sheet "${this.name}" has a row of number ${tooFar}; ${MOST_SHEET_ROWS} is the most a sheet can have.`);
  }

  private beginRow(number: number): void {
    // Empty rows are not told of, but count.
    for (; this.line + 1 < number; this.line++) this.reader.push("\n");
    this.line++;
    this.cells = [];
    this.at = -1;
  }

  private endRow(): void {
    this.reader.push(`${Array.from(this.cells, (cell) => cell ?? "").join("\t")}\n`);
  }

  private cellText(): string {
    if (this.kind === "s") return this.strings[Number(this.value)] ?? "";
    if (this.kind === "b") return this.value === "1" ? "true" : "false";
    return shown(this.value);
  }
}
