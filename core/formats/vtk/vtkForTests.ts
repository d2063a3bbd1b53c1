import { zlibSync } from "fflate";

const BYTES: Readonly<Record<string, number>> = { Int32: 4, Int64: 8, UInt8: 1, Float32: 4, Float64: 8 };

export interface Style {
  readonly format: "ascii" | "binary" | "appended" | "appended-base64";
  readonly packed?: boolean;
  readonly headerBytes?: 4 | 8;
  readonly bigEndian?: boolean;
  /** bytes of a packed block */
  readonly block?: number;
}

type Values = readonly number[] | Float64Array;

function bytesOf(values: Values, type: string, little: boolean): Uint8Array {
  const out = new DataView(new ArrayBuffer(values.length * BYTES[type]));
  values.forEach((v: number, i: number) => {
    const at = i * BYTES[type];
    if (type === "Int32") out.setInt32(at, v, little);
    else if (type === "Int64") out.setBigInt64(at, BigInt(v), little);
    else if (type === "UInt8") out.setUint8(at, v);
    else if (type === "Float32") out.setFloat32(at, v, little);
    else out.setFloat64(at, v, little);
  });
  return new Uint8Array(out.buffer);
}

/** An array's bytes with their lengths before them, as the documented format has them: the lengths, and what follows. */
function framed(values: Values, type: string, s: Style): [Uint8Array, Uint8Array] {
  const raw = bytesOf(values, type, !s.bigEndian);
  const words = (list: number[]) => bytesOf(list, s.headerBytes === 8 ? "Int64" : "Int32", !s.bigEndian);
  if (!s.packed) return [words([raw.length]), raw];
  const size = s.block ?? 64;
  const blocks = Array.from({ length: Math.ceil(raw.length / size) }, (_, k) => raw.subarray(k * size, (k + 1) * size));
  const packed = blocks.map((b) => zlibSync(b));
  const last = raw.length % size;
  return [words([blocks.length, size, last, ...packed.map((b) => b.length)]), Buffer.concat(packed)];
}

const base64 = (b: Uint8Array) => Buffer.from(b).toString("base64");

/** Puts a file together as a writer of the format would, array by array. */
export class FileMaker {
  private appended: Uint8Array[] = [];
  private at = 0;

  constructor(private readonly style: Style) {}

  array(name: string, type: string, values: Values, components = 1): string {
    const { format } = this.style;
    const head = `<DataArray type="${type}" Name="${name}" NumberOfComponents="${components}" format="${format.replace("-base64", "")}"`;
    if (format === "ascii") return `${head}>\n  ${[...values].join(" ")}\n</DataArray>`;
    const [lengths, rest] = framed(values, type, this.style);
    if (format === "binary") return `${head}>\n${base64(lengths)}${base64(rest)}\n</DataArray>`;
    const piece = format === "appended" ? Buffer.concat([lengths, rest]) : Buffer.from(base64(lengths) + base64(rest));
    const offset = this.at;
    this.appended.push(piece);
    this.at += piece.length;
    return `${head} offset="${offset}"/>`;
  }

  file(kind: string, body: string, attributes = ""): Uint8Array {
    const s = this.style;
    const head = `<?xml version="1.0"?>\n<!-- a <comment> -->\n<VTKFile type="${kind}" version="1.0" byte_order="${s.bigEndian ? "BigEndian" : "LittleEndian"}" header_type="${s.headerBytes === 8 ? "UInt64" : "UInt32"}"${s.packed ? ' compressor="vtkZLibDataCompressor"' : ""}>\n<${kind} ${attributes}>\n${body}\n</${kind}>\n`;
    const parts: Uint8Array[] = [Buffer.from(head)];
    if (this.appended.length) {
      parts.push(Buffer.from(`<AppendedData encoding="${s.format === "appended" ? "raw" : "base64"}">\n_`), ...this.appended);
      parts.push(Buffer.from("\n</AppendedData>\n"));
    }
    parts.push(Buffer.from("</VTKFile>\n"));
    return Uint8Array.from(Buffer.concat(parts));
  }
}

export const STYLES: readonly (readonly [string, Style])[] = [
  ["text", { format: "ascii" }],
  ["base64", { format: "binary" }],
  ["base64, long lengths", { format: "binary", headerBytes: 8 }],
  ["base64, packed", { format: "binary", packed: true }],
  ["appended", { format: "appended" }],
  ["appended, the other byte order", { format: "appended", bigEndian: true }],
  ["appended, packed, long lengths", { format: "appended", packed: true, headerBytes: 8 }],
  ["appended as base64, packed", { format: "appended-base64", packed: true }],
  ["appended as base64", { format: "appended-base64" }],
];

/** A cell of every linear kind, a quadratic one, and a polyhedron, with values on both. */
export function everyKind(style: Style): Uint8Array {
  const m = new FileMaker(style);
  const points = Array.from({ length: 30 }, (_, k) => [k % 3, Math.floor(k / 3) % 5, k / 7]).flat();
  const cells: (readonly [number, number[]])[] = [
    [5, [0, 1, 2]],
    [7, [0, 1, 2, 3, 4]],
    [8, [0, 1, 3, 4]],
    [9, [0, 1, 4, 3]],
    [10, [0, 1, 3, 9]],
    [11, [0, 1, 3, 4, 9, 10, 12, 13]],
    [12, [0, 1, 4, 3, 9, 10, 13, 12]],
    [13, [0, 1, 3, 9, 10, 12]],
    [14, [0, 1, 4, 3, 9]],
    [22, [0, 1, 2, 3, 4, 5]],
    [42, [0, 1, 3, 9]],
  ];
  const faces = [4, 3, 0, 1, 3, 3, 0, 1, 9, 3, 1, 3, 9, 3, 0, 3, 9];
  let end = 0;
  const ends = cells.map(([, c]) => (end += c.length));
  const body = `<Piece NumberOfPoints="30" NumberOfCells="${cells.length}">
<PointData>${m.array(
    "p &amp; q",
    "Float32",
    points.slice(0, 30).map((v) => Math.fround(v / 4)),
  )}</PointData>
<CellData Scalars="u">${m.array(
    "u",
    "Float64",
    cells.flatMap((_, k) => [Math.sin(k), 1 / (k + 3), (1 - k) * 1e-300]),
    3,
  )}</CellData>
<Points>${m.array("Points", "Float64", points, 3)}</Points>
<Cells>${m.array(
    "connectivity",
    "Int32",
    cells.flatMap(([, c]) => c),
  )}${m.array("offsets", "Int64", ends)}${m.array(
    "types",
    "UInt8",
    cells.map(([k]) => k),
  )}${m.array("faces", "Int32", faces)}${m.array(
    "faceoffsets",
    "Int32",
    cells.map(([k]) => (k === 42 ? faces.length : -1)),
  )}</Cells>
</Piece>`;
  return m.file("UnstructuredGrid", body);
}
