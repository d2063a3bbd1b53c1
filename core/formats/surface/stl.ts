import type { Grid } from "../../dataset/grid.ts";
import { faceCount, forTriangles, type Surface } from "../../dataset/surface.ts";
import { at, cross, minus, size, times } from "../../dataset/vector.ts";
import { GridFileError } from "../vtk/scan.ts";
import { gridOfTriangles } from "./triangles.ts";

const HEADER = 80;
const RECORD = 50;

/**
 * Triangles of an STL file, binary or text. Stored normals are not used: the order of the corners tells the normal.
 * @throws {GridFileError} it is none, is cut off, or holds what is no number
 * @source StereoLithography interface specification, 3D Systems, 1989
 */
export function readStl(bytes: Uint8Array): Grid {
  if (bytes.length < HEADER + 4) return readText(bytes);
  const count = new DataView(bytes.buffer, bytes.byteOffset).getUint32(HEADER, true);
  // A binary file may begin with "solid" too: its length tells.
  if (bytes.length === HEADER + 4 + RECORD * count) return readBinary(bytes, count);
  if (beginsAsText(bytes)) return readText(bytes);
  throw new GridFileError(
    `The file says it has ${count} triangles, which are ${HEADER + 4 + RECORD * count} bytes, and has ${bytes.length}: it is cut off, or no STL file.`,
    HEADER,
  );
}

const beginsAsText = (bytes: Uint8Array): boolean => /^\s*solid/i.test(new TextDecoder().decode(bytes.subarray(0, HEADER)));

function readBinary(bytes: Uint8Array, count: number): Grid {
  if (!count) throw new GridFileError("The file has no triangle.", HEADER);
  const view = new DataView(bytes.buffer, bytes.byteOffset);
  const out = new Float64Array(9 * count);
  let marked = 0;
  for (let t = 0; t < count; t++) {
    const from = HEADER + 4 + RECORD * t;
    for (let k = 0; k < 9; k++) {
      const v = view.getFloat32(from + 12 + 4 * k, true);
      if (!Number.isFinite(v)) throw new GridFileError(`Triangle ${t + 1} has a corner that is no number.`, from + 12 + 4 * k);
      out[9 * t + k] = v;
    }
    if (view.getUint16(from + 48, true)) marked++;
  }
  const notes = marked ? [`${marked} triangles carry two more bytes, which have no agreed meaning and were left out.`] : [];
  return gridOfTriangles(out, notes);
}

/** letters of one word that are looked at: a longer one is no word of this format */
const LONGEST_WORD = 400;

function readText(bytes: Uint8Array): Grid {
  if (!beginsAsText(bytes)) throw new GridFileError("This is no STL file: it begins neither as a text one nor has it a number of triangles.", 0);
  const values: number[] = [];
  const parts: { name: string; from: number; to: number }[] = [];
  const words = new Words(bytes);
  let name = "";
  for (let word = words.next(); word !== undefined; word = words.next()) {
    if (word === "solid") {
      name = words.restOfLine();
      parts.push({ name, from: values.length / 9, to: values.length / 9 });
    } else if (word === "facet") {
      words.expect("normal");
      for (let k = 0; k < 3; k++) words.number();
      words.expect("outer");
      words.expect("loop");
      for (let k = 0; k < 3; k++) {
        words.expect("vertex");
        for (let d = 0; d < 3; d++) values.push(words.number());
      }
      words.expect("endloop");
      words.expect("endfacet");
    } else if (word === "endsolid") {
      words.restOfLine();
      parts[parts.length - 1].to = values.length / 9;
    } else throw new GridFileError(`"${word.slice(0, 40)}" stands where a facet should begin.`, words.from);
  }
  if (!values.length) throw new GridFileError("The file has no triangle.");
  const last = parts[parts.length - 1];
  const cut = last.to < values.length / 9;
  if (cut) throw new GridFileError("The file ends before its last solid does: it is cut off.", bytes.length);
  const named = parts.filter((p) => p.to > p.from);
  const several = named.length > 1 && new Set(named.map((p) => p.name)).size === named.length;
  return gridOfTriangles(Float64Array.from(values), [], several ? named : undefined);
}

/** Words of a text, one after the other, with where they began. */
class Words {
  from = 0;
  private at = 0;
  private readonly decoder = new TextDecoder();

  constructor(private readonly bytes: Uint8Array) {}

  next(): string | undefined {
    const { bytes } = this;
    while (this.at < bytes.length && bytes[this.at] <= 32) this.at++;
    if (this.at >= bytes.length) return undefined;
    this.from = this.at;
    while (this.at < bytes.length && bytes[this.at] > 32) this.at++;
    return this.decoder.decode(bytes.subarray(this.from, Math.min(this.at, this.from + LONGEST_WORD))).toLowerCase();
  }

  restOfLine(): string {
    const begun = this.at;
    while (this.at < this.bytes.length && this.bytes[this.at] !== 10) this.at++;
    return this.decoder.decode(this.bytes.subarray(begun, Math.min(this.at, begun + LONGEST_WORD))).trim();
  }

  expect(wanted: string): void {
    const word = this.next();
    if (word !== wanted) throw new GridFileError(`"${wanted}" should stand here, not "${(word ?? "the end of the file").slice(0, 40)}".`, this.from);
  }

  number(): number {
    const word = this.next() ?? "";
    const value = Number(word);
    if (word === "" || !Number.isFinite(value)) throw new GridFileError(`"${word.slice(0, 40)}" is not a number.`, this.from);
    return value;
  }
}

/** A surface as a binary STL file, polygons as triangles about their first corner. Coordinates are written in single precision. */
export function writeStl(surface: Surface, title: string): Uint8Array {
  const corners: number[] = [];
  for (let f = 0; f < faceCount(surface); f++) forTriangles(surface, f, (a, b, c) => corners.push(a, b, c));
  const count = corners.length / 3;
  const out = new Uint8Array(HEADER + 4 + RECORD * count);
  // A text file begins with "solid"; a binary one must not.
  new TextEncoder().encodeInto(`surface: ${title}`.slice(0, 60), out);
  const view = new DataView(out.buffer);
  view.setUint32(HEADER, count, true);
  const place = (k: number) => at(surface.points, surface.corners[k]);
  for (let t = 0; t < count; t++) {
    const from = HEADER + 4 + RECORD * t;
    const [p, q, r] = [0, 1, 2].map((k) => place(corners[3 * t + k]));
    const normal = cross(minus(q, p), minus(r, p));
    const length = size(normal);
    [...times(normal, length > 0 ? 1 / length : 0), ...p, ...q, ...r].forEach((v, k) => {
      view.setFloat32(from + 4 * k, v, true);
    });
  }
  return out;
}
