import { createReadStream } from "node:fs";
import { open, readFile as readWhole, stat } from "node:fs/promises";
import { readRecordJson } from "../../core/formats/recordJson.ts";
import { SheetReader } from "../../core/formats/sheet.ts";
import { type ReadOptions, type ReadResult, refused } from "./result.ts";
import { readWorkbook } from "./workbook.ts";

const PIECE = 1 << 20;
const MOST_JSON = 256 * 1024 * 1024;

/** Reads a record from a file: delimited text of any length in pieces, JSON of the published schema, or a sheet of a workbook (.xlsx). */
export async function readRecordFile(path: string, name: string, options: ReadOptions = {}): Promise<ReadResult> {
  const { size } = await stat(path);
  const head = await firstBytes(path);
  // A workbook is a zip archive; its first bytes say so whatever it is called.
  if (head[0] === 0x50 && head[1] === 0x4b) return readWorkbook(path, size, options);
  if (/\.xlsx$/i.test(name))
    return refused("This is no workbook: it does not begin as one. It may be damaged, or an older format; save it as .xlsx or CSV.");
  const first = new TextDecoder().decode(head).trimStart();
  if (/\.json$/i.test(name) || first.startsWith('{"format"')) {
    if (size > MOST_JSON) return refused(`A JSON record may have ${MOST_JSON / 1024 / 1024} MB at most; a longer one is read as CSV.`);
    return readRecordJson(await readWhole(path, "utf8"));
  }
  const reader = new SheetReader();
  const decoder = new TextDecoder();
  let read = 0;
  for await (const chunk of createReadStream(path, { highWaterMark: PIECE })) {
    read += (chunk as Buffer).length;
    reader.push(decoder.decode(chunk as Buffer, { stream: true }));
    options.progress?.({ read, total: size, rows: reader.rows });
    if (options.stopped?.()) return { ...refused("Stopped."), stopped: true };
    if (reader.failed) break;
  }
  reader.push(decoder.decode());
  return reader.end();
}

async function firstBytes(path: string): Promise<Uint8Array> {
  const file = await open(path);
  try {
    const bytes = new Uint8Array(64);
    const { bytesRead } = await file.read(bytes, 0, 64, 0);
    return bytes.subarray(0, bytesRead);
  } finally {
    await file.close();
  }
}
