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
  constructor(
    private readonly bytes: Uint8Array,
    private readonly file: Scanned,
  ) {}

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
    if (values.length > most)
      throw new GridFileError(`The array ${place.name.slice(0, 60)} has ${values.length} values where ${most} are due.`, place.at);
    return values;
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
      out.set(this.block(raw.subarray(at, at + size), due, place), k * whole);
      at += size;
    }
    return out;
  }

  private block(packed: Uint8Array, due: number, place: ArrayPlace): Uint8Array {
    try {
      const made = this.file.compressor === "lz4" ? unpackLz4(packed, due) : unzlibSync(packed, { out: new Uint8Array(due) });
      if (made.length !== due) throw new GridFileError("A packed block has another length than it says.");
      return made;
    } catch (error) {
      throw new GridFileError(`The values of ${place.name.slice(0, 60)} cannot be unpacked: ${(error as Error).message}`, place.at);
    }
  }

  private numbers(raw: Uint8Array, type: string, size: number): Float64Array {
    const count = Math.floor(raw.length / size);
    const little = !this.file.bigEndian;
    const out = new Float64Array(count);
    if (little && HERE_LITTLE) {
      // Copied to where it is aligned, and taken as what it is: value by value it would take ten times as long.
      const { buffer } = raw.slice(0, count * size);
      const whole = WHOLE[type];
      if (whole) out.set(whole(buffer as ArrayBuffer));
      else longInto(out, new Int32Array(buffer as ArrayBuffer), type === "UInt64");
      return out;
    }
    const view = new DataView(raw.buffer, raw.byteOffset, raw.byteLength);
    const get = GETTERS[type](view, little);
    for (let i = 0; i < count; i++) out[i] = get(i * size);
    return out;
  }
}

const HERE_LITTLE = new Uint8Array(Uint16Array.of(1).buffer)[0] === 1;

/** Arrays of each type over bytes of this machine's order. */
const WHOLE: Readonly<Record<string, (b: ArrayBuffer) => ArrayLike<number>>> = {
  Int8: (b) => new Int8Array(b),
  UInt8: (b) => new Uint8Array(b),
  Int16: (b) => new Int16Array(b),
  UInt16: (b) => new Uint16Array(b),
  Int32: (b) => new Int32Array(b),
  UInt32: (b) => new Uint32Array(b),
  Float32: (b) => new Float32Array(b),
  Float64: (b) => new Float64Array(b),
};

/** Whole numbers of eight bytes, from their halves, the lesser first. */
function longInto(out: Float64Array, halves: Int32Array, unsigned: boolean): void {
  for (let i = 0; i < out.length; i++) {
    const high = unsigned ? halves[2 * i + 1] >>> 0 : halves[2 * i + 1];
    out[i] = high * 4_294_967_296 + (halves[2 * i] >>> 0);
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
