import { GridFileError } from "./scan.ts";

/**
 * One block of LZ4.
 * @param size bytes it unpacks to
 * @throws {GridFileError} It unpacks to another number of bytes, or points outside itself.
 * @source LZ4 Block Format, github.com/lz4/lz4, doc/lz4_Block_format.md
 */
export function unpackLz4(block: Uint8Array, size: number): Uint8Array {
  const out = new Uint8Array(size);
  let [i, n] = [0, 0];
  const wrong = () => new GridFileError("A packed block is damaged.");
  const length = (first: number): number => {
    let sum = first;
    if (first === 15) {
      let more: number;
      do {
        if (i >= block.length) throw wrong();
        more = block[i++];
        sum += more;
      } while (more === 255);
    }
    return sum;
  };
  while (i < block.length) {
    const token = block[i++];
    const literals = length(token >> 4);
    if (i + literals > block.length || n + literals > size) throw wrong();
    out.set(block.subarray(i, i + literals), n);
    i += literals;
    n += literals;
    if (i >= block.length) break;
    if (i + 2 > block.length) throw wrong();
    const back = block[i] | (block[i + 1] << 8);
    i += 2;
    const copied = length(token & 15) + 4;
    if (back === 0 || back > n || n + copied > size) throw wrong();
    // A copy may reach into what it writes itself.
    for (let k = 0; k < copied; k++, n++) out[n] = out[n - back];
  }
  if (n !== size) throw wrong();
  return out;
}
