import { promisify } from "node:util";
import { gzip } from "node:zlib";
import { bytesToDoubles } from "../blobs/blobStore.ts";
import type { Store } from "../db/store.ts";
import { desk } from "../desk/desk.ts";
import { type FieldSource, inFieldOrder } from "../desk/fields.ts";
import { findRun, listFields } from "../repositories/runs.ts";
import { UseCaseError } from "./failure.ts";

/** Where the fields of a finished bench run are. */
export async function fieldSource(opened: Store, runId: string): Promise<FieldSource> {
  const run = await findRun(opened.db, runId);
  const rows = await listFields(opened.db, runId);
  if (!run?.settings.problemId || rows.length === 0) throw new UseCaseError("not-found", "This run has no fields.");
  return { settings: run.settings, rows };
}

/** Names and units of the stored fields, velocity and pressure first. */
export async function fieldList(opened: Store, runId: string): Promise<{ name: string; unit: string }[]> {
  const rows = await listFields(opened.db, runId);
  return inFieldOrder(rows.map((r) => r.name)).map((name) => ({ name, unit: rows.find((r) => r.name === name)?.unit ?? "" }));
}

/** One stored field, little-endian doubles. */
export async function rawField(opened: Store, runId: string, name: string): Promise<Uint8Array> {
  const row = (await listFields(opened.db, runId)).find((f) => f.name === name);
  if (!row) throw new UseCaseError("not-found", "This run has no such field.");
  return opened.blobs.get(row.blob);
}

const packed = promisify(gzip);

/** One stored field as it is drawn: single precision in a gzip. The page unpacks it: the header that would let it happen by itself is lost on the way. */
export async function drawnField(opened: Store, runId: string, name: string): Promise<Uint8Array> {
  const values = Float32Array.from(bytesToDoubles(await rawField(opened, runId, name)));
  return packed(new Uint8Array(values.buffer), { level: 1 });
}

/** The mesh a run's fields lie on, packed as it was kept; runs older than that have none. */
export async function rawMesh(opened: Store, runId: string): Promise<Uint8Array> {
  const kept = (await listFields(opened.db, runId))[0]?.mesh;
  if (!kept) throw new UseCaseError("not-found", "No mesh was kept with the fields of this run.");
  return opened.blobs.get(kept);
}

/** All fields of a run on their mesh as one open file. */
export async function fieldsFile(opened: Store, runId: string, kind: "vtu" | "csv", signal?: AbortSignal): Promise<Uint8Array> {
  const source = await fieldSource(opened, runId);
  return (await desk().ask("fieldFile", { blobs: opened.blobs.folder, source, kind }, { signal })).bytes;
}
