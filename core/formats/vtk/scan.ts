/** A file that cannot be read, with the place. */
export class GridFileError extends Error {
  constructor(
    sentence: string,
    /** byte it was seen at */
    readonly at?: number,
  ) {
    super(at === undefined ? sentence : `${sentence} (byte ${at})`);
    this.name = "GridFileError";
  }
}

/** An element's name and attributes. */
export interface Tag {
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
  /** first byte after its closing bracket */
  readonly end: number;
  readonly closes: boolean;
  readonly empty: boolean;
}

const LESS = 60;
const GREATER = 62;
/** an element whose brackets are further apart than this is none */
const LONGEST_TAG = 65_536;

const latin = (bytes: Uint8Array, from: number, to: number): string => {
  let out = "";
  for (let i = from; i < to; i++) out += String.fromCharCode(bytes[i]);
  return out;
};

const ENTITIES: Readonly<Record<string, string>> = { amp: "&", lt: "<", gt: ">", quot: '"', apos: "'" };
const unescaped = (text: string): string =>
  text.replace(/&(#x?[0-9a-fA-F]{1,6}|[a-z]{2,4});/g, (whole, code: string) => {
    if (code[0] !== "#") return ENTITIES[code] ?? whole;
    const point = code[1] === "x" ? Number.parseInt(code.slice(2), 16) : Number(code.slice(1));
    return point <= 0x10ffff ? String.fromCodePoint(point) : whole;
  });

const decoder = new TextDecoder("utf-8");

/** The next element from a byte on; undefined where there is none. Comments and declarations are passed over. */
export function nextTag(bytes: Uint8Array, from: number): Tag | undefined {
  for (let at = bytes.indexOf(LESS, from); at >= 0; at = bytes.indexOf(LESS, at)) {
    const next = bytes[at + 1];
    if (next === 33 && latin(bytes, at, at + 4) === "<!--") {
      at = afterComment(bytes, at + 4);
      continue;
    }
    if (next === 63 || next === 33) {
      at = bytes.indexOf(GREATER, at);
      if (at < 0) return undefined;
      continue;
    }
    const end = bytes.indexOf(GREATER, at);
    if (end < 0 || end - at > LONGEST_TAG) throw new GridFileError("An element of the file has no end.", at);
    const text = decoder.decode(bytes.subarray(at + 1, end));
    const [, slash, name, rest] = text.match(/^(\/?)([\w:.-]+)([\s\S]*)$/) ?? [];
    if (name === undefined) throw new GridFileError("An element of the file has no name.", at);
    const attributes: Record<string, string> = Object.create(null);
    for (const [, key, a, b] of rest.matchAll(/([\w:.-]+)\s*=\s*(?:"([^"]*)"|'([^']*)')/g)) attributes[key] = unescaped(a ?? b);
    return { name, attributes, end: end + 1, closes: slash === "/", empty: /\/\s*$/.test(rest) };
  }
  return undefined;
}

const DASH = 45;

function afterComment(bytes: Uint8Array, from: number): number {
  for (let at = bytes.indexOf(GREATER, from); at >= 0; at = bytes.indexOf(GREATER, at + 1))
    if (at >= from + 2 && bytes[at - 1] === DASH && bytes[at - 2] === DASH) return at + 1;
  throw new GridFileError("A comment of the file has no end.", from);
}

/** An array of the file: what it is, and where its values stand. */
export interface ArrayPlace {
  readonly name: string;
  readonly type: string;
  readonly components: number;
  readonly format: "ascii" | "binary" | "appended";
  /** from and to, of text inside the element */
  readonly text: readonly [number, number];
  /** from the beginning of the appended data */
  readonly offset: number;
  readonly at: number;
}

/** A part of the file with its arrays by the section they stand in. */
export interface Piece {
  readonly attributes: Readonly<Record<string, string>>;
  readonly sections: Readonly<Record<string, readonly ArrayPlace[]>>;
}

export interface Scanned {
  /** kind of dataset, as the file names it */
  readonly kind: string;
  /** attributes of the dataset's own element */
  readonly attributes: Readonly<Record<string, string>>;
  readonly bigEndian: boolean;
  readonly headerBytes: 4 | 8;
  readonly compressor: "" | "zlib" | "lz4";
  readonly pieces: readonly Piece[];
  /** first byte after the underscore of the appended data; -1 where there is none */
  readonly appendedAt: number;
  readonly appendedBase64: boolean;
}

const COMPRESSORS: Readonly<Record<string, Scanned["compressor"]>> = {
  "": "",
  vtkZLibDataCompressor: "zlib",
  vtkLZ4DataCompressor: "lz4",
};

const SECTIONS = new Set(["Points", "Cells", "PointData", "CellData", "Verts", "Lines", "Strips", "Polys", "Coordinates"]);
const KINDS = new Set(["UnstructuredGrid", "PolyData", "StructuredGrid", "RectilinearGrid", "ImageData"]);

/** how many arrays one file may have */
const MOST_ARRAYS = 10_000;

/**
 * Finds every array of a file in VTK's XML format without reading one: a walk over its brackets, no tree.
 * @throws {GridFileError} It is none, or no whole one.
 * @source VTK File Formats, section "XML File Formats"
 */
export function scanVtk(bytes: Uint8Array): Scanned {
  const file = nextTag(bytes, 0);
  if (file?.name !== "VTKFile") throw new GridFileError("This is no file of VTK's XML format: it does not begin with VTKFile.", 0);
  const { type = "", byte_order: order = "LittleEndian", header_type: header = "UInt32", compressor = "" } = file.attributes;
  if (!KINDS.has(type))
    throw new GridFileError(
      type.startsWith("P") || type === "Collection"
        ? `The file is of kind ${type.slice(0, 40)}, which only names other files: choose those.`
        : `Files of kind "${type.slice(0, 40)}" are not read.`,
      0,
    );
  if (!(compressor in COMPRESSORS)) throw new GridFileError(`The values are packed by ${compressor.slice(0, 60)}, which is not read.`, 0);
  if (header !== "UInt32" && header !== "UInt64") throw new GridFileError(`Lengths of type ${header.slice(0, 40)} are not read.`, 0);
  const walk = new Walk(bytes, type);
  walk.run(file.end);
  return {
    kind: type,
    attributes: walk.attributes,
    bigEndian: order === "BigEndian",
    headerBytes: header === "UInt64" ? 8 : 4,
    compressor: COMPRESSORS[compressor],
    pieces: walk.pieces,
    appendedAt: walk.appendedAt,
    appendedBase64: walk.appendedBase64,
  };
}

/** What has been seen of a file so far. */
class Walk {
  attributes: Readonly<Record<string, string>> = {};
  readonly pieces: Piece[] = [];
  appendedAt = -1;
  appendedBase64 = false;
  private section = "";
  private sections: Record<string, ArrayPlace[]> | undefined;
  private count = 0;

  constructor(
    private readonly bytes: Uint8Array,
    private readonly type: string,
  ) {}

  run(from: number): void {
    for (let tag = nextTag(this.bytes, from); tag; tag = nextTag(this.bytes, tag.end)) {
      if (tag.closes) {
        if (tag.name === "VTKFile") return;
        if (tag.name === this.section) this.section = "";
        continue;
      }
      if (tag.name === "AppendedData") {
        // What follows is no text any more.
        this.appended(tag);
        return;
      }
      this.take(tag);
    }
    throw new GridFileError("The file ends before it is closed: it was cut off.", this.bytes.length);
  }

  private take(tag: Tag): void {
    if (tag.name === this.type) this.attributes = tag.attributes;
    else if (tag.name === "Piece") {
      this.sections = {};
      this.pieces.push({ attributes: tag.attributes, sections: this.sections });
    } else if (SECTIONS.has(tag.name)) this.section = tag.empty ? "" : tag.name;
    else if (tag.name === "DataArray") this.array(tag);
  }

  private array(tag: Tag): void {
    if (!this.sections || !this.section) return;
    if (++this.count > MOST_ARRAYS) throw new GridFileError(`The file has more than ${MOST_ARRAYS} arrays.`, tag.end);
    const { Name: name = "", type = "", NumberOfComponents: components = "1", format = "ascii", offset = "-1" } = tag.attributes;
    if (format !== "ascii" && format !== "binary" && format !== "appended")
      throw new GridFileError(`The array ${name.slice(0, 60)} is of format "${format.slice(0, 40)}", which is not read.`, tag.end);
    const count = Number(components || "1");
    if (!(Number.isInteger(count) && count >= 1 && count <= 1000))
      throw new GridFileError(`The array ${name.slice(0, 60)} says it has ${components.slice(0, 20)} components.`, tag.end);
    const to = tag.empty ? tag.end : this.bytes.indexOf(LESS, tag.end);
    if (to < 0) throw new GridFileError(`The array ${name.slice(0, 60)} has no end: the file was cut off.`, tag.end);
    const list = this.sections[this.section] ?? [];
    this.sections[this.section] = list;
    list.push({ name, type, components: count, format, text: [tag.end, to], offset: Number(offset), at: tag.end });
  }

  private appended(tag: Tag): void {
    let at = tag.end;
    while (at < this.bytes.length && this.bytes[at] <= 32) at++;
    if (this.bytes[at] !== 95) throw new GridFileError("The appended data do not begin with an underscore.", at);
    this.appendedAt = at + 1;
    this.appendedBase64 = tag.attributes.encoding === "base64";
  }
}
