import { writeCsv } from "../../core/formats/csv.ts";
import { writeVtkGrid } from "../../core/formats/vtkGrid.ts";
import type { FaceMesh } from "../../core/mesh/faceMesh.ts";
import { type DerivedField, derivedFields, fluidOfRun } from "../../core/monitors/derived.ts";
import { benchProblem } from "../../core/problems/build/catalogue.ts";
import type { MeshSpec } from "../../core/problems/describe/runSettings.ts";
import { unpackMesh } from "../../core/solver/meshFile.ts";
import type { CellField } from "../../core/solver/simulation.ts";
import { bytesToDoubles } from "../blobs/blobStore.ts";
import type { Store } from "../db/store.ts";
import { findRun, listFields, type RunRow } from "../repositories/runs.ts";
import { UseCaseError } from "./failure.ts";

/** Mesh and fields of a finished bench run, derived ones included. */
export async function runFields(opened: Store, runId: string): Promise<{ run: RunRow; mesh: FaceMesh; fields: DerivedField[] }> {
  const run = await findRun(opened.db, runId);
  const rows = await listFields(opened.db, runId);
  if (!run?.settings.problemId || rows.length === 0) throw new UseCaseError("not-found", "This run has no fields.");
  const { parameters } = run.settings;
  const kept = rows[0].mesh;
  const mesh = kept ? unpackMesh(await opened.blobs.get(kept)) : benchProblem(run.settings.problemId).mesh(parameters, run.settings.mesh as MeshSpec);
  const stored: CellField[] = [];
  for (const name of ORDER(rows.map((r) => r.name))) {
    const row = rows.find((r) => r.name === name);
    if (row) stored.push({ name, unit: row.unit, values: bytesToDoubles(await opened.blobs.get(row.blob)) });
  }
  if (stored[0].values.length !== mesh.cellCount) throw new UseCaseError("conflict", "The fields of this run belong to an earlier mesh.");
  return { run, mesh, fields: derivedFields(mesh, stored, fluidOfRun(parameters)) };
}

/** Velocity and pressure first, whatever else after. */
const ORDER = (names: readonly string[]) => [
  ...["u", "v", "p"].filter((n) => names.includes(n)),
  ...names.filter((n) => !["u", "v", "p"].includes(n)),
];

/** Names and units of the stored fields, velocity and pressure first. */
export async function fieldList(opened: Store, runId: string): Promise<{ name: string; unit: string }[]> {
  const rows = await listFields(opened.db, runId);
  return ORDER(rows.map((r) => r.name)).map((name) => ({ name, unit: rows.find((r) => r.name === name)?.unit ?? "" }));
}

/** One stored field, little-endian doubles. */
export async function rawField(opened: Store, runId: string, name: string): Promise<Uint8Array> {
  const row = (await listFields(opened.db, runId)).find((f) => f.name === name);
  if (!row) throw new UseCaseError("not-found", "This run has no such field.");
  return opened.blobs.get(row.blob);
}

/** The mesh a run's fields lie on, packed as it was kept; runs older than that have none. */
export async function rawMesh(opened: Store, runId: string): Promise<Uint8Array> {
  const kept = (await listFields(opened.db, runId))[0]?.mesh;
  if (!kept) throw new UseCaseError("not-found", "No mesh was kept with the fields of this run.");
  return opened.blobs.get(kept);
}

export async function fieldsVtk(opened: Store, runId: string): Promise<string> {
  const { mesh, fields } = await runFields(opened, runId);
  return writeVtkGrid(
    mesh,
    fields.map((f) => ({ name: `${f.name}, ${f.unit}`, values: f.values })),
  );
}

export async function fieldsCsv(opened: Store, runId: string): Promise<string> {
  const { mesh, fields } = await runFields(opened, runId);
  const head = ["x, m", "y, m", "volume, m2", ...fields.map((f) => `${f.name}, ${f.unit}`)];
  const rows = Array.from({ length: mesh.cellCount }, (_, c) => [
    mesh.centroidM[2 * c],
    mesh.centroidM[2 * c + 1],
    mesh.volumeM2[c],
    ...fields.map((f) => f.values[c]),
  ]);
  return writeCsv(head, rows);
}
