import type { Checkpoint, CheckpointValue } from "./simulation.ts";

type Plain = null | boolean | number | string | Plain[] | { [key: string]: Plain };

const CHUNK = 0x8000;

function toBase64(bytes: Uint8Array): string {
  const parts: string[] = [];
  for (let i = 0; i < bytes.length; i += CHUNK) parts.push(String.fromCharCode(...bytes.subarray(i, i + CHUNK)));
  return btoa(parts.join(""));
}

function fromBase64(text: string): Uint8Array {
  const raw = atob(text);
  const bytes = new Uint8Array(raw.length);
  for (let i = 0; i < raw.length; i++) bytes[i] = raw.charCodeAt(i);
  return bytes;
}

/** Plain JSON that keeps every bit: arrays of numbers as base64, numbers JSON cannot hold by name. */
export function toPlain(value: unknown): Plain {
  if (value instanceof Float64Array) return { $f64: toBase64(new Uint8Array(value.buffer, value.byteOffset, value.byteLength)) };
  if (value instanceof Float32Array) return { $f32: toBase64(new Uint8Array(value.buffer, value.byteOffset, value.byteLength)) };
  if (value instanceof Int32Array) return { $i32: toBase64(new Uint8Array(value.buffer, value.byteOffset, value.byteLength)) };
  if (value instanceof Uint8Array) return { $u8: toBase64(value) };
  if (typeof value === "number") return Number.isFinite(value) && !Object.is(value, -0) ? value : { $n: Object.is(value, -0) ? "-0" : String(value) };
  if (Array.isArray(value)) return value.map(toPlain);
  if (value && typeof value === "object")
    return Object.fromEntries(Object.entries(value).flatMap(([k, v]) => (v === undefined ? [] : [[k, toPlain(v)]])));
  return value as Plain;
}

/** @throws {RangeError} An array whose bytes do not make whole numbers. */
export function fromPlain(value: unknown): CheckpointValue {
  if (Array.isArray(value)) return value.map(fromPlain);
  if (!value || typeof value !== "object") return value as CheckpointValue;
  const o = value as Record<string, unknown>;
  if (typeof o.$f64 === "string") return new Float64Array(whole(fromBase64(o.$f64), 8));
  if (typeof o.$f32 === "string") return new Float32Array(whole(fromBase64(o.$f32), 4));
  if (typeof o.$i32 === "string") return new Int32Array(whole(fromBase64(o.$i32), 4));
  if (typeof o.$u8 === "string") return fromBase64(o.$u8);
  if (typeof o.$n === "string") return Number(o.$n);
  return Object.fromEntries(Object.entries(o).map(([k, v]) => [k, fromPlain(v)])) as Checkpoint;
}

function whole(bytes: Uint8Array, size: number): ArrayBuffer {
  if (bytes.length % size) throw new RangeError("An array arrived cut short.");
  return bytes.buffer as ArrayBuffer;
}
