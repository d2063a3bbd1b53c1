import { readFileSync } from "node:fs";
import path from "node:path";
import { unzlibSync } from "fflate";
import { readVtkGrid } from "../core/formats/vtk/readGrid.ts";
import { scanVtk } from "../core/formats/vtk/scan.ts";
import { fastest } from "./cpu.ts";

/** CPU seconds in which the files of one folder are read, and in which the blocks of the packed one are unpacked and nothing else: as JSON. */
const [folder] = process.argv.slice(2);
const TIMES = 9;
const bytesOf = (kind: string): Uint8Array => Uint8Array.from(readFileSync(path.join(folder, `${kind}.vtu`)));

/** Packed blocks of every array of a file, each with the length it unpacks to. */
function blocksOf(bytes: Uint8Array): { readonly packed: Uint8Array; readonly length: number }[] {
  const { pieces, appendedAt, headerBytes } = scanVtk(bytes);
  return Object.values(pieces[0].sections).flatMap((arrays) =>
    arrays.flatMap(({ offset }) => {
      const view = new DataView(bytes.buffer, bytes.byteOffset + appendedAt + offset);
      const word = (k: number): number => (headerBytes === 4 ? view.getUint32(4 * k, true) : Number(view.getBigUint64(8 * k, true)));
      const [count, whole, last] = [word(0), word(1), word(2)];
      let at = appendedAt + offset + (3 + count) * headerBytes;
      return Array.from({ length: count }, (_, k) => {
        const packed = bytes.subarray(at, at + word(3 + k));
        at += word(3 + k);
        return { packed, length: k === count - 1 && last ? last : whole };
      });
    }),
  );
}

const zlib = bytesOf("zlib");
const blocks = blocksOf(zlib);
const seconds = {
  "read raw": fastest(TIMES, readOf("raw")),
  "read zlib": fastest(TIMES, () => void readVtkGrid(zlib)),
  "unpack alone": fastest(TIMES, () => {
    for (const { packed, length } of blocks) unzlibSync(packed, { out: new Uint8Array(length) });
  }),
  "read ascii": fastest(TIMES, readOf("ascii")),
};
process.stdout.write(JSON.stringify(seconds));

function readOf(kind: string): () => void {
  const bytes = bytesOf(kind);
  return () => void readVtkGrid(bytes);
}
