import { type UnzipFileInfo, unzipSync } from "fflate";
import type { z } from "zod";
import { ReportDocument } from "../../core/formats/reportDocument.ts";
import { UseCaseError } from "../usecases/failure.ts";
import { type Files, MANIFEST } from "./manifest.ts";
import { PackedLine } from "./packedLine.ts";
import { INPUTS, TIME_LINE } from "./packFiles.ts";
import { Stored } from "./stored.ts";

/** largest pack, and largest sum of what it unpacks to, bytes */
export const MOST_PACK = 512 * 1024 * 1024;
const MOST_UNPACKED = 1024 * 1024 * 1024;
const MOST_FILES = 20_000;
/** deflate packs no tighter than this */
const MOST_RATIO = 1032;

const refused = (sentence: string) => new UseCaseError("invalid", sentence);

/** Files of a zip, refused before anything is unpacked where it would be too much. @throws {UseCaseError} it is no pack, or too large */
export function unpacked(bytes: Uint8Array): Files {
  if (bytes.byteLength > MOST_PACK) throw refused(`A pack may have ${MOST_PACK / 1024 / 1024} MB at most.`);
  let [sum, count] = [0, 0];
  const within = ({ name, size, originalSize }: UnzipFileInfo): boolean => {
    sum += originalSize;
    count++;
    if (originalSize > 64 + MOST_RATIO * size) throw refused(`${name.slice(0, 80)} says it unpacks to more than it can hold: the file is damaged.`);
    if (sum > MOST_UNPACKED || count > MOST_FILES)
      throw refused(`Unpacked it has more than ${MOST_UNPACKED / 1024 / 1024} MB or ${MOST_FILES} files; that is no pack of one report.`);
    return !name.endsWith("/");
  };
  try {
    return unzipSync(bytes, { filter: within });
  } catch (error) {
    if (error instanceof UseCaseError) throw error;
    throw refused(`This is no zip file, or it is damaged: ${error instanceof Error ? error.message : String(error)}.`);
  }
}

export interface Pack {
  readonly files: Files;
  readonly stored: Stored;
  readonly document: ReportDocument;
  readonly line: PackedLine;
}

/** The parts of a pack by their shapes. @throws {UseCaseError} naming the file that is missing or of another shape */
export function readPack(files: Files): Pack {
  if (!files[INPUTS] || !files["report.json"] || !files[MANIFEST])
    throw refused(`This is no evidence pack: it has no ${[INPUTS, "report.json", MANIFEST].filter((p) => !files[p]).join(", no ")}.`);
  return {
    files,
    stored: shaped(files, INPUTS, Stored),
    document: shaped(files, "report.json", ReportDocument),
    line: files[TIME_LINE] ? shaped(files, TIME_LINE, PackedLine) : [],
  };
}

function shaped<T extends z.ZodType>(files: Files, path: string, shape: T): z.output<T> {
  let read: unknown;
  try {
    read = JSON.parse(new TextDecoder("utf-8", { fatal: true }).decode(files[path]));
  } catch (error) {
    throw refused(`${path} cannot be read: ${(error as Error).message.slice(0, 200)}.`);
  }
  const found = shape.safeParse(read);
  if (found.success) return found.data;
  const [issue] = found.error.issues;
  throw refused(`${path} is not as a pack has it: ${issue.path.join(".") || "the whole of it"}: ${issue.message}.`);
}
