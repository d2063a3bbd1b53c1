import { GridFileError } from "./scan.ts";

const VALUES = new Int8Array(256).fill(-1);
"ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/".split("").forEach((c, k) => {
  VALUES[c.charCodeAt(0)] = k;
});
const PAD = 61;

/**
 * Bytes that stand as base64 from one place of a file to another. Several texts may follow one another, each with its own padding; white space counts
 * for nothing.
 * @throws {GridFileError} naming the byte that is no sign of base64
 */
export function fromBase64(bytes: Uint8Array, from: number, to: number): Uint8Array {
  const out = new Uint8Array(Math.ceil(((to - from) * 3) / 4) + 3);
  let [n, held, bits, pads] = [0, 0, 0, 0];
  for (let i = from; i < to; i++) {
    const c = bytes[i];
    if (c <= 32) continue;
    if (c === PAD) {
      pads++;
      if (bits % 8 && pads * 2 >= bits % 8) [held, bits] = [0, 0];
      continue;
    }
    const value = VALUES[c];
    if (value < 0) throw new GridFileError("What should be base64 has a sign that is none.", i);
    pads = 0;
    held = ((held << 6) | value) & 0xffffff;
    bits += 6;
    if (bits >= 8) {
      bits -= 8;
      out[n++] = (held >> bits) & 255;
    }
  }
  return out.subarray(0, n);
}
