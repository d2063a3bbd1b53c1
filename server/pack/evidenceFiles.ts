import { strToU8 } from "fflate";
import { writeCsv } from "../../core/formats/csv.ts";
import { readExactColumns, writeExactColumns } from "../../core/formats/exactColumns.ts";
import { columnNames, type TabularColumn, tabularMetadata } from "../../core/formats/tabularMetadata.ts";
import type { QuantitySpec } from "../../core/records/quantity.ts";
import { BlobStore, bytesToDoubles } from "../blobs/blobStore.ts";
import { fieldFile } from "../desk/fields.ts";
import { readWorked } from "../desk/records.ts";
import { columnTitle } from "../desk/recordText.ts";
import { hashBytes } from "../hash.ts";
import { json } from "../report/archive.ts";
import type { CaseMaterial, ReportMaterial } from "../report/document.ts";
import type { Files } from "./manifest.ts";
import type { Stored } from "./stored.ts";

/** a file larger than this stays where it is: a pack is to be sent about */
const LARGEST = 64 * 1024 * 1024;

/** the copy of the finest fields for whatever reads grids is text, which is long: larger ones go as they are stored alone */
const MOST_CELLS = 300_000;

interface Into {
  readonly files: Record<string, Uint8Array>;
  /** what is not there, in sentences */
  readonly leftOut: string[];
  readonly blobs: string;
  readonly stored: Stored;
  /** before the names of folders, where there are several cases */
  readonly folder: string;
}

/** Where the assessment of one of several cases lies. */
export const assessmentPath = (index: number, of: number): string => `${of > 1 ? `${index + 1}-` : ""}assessment.json`;

/**
 * Data as any reader of JSON takes it: arrays of numbers as lists, and null for a figure that is none. Its keys stand in their own order: an assessment that
 * was kept in the database has them in another one than one just worked out, and both are to give the same file.
 */
function openData(value: unknown): unknown {
  if (typeof value === "number") return Number.isFinite(value) ? value : null;
  if (ArrayBuffer.isView(value)) return Array.from(value as Float64Array, (v) => (Number.isFinite(v) ? v : null));
  if (Array.isArray(value)) return value.map(openData);
  if (!value || typeof value !== "object") return value;
  const entries = Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1));
  return Object.fromEntries(entries.map(([k, v]) => [k, openData(v)]));
}

/** A path of plain signs under a folder, no two alike. */
function placeIn(files: Files, folder: string, name: string, ending: string): string {
  const plain = name.replace(/[^\w.-]+/g, "-").replace(/^[.-]+/, "") || "unnamed";
  for (let k = 1; ; k++) {
    const path = `${folder}/${plain}${k > 1 ? `-${k}` : ""}${ending}`;
    if (!files[path]) return path;
  }
}

/**
 * What a report rests on, in open files: inputs, assessments, records and curves of every run, fields, and the files that were brought in.
 * @returns the files, and in sentences what was left out
 */
export async function evidenceFiles(material: ReportMaterial, stored: Stored): Promise<{ files: Files; leftOut: string[] }> {
  const files: Record<string, Uint8Array> = {};
  const leftOut: string[] = [];
  for (const [k, of] of material.cases.entries()) {
    const into: Into = { files, leftOut, blobs: material.blobs, stored, folder: material.cases.length > 1 ? `${k + 1}-` : "" };
    files[assessmentPath(k, material.cases.length)] = json(openData(of.book.assessment));
    await addRecords(into, of);
    addCurves(into, of);
    await addFields(into, of);
  }
  await addBroughtIn({ files, leftOut, blobs: material.blobs, stored });
  return { files, leftOut };
}

/** Records as they are stored, to the last bit, with what was worked out of them in the columns after. */
async function addRecords({ files, leftOut, blobs, stored, folder }: Into, { book, records }: CaseMaterial): Promise<void> {
  const store = new BlobStore(blobs);
  for (const run of [...book.runs, ...book.swept]) {
    const row = stored.histories.find((h) => h.runId === run.id);
    if (!row?.rows) continue;
    const bytes = await store.get(row.blob).catch((error: Error) => error);
    if (bytes instanceof Error) {
      leftOut.push(`The record of ${run.label} could not be read. ${bytes.message}`);
      continue;
    }
    const stored64 = bytesToDoubles(bytes);
    const { columns } = row;
    const values = columns.map((_, i) => stored64.subarray(i * row.rows, (i + 1) * row.rows));
    const worked = records[run.id] ? await readWorked(records[run.id]) : undefined;
    const derived = Object.entries(worked?.quantities ?? {}).filter(([key]) => !columns.some((c) => c.role === "quantity" && c.key === key));
    const titles = [
      ...columns.map((c) => columnTitle(c.role, c.key, book.evidence.quantities)),
      ...derived.map(([key]) => columnTitle("quantity", key, book.evidence.quantities)),
    ];
    const text = writeExactColumns(titles, [...values, ...derived.map(([, v]) => v)]);
    const path = placeIn(files, `${folder}records`, run.label, ".csv");
    files[path] = strToU8(text);
    files[`${path}-metadata.json`] = json(describedRecord(path, run.label, titles, columns.length, book.evidence.quantities));
    // A record of a kind that text cannot hold goes as it is, too.
    const data = readExactColumns(text, columns.length);
    if (hashBytes(new Uint8Array(data.buffer)) !== row.blob) files[`blobs/${row.blob}`] = bytes;
  }
}

function describedRecord(path: string, label: string, titles: readonly string[], stored: number, quantities: readonly QuantitySpec[]): object {
  const names = columnNames(titles);
  const columns = titles.map((title, k): TabularColumn => {
    const unit = title.match(/ \(([^()]*)\)$/)?.[1] ?? "1";
    const formula = quantities.some((q) => title.startsWith(`${q.name} (`));
    return { name: names[k], title, unit, ...(k >= stored && formula ? { description: "worked out of the columns before it by formula" } : {}) };
  });
  return tabularMetadata(path.split("/").at(-1) ?? path, `Record of ${label}`, columns);
}

/** Curves of every run. */
function addCurves({ files, folder }: Into, { book }: CaseMaterial): void {
  for (const run of book.runs)
    for (const p of run.result?.profiles ?? []) {
      const titles = [`${p.abscissa.name} (${p.abscissa.unit})`, `${p.value.name} (${p.value.unit})`];
      const path = placeIn(files, `${folder}profiles`, `${run.label} ${p.key}`, ".csv");
      files[path] = strToU8(
        writeCsv(
          titles,
          p.abscissa.values.map((x, i) => [x, p.value.values[i]]),
        ),
      );
      const names = columnNames(titles);
      const units = [p.abscissa.unit, p.value.unit];
      const columns = titles.map((title, k) => ({ name: names[k], title, unit: units[k] || "1" }));
      files[`${path}-metadata.json`] = json(tabularMetadata(path.split("/").at(-1) ?? path, `${p.value.name} of ${run.label}`, columns));
    }
}

/** Fields the report shows: as they are stored, and the finest for whatever reads grids. */
async function addFields({ files, blobs, stored, folder }: Into, { book, fields }: CaseMaterial): Promise<void> {
  const store = new BlobStore(blobs);
  for (const run of book.runs) {
    const rows = stored.fields.filter((f) => f.runId === run.id);
    if (!rows.length) continue;
    for (const hash of new Set(rows.flatMap((f) => [f.blob, ...(f.mesh ? [f.mesh] : [])]))) files[`blobs/${hash}`] ??= await store.get(hash);
    if (run.id === book.assessment.ladder[0] && fields && rows[0].count <= MOST_CELLS)
      files[placeIn(files, `${folder}fields`, run.label, ".vtu")] = (await fieldFile({ blobs, source: fields, kind: "vtu" })).bytes;
  }
}

/** Files that runs and yardsticks were made from, under the names they came with. */
async function addBroughtIn({ files, leftOut, blobs, stored }: Omit<Into, "folder">): Promise<void> {
  const store = new BlobStore(blobs);
  const seen = new Set<string>();
  for (const { name, hash } of broughtIn(stored)) {
    if (seen.has(hash)) continue;
    seen.add(hash);
    const bytes = await store.get(hash).catch(() => undefined);
    if (!bytes) leftOut.push(`${name} was not there any more.`);
    else if (bytes.byteLength > LARGEST) leftOut.push(`${name} (${Math.round(bytes.byteLength / 1024 / 1024)} MB) was left out for its size.`);
    else files[placeIn(files, "files", name, "")] = bytes;
  }
}

/** Files that runs and yardsticks were made from, by the name they came with and their hash. */
export function broughtIn({ runs, yardsticks }: Stored): { name: string; hash: string }[] {
  return [
    ...runs.flatMap((r) => r.settings.files ?? []),
    ...yardsticks.flatMap(({ data }) => {
      const { provenance, figure } = data;
      return [...(provenance?.file ? [provenance.file] : []), ...(figure ? [{ name: `figure of ${data.name}`, hash: figure.hash }] : [])];
    }),
  ];
}
