import { strToU8, type Zippable, zipSync } from "fflate";
import { assessmentSchema } from "../../core/assessment/stored.ts";
import type { ReportDocument } from "../../core/formats/reportDocument.ts";
import { hashBytes } from "../hash.ts";
import { json, reportFiles } from "../report/archive.ts";
import type { ReportMaterial } from "../report/document.ts";
import { CRATE, crateOf } from "./crate.ts";
import { evidenceFiles } from "./evidenceFiles.ts";
import { type Files, MANIFEST, manifestOf } from "./manifest.ts";
import { lineSchema, type PackedLine } from "./packedLine.ts";
import { type Stored, storedSchema } from "./stored.ts";

export const INPUTS = "inputs.json";
export const TIME_LINE = "time-line.json";

/** What a pack is made of. */
export interface PackOf {
  readonly material: ReportMaterial;
  readonly stored: Stored;
  readonly document: ReportDocument;
  readonly pdf: Uint8Array;
  readonly line: PackedLine;
}

/** The document with the sums of what it rests on: whoever changes that has to change the report, too. */
export const resting = (d: ReportDocument, stored: Stored, line: PackedLine): ReportDocument => ({
  ...d,
  rests: { inputs: hashBytes(json(stored)), timeLine: hashBytes(json(line)) },
});

/** All files of an evidence pack: the same stored evidence gives the same bytes on any machine. */
export async function packFiles({ material, stored, document, pdf, line }: PackOf): Promise<Files> {
  const evidence = await evidenceFiles(material, stored);
  const files: Record<string, Uint8Array> = {
    ...reportFiles(document, pdf),
    [INPUTS]: json(stored),
    "inputs.schema.json": json(storedSchema()),
    ...evidence.files,
    "assessment.schema.json": json(assessmentSchema()),
    [TIME_LINE]: json(line),
    "time-line.schema.json": json(lineSchema()),
    "README.txt": strToU8(readme(document, evidence.leftOut)),
  };
  files[CRATE] = json(crateOf(document, files, { version: stored.bench, method: stored.method }));
  files[MANIFEST] = strToU8(manifestOf(files));
  return files;
}

const readme = (
  d: ReportDocument,
  leftOut: readonly string[],
): string => `Evidence of report ${d.number} on "${d.title}", issued ${d.issuedAt} by ${d.issuedBy}.

report.pdf, report.html and report.json are the report. inputs.json holds everything it was made from; records, profiles, fields and files
hold the data. ro-crate-metadata.json says what each file is.

Are these the files that were packed?    sha256sum -c ${MANIFEST}
Does every figure follow from them?      sh bin/tin-ruler assess <this pack>

The second makes the whole report again from inputs.json and the data, on any machine, and lists each figure that comes out otherwise.
${leftOut.length ? `\nLeft out:\n${leftOut.map((s) => `- ${s}\n`).join("")}` : ""}`;

/** kinds of files that are packed already */
const DENSE = /\.(png|pdf|xlsx|zip|gz|jpe?g)$/i;

/**
 * Files as one zip, in their order.
 * @param at the date its entries bear
 */
export function zipped(files: Files, at: Date): Uint8Array {
  const entries: Zippable = Object.fromEntries(Object.entries(files).map(([path, bytes]) => [path, [bytes, { level: DENSE.test(path) ? 0 : 6 }]]));
  // A zip keeps the time of a clock on the wall: that of UTC, wherever it is packed.
  const [y, m, d, h, min, s] = [at.getUTCFullYear(), at.getUTCMonth(), at.getUTCDate(), at.getUTCHours(), at.getUTCMinutes(), at.getUTCSeconds()];
  return zipSync(entries, { mtime: new Date(y, m, d, h, min, s) });
}
