import { promisify } from "node:util";
import { gzip } from "node:zlib";
import { bytesToDoubles } from "../blobs/blobStore.ts";
import type { Store } from "../db/store.ts";
import { desk } from "../desk/desk.ts";
import { type FieldSource, inFieldOrder } from "../desk/fields.ts";
import { findRun, listFields, listFieldsOf, listMoments } from "../repositories/runs.ts";
import { openCase } from "./evidence.ts";
import { UseCaseError } from "./failure.ts";

/** Where the fields of a finished run are: of another code's with the mesh they came with. */
export async function fieldSource(opened: Store, runId: string): Promise<FieldSource> {
  const run = await findRun(opened.db, runId);
  const rows = await listFields(opened.db, runId);
  if (!run || rows.length === 0 || !(run.settings.problemId || rows[0].mesh)) throw new UseCaseError("not-found", "This run has no fields.");
  return { settings: run.settings, rows };
}

/** Names and units of the stored fields, velocity and pressure first. */
export async function fieldList(opened: Store, runId: string): Promise<{ name: string; unit: string }[]> {
  const rows = await listFields(opened.db, runId);
  return inFieldOrder(rows.map((r) => r.name)).map((name) => ({ name, unit: rows.find((r) => r.name === name)?.unit ?? "" }));
}

/** Runs of a case that left fields, in the order they were made, with the names of these. */
export async function runsWithFieldsOf(opened: Store, caseId: string) {
  const { runs, meshes } = await openCase(opened, caseId);
  const rows = await listFieldsOf(
    opened.db,
    runs.map((r) => r.id),
  );
  return runs.flatMap((r) => {
    const own = rows.filter((f) => f.runId === r.id);
    const spacing = meshes.find((m) => m.id === r.meshId)?.spacing ?? 0;
    return own.length && own[0].mesh ? [{ runId: r.id, label: r.label, code: r.code, spacing, fields: inFieldOrder(own.map((f) => f.name)) }] : [];
  });
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

/** Moments of a run whose fields were kept, with the names of these. */
export async function momentList(opened: Store, runId: string): Promise<{ at: number; timeS: number; fields: { name: string; unit: string }[] }[]> {
  const kept = await listMoments(opened.db, runId);
  return kept.map(({ sequence, timeS, fields }) => ({
    at: sequence,
    timeS,
    fields: inFieldOrder(fields.map((f) => f.name)).map((name) => ({ name, unit: fields.find((f) => f.name === name)?.unit ?? "" })),
  }));
}

/** A picture of a field at every moment, on one scale, in a zip. */
export async function momentsFile(opened: Store, runId: string, key: string, signal?: AbortSignal): Promise<Uint8Array> {
  const moments = await listMoments(opened.db, runId);
  if (!moments.length) throw new UseCaseError("not-found", "No moments of this run were kept.");
  const source = await fieldSource(opened, runId);
  return (await desk().ask("momentPictures", { blobs: opened.blobs.folder, source, moments, key }, { signal })).bytes;
}

/** A field of a moment as it is drawn: single precision in a gzip. */
export async function drawnMoment(opened: Store, runId: string, at: number, name: string): Promise<Uint8Array> {
  const found = (await listMoments(opened.db, runId)).find((m) => m.sequence === at)?.fields.find((f) => f.name === name);
  if (!found) throw new UseCaseError("not-found", "This run has no such field at that moment.");
  return packed(await opened.blobs.get(found.blob), { level: 1 });
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
