import { unzlibSync } from "fflate";
import { fromBase64 } from "./base64.ts";
import { unpackLz4 } from "./lz4.ts";
import { readAscii } from "./numbers.ts";
import { type ArrayPlace, GridFileError, type Scanned } from "./scan.ts";

/** bytes of one value, by the type the file names */
const SIZES: Readonly<Record<string, number>> = {
  Int8: 1,
  UInt8: 1,
  Int16: 2,
  UInt16: 2,
  Int32: 4,
  UInt32: 4,
  Int64: 8,
  UInt64: 8,
  Float32: 4,
  Float64: 8,
};

/** no way of packing that is read packs tighter than this */
const TIGHTEST = 1100;

/** largest array, bytes */
const MOST_BYTES = 4 * 1024 ** 3;

/** Reads values of a scanned file; what is packed is never unpacked beyond what the file says it has. */
export class ValueReader {
  private readonly bytes: Uint8Array;

  constructor(
    bytes: Uint8Array,
    private readonly file: Scanned,
  ) {
    // A list of bytes may come as one whose parts are no copies, as a server reads files: taken apart it would be the whole file.
    this.bytes = new Uint8Array(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }

  /** bytes of the file */
  get size(): number {
    return this.bytes.length;
  }

  /**
   * All values of an array.
   * @param most how many there may be
   * @throws {GridFileError} Damaged, cut off, or of a type that is none.
   */
  read(place: ArrayPlace, most: number): Float64Array {
    const size = SIZES[place.type];
    if (!size) throw new GridFileError(`The array ${place.name.slice(0, 60)} is of type "${place.type.slice(0, 40)}", which is not read.`, place.at);
    const values =
      place.format === "ascii" ? readAscii(this.bytes, ...place.text, most) : this.numbers(this.packed(place, most * size), place.type, size);
    if (values.length > most) throw tooMany(place, values.length, most);
    return values;
  }

  /**
   * All values of an array of counts or of places in a list.
   * @param most how many there may be
   * @param highest the highest value they may have
   * @throws {GridFileError} Damaged, cut off, of a type that is none, or a value is no whole number from 0 to the highest.
   */
  readPlaces(place: ArrayPlace, most: number, highest: number): Int32Array {
    const long = place.type === "Int64" || place.type === "UInt64";
    const short = SHORT[place.type];
    if (place.format === "ascii" || !(long || short) || this.file.bigEndian || !HERE_LITTLE) return wholeOf(this.read(place, most), place, highest);
    const raw = this.packed(place, most * SIZES[place.type]);
    const count = Math.floor(raw.length / SIZES[place.type]);
    if (count > most) throw tooMany(place, count, most);
    const out = new Int32Array(count);
    let odd = 0;
    inPieces(raw, count, SIZES[place.type], (bytes, at, from, n) => {
      odd |= long ? longPlaces(out, from, new Int32Array(bytes, at, 2 * n), highest) : shortPlaces(out, from, short(bytes, at, n), highest);
    });
    return odd ? wholeOf(this.read(place, most), place, highest) : out;
  }

  /**
   * The kinds of so many cells, a byte each.
   * @throws {GridFileError} as `readPlaces`
   */
  readKinds(place: ArrayPlace, most: number): Uint8Array {
    if (place.type !== "UInt8" || place.format === "ascii") return new Uint8Array(this.readPlaces(place, most, 255));
    const raw = this.packed(place, most);
    if (raw.length > most) throw tooMany(place, raw.length, most);
    return raw.slice();
  }

  /** The bytes of an array, unpacked. */
  private packed(place: ArrayPlace, mostBytes: number): Uint8Array {
    const { appendedAt, appendedBase64 } = this.file;
    if (mostBytes > MOST_BYTES) throw new GridFileError(`The array ${place.name.slice(0, 60)} is too large.`, place.at);
    if (place.format === "binary") return this.unpacked(fromBase64(this.bytes, ...place.text), place, mostBytes);
    if (appendedAt < 0) throw new GridFileError(`The values of ${place.name.slice(0, 60)} should be appended, and nothing is.`, place.at);
    const from = appendedAt + place.offset;
    if (!(Number.isInteger(place.offset) && place.offset >= 0 && from < this.bytes.length))
      throw new GridFileError(`The values of ${place.name.slice(0, 60)} lie outside the file: it was cut off.`, place.at);
    if (!appendedBase64) return this.unpacked(this.bytes.subarray(from), place, mostBytes);
    // Of appended text nobody says where an array ends: no packed form is longer than this.
    const longest = Math.ceil((mostBytes * 1.02 + 4096) / 3) * 4 + 64 * 1024;
    let to = from;
    const last = Math.min(this.bytes.length, from + longest);
    while (to < last && this.bytes[to] !== 60) to++;
    return this.unpacked(fromBase64(this.bytes, from, to), place, mostBytes);
  }

  /** Takes the lengths off the front, and unpacks what follows. */
  private unpacked(raw: Uint8Array, place: ArrayPlace, mostBytes: number): Uint8Array {
    const { headerBytes, compressor } = this.file;
    const name = place.name.slice(0, 60);
    const cut = () => new GridFileError(`The values of ${name} end too early: the file was cut off.`, place.at);
    const view = new DataView(raw.buffer, raw.byteOffset, raw.byteLength);
    const little = !this.file.bigEndian;
    const word = (k: number): number => {
      const at = k * headerBytes;
      if (at + headerBytes > raw.length) throw cut();
      return headerBytes === 4 ? view.getUint32(at, little) : Number(view.getBigUint64(at, little));
    };
    if (!compressor) {
      const size = word(0);
      if (headerBytes + size > raw.length) throw cut();
      return raw.subarray(headerBytes, headerBytes + size);
    }
    const [blocks, whole, last] = [word(0), word(1), word(2)];
    if (blocks === 0) return new Uint8Array();
    const total = last === 0 ? blocks * whole : (blocks - 1) * whole + last;
    if (!(blocks <= raw.length && total <= Math.min(mostBytes, TIGHTEST * raw.length)))
      throw new GridFileError(`The values of ${name} say they unpack to more than is due.`, place.at);
    const out = new Uint8Array(total);
    let at = (3 + blocks) * headerBytes;
    for (let k = 0; k < blocks; k++) {
      const size = word(3 + k);
      if (at + size > raw.length) throw cut();
      const due = k === blocks - 1 && last !== 0 ? last : whole;
      this.block(raw.subarray(at, at + size), out.subarray(k * whole, k * whole + due), place);
      at += size;
    }
    return out;
  }

  /** Unpacks a block to where it belongs. */
  private block(packed: Uint8Array, to: Uint8Array, place: ArrayPlace): void {
    try {
      const made = this.file.compressor === "lz4" ? unpackLz4(packed, to.length) : unzlibSync(packed, { out: to });
      if (made.length !== to.length) throw new GridFileError("A packed block has another length than it says.");
      if (made.buffer !== to.buffer) to.set(made);
    } catch (error) {
      throw new GridFileError(`The values of ${place.name.slice(0, 60)} cannot be unpacked: ${(error as Error).message}`, place.at);
    }
  }

  private numbers(raw: Uint8Array, type: string, size: number): Float64Array {
    const count = Math.floor(raw.length / size);
    const little = !this.file.bigEndian;
    if (little && HERE_LITTLE) {
      // Taken as what it is: value by value it would take ten times as long.
      if (type === "Float64") return new Float64Array(ownBytes(raw, count * size));
      const out = new Float64Array(count);
      const whole = WHOLE[type];
      inPieces(raw, count, size, (bytes, at, from, n) => {
        if (whole) out.set(whole(bytes, at, n), from);
        else longInto(out, from, new Int32Array(bytes, at, 2 * n), type === "UInt64");
      });
      return out;
    }
    const out = new Float64Array(count);
    const view = new DataView(raw.buffer, raw.byteOffset, raw.byteLength);
    const get = GETTERS[type](view, little);
    for (let i = 0; i < count; i++) out[i] = get(i * size);
    return out;
  }
}

/** The first bytes of an array in a buffer of their own: the one they came in where nothing else is in it. */
const ownBytes = (raw: Uint8Array, length: number): ArrayBuffer =>
  (raw.byteOffset === 0 && raw.byteLength === length && raw.buffer.byteLength === length ? raw : raw.slice(0, length)).buffer as ArrayBuffer;

const HERE_LITTLE = new Uint8Array(Uint16Array.of(1).buffer)[0] === 1;

/** values taken at a time: they stay in the fast memory of the processor */
const PIECE = 8192;

/**
 * Values one piece after another, each copied to where values of any type may lie, unless they lie so already.
 * @param use the bytes and where in them the piece begins, its first value, how many it has
 */
function inPieces(raw: Uint8Array, count: number, size: number, use: (bytes: ArrayBufferLike, at: number, from: number, n: number) => void): void {
  const lies = raw.byteOffset % size === 0;
  const piece = new Uint8Array(lies ? 0 : PIECE * size);
  for (let from = 0; from < count; from += PIECE) {
    const n = Math.min(PIECE, count - from);
    if (lies) {
      use(raw.buffer, raw.byteOffset + from * size, from, n);
      continue;
    }
    piece.set(raw.subarray(from * size, (from + n) * size));
    use(piece.buffer, 0, from, n);
  }
}

/** The first values of a piece, of each type, in this machine's order. */
const WHOLE: Readonly<Record<string, (bytes: ArrayBufferLike, at: number, n: number) => ArrayLike<number>>> = {
  Int8: (b, at, n) => new Int8Array(b, at, n),
  UInt8: (b, at, n) => new Uint8Array(b, at, n),
  Int16: (b, at, n) => new Int16Array(b, at, n),
  UInt16: (b, at, n) => new Uint16Array(b, at, n),
  Int32: (b, at, n) => new Int32Array(b, at, n),
  UInt32: (b, at, n) => new Uint32Array(b, at, n),
  Float32: (b, at, n) => new Float32Array(b, at, n),
};

/** types places mostly come in, but those of eight bytes */
const SHORT: Readonly<Record<string, (bytes: ArrayBufferLike, at: number, n: number) => Uint8Array | Int32Array>> = {
  UInt8: (b, at, n) => new Uint8Array(b, at, n),
  Int32: (b, at, n) => new Int32Array(b, at, n),
};

/** Takes places over. A sign anywhere, of a value or of what is left to the highest, leaves its mark; which value it was is asked only then. */
function shortPlaces(out: Int32Array, from: number, values: Uint8Array | Int32Array, highest: number): number {
  let marks = 0;
  for (let i = 0; i < values.length; i++) {
    const v = values[i];
    out[from + i] = v;
    marks |= v | (highest - v);
  }
  return marks < 0 ? 1 : 0;
}

/** The same of whole numbers of eight bytes, from their halves, the lesser first. */
function longPlaces(out: Int32Array, from: number, halves: Int32Array, highest: number): number {
  const n = halves.length >> 1;
  const taken = SCRATCH.length < n ? new Int32Array(n) : SCRATCH;
  let marks = 0;
  let higher = 0;
  let i = 0;
  // Four at a time into a list at hand takes two thirds of the time of one by one into the long list.
  for (; i + 3 < n; i += 4) {
    const a = halves[2 * i];
    const b = halves[2 * i + 2];
    const c = halves[2 * i + 4];
    const d = halves[2 * i + 6];
    taken[i] = a;
    taken[i + 1] = b;
    taken[i + 2] = c;
    taken[i + 3] = d;
    marks |= a | b | c | d | ((highest - a) | 0) | ((highest - b) | 0) | ((highest - c) | 0) | ((highest - d) | 0);
    higher |= halves[2 * i + 1] | halves[2 * i + 3] | halves[2 * i + 5] | halves[2 * i + 7];
  }
  for (; i < n; i++) {
    const v = halves[2 * i];
    taken[i] = v;
    marks |= v | ((highest - v) | 0);
    higher |= halves[2 * i + 1];
  }
  out.set(taken.subarray(0, n), from);
  return marks < 0 || higher !== 0 ? 1 : 0;
}

const SCRATCH = new Int32Array(PIECE);

function tooMany({ name, at }: ArrayPlace, found: number, most: number): GridFileError {
  return new GridFileError(`The array ${name.slice(0, 60)} has ${found} values where ${most} are due.`, at);
}

function wholeOf(values: Float64Array, { name, at }: ArrayPlace, highest: number): Int32Array {
  const out = new Int32Array(values.length);
  for (let i = 0; i < out.length; i++) {
    const v = values[i];
    out[i] = v;
    if (!(out[i] === v && v >= 0 && v <= highest))
      throw new GridFileError(`Value ${i} of the array ${name.slice(0, 60)} is ${v}; it is a whole number from 0 to ${highest}.`, at);
  }
  return out;
}

/** Whole numbers of eight bytes, from their halves, the lesser first. */
function longInto(out: Float64Array, from: number, halves: Int32Array, unsigned: boolean): void {
  for (let i = 0; 2 * i < halves.length; i++) {
    const high = unsigned ? halves[2 * i + 1] >>> 0 : halves[2 * i + 1];
    out[from + i] = high * 4_294_967_296 + (halves[2 * i] >>> 0);
  }
}

/** Whole numbers of eight bytes stand for counts and places: beyond 2^53 none of them makes sense. */
const GETTERS: Readonly<Record<string, (v: DataView, little: boolean) => (at: number) => number>> = {
  Int8: (v) => (at) => v.getInt8(at),
  UInt8: (v) => (at) => v.getUint8(at),
  Int16: (v, l) => (at) => v.getInt16(at, l),
  UInt16: (v, l) => (at) => v.getUint16(at, l),
  Int32: (v, l) => (at) => v.getInt32(at, l),
  UInt32: (v, l) => (at) => v.getUint32(at, l),
  Int64: (v, l) => (at) => Number(v.getBigInt64(at, l)),
  UInt64: (v, l) => (at) => Number(v.getBigUint64(at, l)),
  Float32: (v, l) => (at) => v.getFloat32(at, l),
  Float64: (v, l) => (at) => v.getFloat64(at, l),
};
