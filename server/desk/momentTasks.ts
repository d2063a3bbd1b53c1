import { zipSync } from "fflate";
import { fieldRange } from "../../core/drawing/fieldRaster.ts";
import { writeCsv } from "../../core/formats/csv.ts";
import { derivedFields } from "../../core/monitors/derived.ts";
import { fluidOfRun } from "../../core/monitors/fieldNames.ts";
import type { CellField } from "../../core/solver/simulation.ts";
import { BlobStore } from "../blobs/blobStore.ts";
import { cellPicture } from "../report/fieldChapter.ts";
import { UseCaseError } from "../usecases/failure.ts";
import { type FieldSource, readFields } from "./fields.ts";
import type { Tell } from "./told.ts";

/** Fields that were kept at a time, by the blobs they lie in. */
export interface StoredMoment {
  readonly sequence: number;
  readonly timeS: number;
  readonly fields: readonly { readonly name: string; readonly unit: string; readonly blob: string }[];
}

export interface MomentPictures {
  readonly blobs: string;
  readonly source: FieldSource;
  readonly moments: readonly StoredMoment[];
  /** which field, derived ones too */
  readonly key: string;
}

async function fieldsAt(store: BlobStore, { fields }: StoredMoment): Promise<CellField[]> {
  const read = fields.map(async ({ name, unit, blob }): Promise<CellField> => {
    const bytes = await store.get(blob);
    return { name, unit, values: Float64Array.from(new Float32Array(bytes.slice().buffer)) };
  });
  return Promise.all(read);
}

/**
 * A picture of a field at every moment, all on one scale, in a zip, with a table of the times.
 * @throws {UseCaseError} there is no such field
 */
export async function momentPictures({ blobs, source, moments, key }: MomentPictures, tell: Tell): Promise<{ readonly bytes: Uint8Array }> {
  const store = new BlobStore(blobs);
  const { mesh } = await readFields(blobs, source);
  const fluid = fluidOfRun(source.settings.parameters);
  const shown: { readonly timeS: number; readonly sequence: number; readonly values: Float64Array; readonly name: string; readonly unit: string }[] =
    [];
  for (const [k, m] of moments.entries()) {
    tell({ done: k, of: 2 * moments.length, what: "Reading the moments" });
    const found = derivedFields(mesh, await fieldsAt(store, m), fluid).find((f) => f.key === key);
    if (!found) throw new UseCaseError("not-found", `The run has no field "${key.slice(0, 60)}".`);
    shown.push({ timeS: m.timeS, sequence: m.sequence, values: found.values, name: found.name, unit: found.unit });
  }
  const ends = shown.map((s) => fieldRange(s.values));
  const range = [Math.min(...ends.map((e) => e[0])), Math.max(...ends.map((e) => e[1]))] as const;
  const files: Record<string, Uint8Array> = {};
  const nameOf = (sequence: number) => `${key.replace(/[^\w-]+/g, "-")}-${String(sequence).padStart(4, "0")}.png`;
  for (const [k, s] of shown.entries()) {
    tell({ done: moments.length + k, of: 2 * moments.length, what: "Drawing them" });
    files[nameOf(s.sequence)] = Buffer.from(cellPicture(mesh, s.values, range), "base64");
  }
  const { name, unit } = shown[0];
  const rows = shown.map((s, k) => [nameOf(s.sequence), s.timeS, ends[k][0], ends[k][1], range[0], range[1]]);
  const head = ["picture", "time, s", `least ${name}, ${unit}`, `greatest ${name}, ${unit}`, "colours from", "colours to"];
  files["times.csv"] = new TextEncoder().encode(writeCsv(head, rows));
  // Pictures are packed as they are.
  return { bytes: zipSync(files, { level: 0 }) };
}
