import type { Checkpoint } from "./simulation.ts";
import { fromPlain, toPlain } from "./wire.ts";

// A file of the state of a run: eight bytes that name the format, the length of the outline, the outline as JSON, and the arrays as they lie in
// memory, each at a multiple of eight. The arrays are not written out as text: that took seconds for a mesh of a quarter of a million cells.

const FORMAT = "TRSTATE1";
const HEAD = 12;

const KINDS = { f64: Float64Array, f32: Float32Array, i32: Int32Array, u8: Uint8Array } as const;
type Kind = keyof typeof KINDS;
type Numbers = InstanceType<(typeof KINDS)[Kind]>;

/** An array in the outline: where its bytes begin behind the outline, and how many numbers it holds. */
interface Placed {
  readonly $at: number;
  readonly kind: Kind;
  readonly count: number;
}

const kindOf = (value: unknown): Kind | undefined => (Object.keys(KINDS) as Kind[]).find((k) => value instanceof KINDS[k]);
const padded = (bytes: number) => Math.ceil(bytes / 8) * 8;

/** The state of a run as bytes. The same state gives the same bytes. */
export function packCheckpoint(state: Checkpoint): Uint8Array {
  const arrays: { at: number; values: Numbers }[] = [];
  let size = 0;
  const outline = (value: unknown): unknown => {
    const kind = kindOf(value);
    if (kind) {
      const values = value as Numbers;
      arrays.push({ at: size, values });
      const placed: Placed = { $at: size, kind, count: values.length };
      size += padded(values.byteLength);
      return placed;
    }
    if (Array.isArray(value)) return value.map(outline);
    if (value && typeof value === "object")
      return Object.fromEntries(Object.entries(value).flatMap(([k, v]) => (v === undefined ? [] : [[k, outline(v)]])));
    return toPlain(value);
  };
  const text = new TextEncoder().encode(JSON.stringify(outline(state)));
  const start = padded(HEAD + text.length);
  const bytes = new Uint8Array(start + size);
  bytes.set(new TextEncoder().encode(FORMAT));
  new DataView(bytes.buffer).setUint32(8, text.length, true);
  bytes.set(text, HEAD);
  for (const { at, values } of arrays) bytes.set(new Uint8Array(values.buffer, values.byteOffset, values.byteLength), start + at);
  return bytes;
}

const DAMAGED = "The state of the run is damaged.";

/** What cannot be read is damaged, whatever the reader calls it. */
function sound<T>(read: () => T): T {
  try {
    return read();
  } catch {
    throw new RangeError(DAMAGED);
  }
}

const isPlaced = (v: object): v is Placed => "$at" in v && "kind" in v && "count" in v;

/**
 * The state that {@link packCheckpoint} wrote, to the last bit. States of older versions, which are JSON, are read too.
 * @throws {RangeError} the bytes are no state, or not all of one
 */
export function unpackCheckpoint(bytes: Uint8Array): Checkpoint {
  const text = (from: number, to: number) => new TextDecoder().decode(bytes.subarray(from, to));
  if (text(0, 1) === "{") return sound(() => fromPlain(JSON.parse(text(0, bytes.length)))) as Checkpoint;
  if (text(0, FORMAT.length) !== FORMAT || bytes.length < HEAD) throw new RangeError("These bytes are no state of a run.");
  const length = new DataView(bytes.buffer, bytes.byteOffset).getUint32(8, true);
  const start = padded(HEAD + length);
  if (bytes.length < start) throw new RangeError("The state of the run is cut short.");
  const inside = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(inside);
    if (!value || typeof value !== "object") return value;
    if (!isPlaced(value)) return "$n" in value ? fromPlain(value) : Object.fromEntries(Object.entries(value).map(([k, v]) => [k, inside(v)]));
    const { $at, kind, count } = value;
    const Kinds = KINDS[kind];
    if (!Kinds || !(Number.isInteger($at) && $at >= 0 && Number.isInteger(count) && count >= 0)) throw new RangeError(DAMAGED);
    const end = start + $at + count * Kinds.BYTES_PER_ELEMENT;
    if (!(end <= bytes.length)) throw new RangeError("The state of the run is cut short.");
    // A copy of its own: the solver writes into it.
    return new Kinds(bytes.slice(start + $at, end).buffer);
  };
  return inside(sound(() => JSON.parse(text(HEAD, HEAD + length)))) as Checkpoint;
}
