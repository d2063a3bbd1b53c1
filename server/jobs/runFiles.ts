import type { StartResult } from "../../core/problems/build/benchJob.ts";
import type { CellField, Checkpoint } from "../../core/solver/simulation.ts";
import { fromPlain, toPlain } from "../../core/solver/wire.ts";
import { bytesToDoubles, doublesToBytes } from "../blobs/blobStore.ts";
import type { Store } from "../db/store.ts";
import { listHistoryParts, type RunRow, saveField, saveHistory, updateLeased } from "../repositories/runs.ts";

/** The state a run left behind, where it left one. */
export async function readCheckpoint(opened: Store, run: RunRow): Promise<Checkpoint | undefined> {
  if (!run.checkpoint) return undefined;
  const text = new TextDecoder().decode(await opened.blobs.get(run.checkpoint));
  return fromPlain(JSON.parse(text)) as Checkpoint;
}

/** Keeps the state of a run, as long as it is this attempt's to keep. */
export async function keepCheckpoint(opened: Store, run: RunRow, data: Checkpoint): Promise<void> {
  const blob = await opened.blobs.put(new TextEncoder().encode(JSON.stringify(toPlain(data))));
  await updateLeased(opened.db, run.id, run.attempt, { checkpoint: blob });
}

/** The result a run starts from, where it does not begin at rest. */
export async function readStart({ blobs }: Store, run: RunRow): Promise<StartResult | undefined> {
  const from = run.settings.startFrom;
  if (!from) return undefined;
  const fields = from.fields.map(async ({ name, unit, hash }) => ({ name, unit, values: bytesToDoubles(await blobs.get(hash)) }));
  return { fields: await Promise.all(fields), ...(from.meshHash ? { mesh: await blobs.get(from.meshHash) } : {}) };
}

/** Keeps the fields of a run with the mesh they belong to. */
export async function keepFields({ db, blobs }: Store, runId: string, fields: readonly CellField[], mesh: Uint8Array | undefined): Promise<void> {
  const meshBlob = mesh ? await blobs.put(mesh) : null;
  for (const f of fields) {
    const blob = await blobs.put(doublesToBytes(f.values));
    await saveField(db, { runId, name: f.name, unit: f.unit, count: f.values.length, blob, mesh: meshBlob });
  }
}

/** Puts the parts of a record together into one blob. */
export async function keepRecord({ db, blobs }: Store, runId: string): Promise<void> {
  const parts = await listHistoryParts(db, runId);
  if (!parts.length) return;
  const { columns } = parts[0];
  const { starts } = parts[parts.length - 1];
  const rows = parts.flatMap((p) => p.rows);
  const blob = await blobs.put(doublesToBytes(columns.flatMap((_, c) => rows.map((r) => r[c] ?? Number.NaN))));
  await saveHistory(db, { runId, columns, rows: rows.length, starts, blob });
}
