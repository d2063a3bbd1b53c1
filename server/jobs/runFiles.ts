import type { KeptMoment, StartResult } from "../../core/problems/build/benchJob.ts";
import type { CellField } from "../../core/solver/simulation.ts";
import { BlobError, bytesToDoubles, doublesToBytes } from "../blobs/blobStore.ts";
import type { Store } from "../db/store.ts";
import { namedBlobs } from "../repositories/blobs.ts";
import { addMoment, type Left, updateLeased } from "../repositories/leases.ts";
import { findRun, listHistoryParts, type RunRow } from "../repositories/runs.ts";

/** The state a run left behind, where it left one. A state that is gone or damaged is none: the run begins anew and comes to the same result. */
export async function readCheckpoint(opened: Store, run: RunRow): Promise<Uint8Array | undefined> {
  if (!run.checkpoint) return undefined;
  try {
    return await opened.blobs.get(run.checkpoint);
  } catch (error) {
    if (!(error instanceof BlobError)) throw error;
    console.error(`Bench: ${run.label} begins anew. ${error.message}`);
    return undefined;
  }
}

/**
 * Keeps the state of a run, as long as it is this attempt's to keep; whoever got this far has not broken off. The one before it goes once this one is
 * safe, unless something else names it.
 * @returns whether it was
 */
export async function keepCheckpoint(opened: Store, run: RunRow, data: Uint8Array): Promise<boolean> {
  const before = (await findRun(opened.db, run.id))?.checkpoint;
  const blob = await opened.blobs.put(data);
  if (!(await updateLeased(opened.db, run, { checkpoint: blob, breaks: 0 }))) return false;
  if (before && before !== blob && !(await namedBlobs(opened.db)).has(before)) await opened.blobs.drop(before);
  return true;
}

/** Keeps the fields of a run at a time, bytes first. @returns whether the run is still this attempt's */
export async function keepMoment(opened: Store, run: RunRow, { sequence, timeS, fields }: KeptMoment): Promise<boolean> {
  const stored: { name: string; unit: string; blob: string }[] = [];
  for (const { name, unit, values } of fields)
    stored.push({ name, unit, blob: await opened.blobs.put(new Uint8Array(values.buffer, values.byteOffset, values.byteLength)) });
  return addMoment(opened.db, run, { sequence, timeS, fields: stored });
}

/** The result a run starts from, where it does not begin at rest. @throws {BlobError} it is gone or damaged */
export async function readStart({ blobs }: Store, run: RunRow): Promise<StartResult | undefined> {
  const from = run.settings.startFrom;
  if (!from) return undefined;
  const fields = from.fields.map(async ({ name, unit, hash }) => ({ name, unit, values: bytesToDoubles(await blobs.get(hash)) }));
  return { fields: await Promise.all(fields), ...(from.meshHash ? { mesh: await blobs.get(from.meshHash) } : {}) };
}

/** Fields of a run with the mesh they belong to, their bytes stored. */
export async function storedFields(
  { blobs }: Store,
  runId: string,
  fields: readonly CellField[],
  mesh: Uint8Array | undefined,
): Promise<Left["fields"]> {
  const meshBlob = mesh ? await blobs.put(mesh) : null;
  const row = async ({ name, unit, values }: CellField) => ({
    runId,
    name,
    unit,
    count: values.length,
    blob: await blobs.put(doublesToBytes(values)),
    mesh: meshBlob,
  });
  return Promise.all(fields.map(row));
}

/** The parts of a record put together, their bytes stored; undefined where there are none. */
export async function storedRows({ db, blobs }: Store, runId: string): Promise<Left["record"]> {
  const parts = await listHistoryParts(db, runId);
  if (!parts.length) return undefined;
  const { columns } = parts[0];
  const { starts } = parts[parts.length - 1];
  const rows = parts.flatMap((p) => p.rows);
  const blob = await blobs.put(doublesToBytes(columns.flatMap((_, c) => rows.map((r) => r[c] ?? Number.NaN))));
  return { runId, columns, rows: rows.length, starts, blob };
}
