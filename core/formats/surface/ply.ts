import type { Grid, GridArray } from "../../dataset/grid.ts";
import { GridFileError } from "../vtk/scan.ts";
import { gridOfPolygons } from "./triangles.ts";

const TYPES = {
  char: 1, uchar: 1, short: 2, ushort: 2, int: 4, uint: 4, float: 4, double: 8,
  int8: 1, uint8: 1, int16: 2, uint16: 2, int32: 4, uint32: 4, float32: 4, float64: 8,
} as const; // biome-ignore format: a table of sizes
type PlyType = keyof typeof TYPES;

interface Property {
  readonly name: string;
  readonly type: PlyType;
  /** type of the count that stands before a list */
  readonly count?: PlyType;
}

interface Element {
  readonly name: string;
  readonly count: number;
  readonly properties: Property[];
}

/** corners one face may have */
const MOST_CORNERS = 100_000;
const MOST_HEADER = 65_536;

/**
 * Polygons of a PLY file, text or binary of either byte order; further properties of corners and faces become arrays.
 * @throws {GridFileError} it is none, is cut off, or its faces name corners that are not there
 * @source Turk, The PLY Polygon File Format, 1994
 */
export function readPly(bytes: Uint8Array): Grid {
  const { format, elements, end } = readHeader(bytes);
  const source = format === "ascii" ? new TextValues(bytes, end) : new BinaryValues(bytes, end, format === "binary_little_endian");
  let points: Float64Array | undefined;
  let onPoints: GridArray[] = [];
  let faces: Faces | undefined;
  const notes: string[] = [];
  for (const element of elements) {
    if (element.name === "vertex") ({ points, onPoints } = readVertices(element, source));
    else if (element.name === "face") faces = readFaces(element, source);
    else {
      notes.push(`${element.count} of "${element.name.slice(0, 40)}" are neither corners nor faces and were left out.`);
      for (let k = 0; k < element.count; k++) for (const p of element.properties) source.skip(p);
    }
  }
  if (!points || !faces || faces.start.length < 2) throw new GridFileError("The file has no corners or no faces.");
  const most = points.length / 3;
  faces.corners.forEach((q, i) => {
    if (!(q >= 0 && q < most)) throw new GridFileError(`A face names corner ${q} (entry ${i + 1}); there are ${most}.`);
  });
  return gridOfPolygons(points, faces.start, faces.corners, { onPoints, onCells: faces.arrays }, notes);
}

function readHeader(bytes: Uint8Array): { format: string; elements: Element[]; end: number } {
  const text = new TextDecoder("latin1").decode(bytes.subarray(0, MOST_HEADER));
  if (!/^ply\r?\n/.test(text)) throw new GridFileError('This is no PLY file: it does not begin with the word "ply".', 0);
  const mark = /\nend_header\r?\n/.exec(text);
  if (!mark) throw new GridFileError("The head of the file has no end.", 0);
  let format = "";
  const elements: Element[] = [];
  for (const line of text.slice(0, mark.index).split(/\r?\n/).slice(1)) {
    const [word, ...rest] = line.trim().split(/\s+/);
    if (word === "format") format = rest[0] ?? "";
    else if (word === "element") {
      const count = Number(rest[1]);
      if (!Number.isSafeInteger(count) || count < 0 || count > 2 ** 31) throw new GridFileError(`"${line.slice(0, 60)}" does not say how many.`);
      elements.push({ name: rest[0], count, properties: [] });
    } else if (word === "property") {
      const element = elements[elements.length - 1];
      if (!element) throw new GridFileError(`"${line.slice(0, 60)}" stands before any element.`);
      element.properties.push(propertyOf(rest, line));
    }
  }
  if (!["ascii", "binary_little_endian", "binary_big_endian"].includes(format))
    throw new GridFileError(`The format "${format.slice(0, 40)}" is none of this kind of file.`);
  return { format, elements, end: mark.index + mark[0].length };
}

function propertyOf(words: readonly string[], line: string): Property {
  const list = words[0] === "list";
  const [count, type, name] = list ? [words[1], words[2], words[3]] : [undefined, words[0], words[1]];
  if (!name || !(type in TYPES) || (list && !(String(count) in TYPES)))
    throw new GridFileError(`"${line.slice(0, 60)}" is no property that can be read.`);
  return { name, type: type as PlyType, ...(list ? { count: count as PlyType } : {}) };
}

interface Values {
  value(type: PlyType): number;
  skip(p: Property): void;
  /** no more than so many values can follow */
  readonly most: number;
}

abstract class Skipping {
  abstract value(type: PlyType): number;

  skip({ type, count }: Property): void {
    const n = count ? this.value(count) : 1;
    for (let k = 0; k < n; k++) this.value(type);
  }
}

class BinaryValues extends Skipping implements Values {
  private readonly view: DataView;

  constructor(
    bytes: Uint8Array,
    private at: number,
    private readonly little: boolean,
  ) {
    super();
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }

  get most(): number {
    return this.view.byteLength - this.at;
  }

  value(type: PlyType): number {
    const { view, at, little } = this;
    this.at += TYPES[type];
    if (this.at > view.byteLength) throw new GridFileError("The file ends before its last face: it is cut off.", at);
    switch (type) {
      case "char":
      case "int8":
        return view.getInt8(at);
      case "uchar":
      case "uint8":
        return view.getUint8(at);
      case "short":
      case "int16":
        return view.getInt16(at, little);
      case "ushort":
      case "uint16":
        return view.getUint16(at, little);
      case "int":
      case "int32":
        return view.getInt32(at, little);
      case "uint":
      case "uint32":
        return view.getUint32(at, little);
      case "float":
      case "float32":
        return view.getFloat32(at, little);
      case "double":
      case "float64":
        return view.getFloat64(at, little);
      default:
        return type satisfies never;
    }
  }
}

class TextValues extends Skipping implements Values {
  private readonly decoder = new TextDecoder("latin1");

  constructor(
    private readonly bytes: Uint8Array,
    private at: number,
  ) {
    super();
  }

  get most(): number {
    return this.bytes.length - this.at;
  }

  value(): number {
    const { bytes } = this;
    while (this.at < bytes.length && bytes[this.at] <= 32) this.at++;
    const from = this.at;
    while (this.at < bytes.length && bytes[this.at] > 32) this.at++;
    if (this.at === from) throw new GridFileError("The file ends before its last face: it is cut off.", from);
    const word = this.decoder.decode(bytes.subarray(from, Math.min(this.at, from + 60)));
    const v = Number(word);
    if (Number.isNaN(v) && !/^[+-]?nan$/i.test(word)) throw new GridFileError(`"${word}" is not a number.`, from);
    return v;
  }
}

/** Too many for what is left of the file are refused before there is room made for them. */
function enough({ count, name, properties }: Element, source: Values): void {
  if (count * Math.max(1, properties.length) > source.most)
    throw new GridFileError(`The file says it has ${count} of "${name.slice(0, 40)}" and is too short for them: it is cut off.`);
}

function readVertices(element: Element, source: Values): { points: Float64Array; onPoints: GridArray[] } {
  enough(element, source);
  const { count, properties } = element;
  if (!["x", "y", "z"].every((d) => properties.some((p) => p.name === d && !p.count))) throw new GridFileError("The corners have no x, y and z.");
  const points = new Float64Array(3 * count);
  const arrays = new Map(properties.filter((p) => !p.count && !"xyz".includes(p.name)).map((p) => [p.name, new Float64Array(count)]));
  for (let k = 0; k < count; k++)
    for (const p of properties) {
      if (p.count) {
        source.skip(p);
        continue;
      }
      const v = source.value(p.type);
      const axis = p.name.length === 1 ? "xyz".indexOf(p.name) : -1;
      if (axis < 0) (arrays.get(p.name) as Float64Array)[k] = v;
      else if (Number.isFinite(v)) points[3 * k + axis] = v;
      else throw new GridFileError(`Corner ${k + 1} has a ${p.name} that is no number.`);
    }
  return { points, onPoints: [...arrays].map(([name, values]) => ({ name, components: 1, values })) };
}

interface Faces {
  readonly start: Int32Array;
  readonly corners: Int32Array;
  readonly arrays: GridArray[];
}

function readFaces(element: Element, source: Values): Faces {
  enough(element, source);
  const { count, properties } = element;
  const list = properties.find((p) => p.count && /^vertex_(index|indices)$/.test(p.name));
  if (!list?.count) throw new GridFileError("The faces do not say which corners they have.");
  const start = new Int32Array(count + 1);
  const corners: number[] = [];
  const arrays = new Map(properties.filter((p) => !p.count).map((p) => [p.name, new Float64Array(count)]));
  for (let k = 0; k < count; k++) {
    for (const p of properties) {
      if (p === list) {
        const n = source.value(list.count);
        if (!(n >= 0 && n <= MOST_CORNERS)) throw new GridFileError(`Face ${k + 1} says it has ${n} corners.`);
        for (let c = 0; c < n; c++) corners.push(source.value(list.type));
      } else if (p.count) source.skip(p);
      else (arrays.get(p.name) as Float64Array)[k] = source.value(p.type);
    }
    start[k + 1] = corners.length;
  }
  return { start, corners: Int32Array.from(corners), arrays: [...arrays].map(([name, values]) => ({ name, components: 1, values })) };
}
