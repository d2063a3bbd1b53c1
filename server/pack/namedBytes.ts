import { readExactColumns } from "../../core/formats/exactColumns.ts";
import { hashBytes } from "../hash.ts";
import type { Files } from "./manifest.ts";
import type { Stored } from "./stored.ts";

/** All that the inputs of a pack name by hash and its files hold, as it is stored: records lie in it as text, everything else as it is. */
export function namedBytes(files: Files, stored: Stored): Uint8Array[] {
  const named = new Set(JSON.stringify(stored).match(/\b[0-9a-f]{64}\b/g) ?? []);
  // Which run a record is of, its bytes tell.
  const widths = [...new Set(stored.histories.map((h) => h.columns.length))];
  const candidates = Object.entries(files).flatMap(([path, bytes]) => {
    if (/^(\d+-)?records\/.+\.csv$/.test(path)) return widths.flatMap((w) => recordBytes(bytes, w));
    return /^(blobs|files)\//.test(path) ? [bytes] : [];
  });
  return candidates.filter((b) => named.has(hashBytes(b)));
}

/** A record as it is stored; nothing where the text holds no record of so many columns. */
function recordBytes(text: Uint8Array, columns: number): Uint8Array[] {
  try {
    return [new Uint8Array(readExactColumns(new TextDecoder().decode(text), columns).buffer)];
  } catch {
    return [];
  }
}
