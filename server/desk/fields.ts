import { writeCsv } from "../../core/formats/csv.ts";
import { writeVtkGrid } from "../../core/formats/vtkGrid.ts";
import type { FaceMesh } from "../../core/mesh/faceMesh.ts";
import { type DerivedField, derivedFields } from "../../core/monitors/derived.ts";
import { fluidOfRun } from "../../core/monitors/fieldNames.ts";
import { benchProblem } from "../../core/problems/build/catalogue.ts";
import type { MeshSpec, RunSettings } from "../../core/problems/describe/runSettings.ts";
import { unpackMesh } from "../../core/solver/meshFile.ts";
import type { CellField } from "../../core/solver/simulation.ts";
import { BlobStore, bytesToDoubles } from "../blobs/blobStore.ts";
import { UseCaseError } from "../usecases/failure.ts";

/** Where the fields of a finished bench run are. */
export interface FieldSource {
  readonly settings: RunSettings;
  readonly rows: readonly {
    readonly name: string;
    readonly unit: string;
    readonly count: number;
    readonly blob: string;
    readonly mesh: string | null;
  }[];
}

/** Velocity and pressure first, whatever else after. */
export const inFieldOrder = (names: readonly string[]) => [
  ...["u", "v", "p"].filter((n) => names.includes(n)),
  ...names.filter((n) => !["u", "v", "p"].includes(n)),
];

/** Mesh and fields of a run, derived ones included. @throws {UseCaseError} they do not belong together */
export async function readFields(blobs: string, { settings, rows }: FieldSource): Promise<{ mesh: FaceMesh; fields: DerivedField[] }> {
  const store = new BlobStore(blobs);
  const kept = rows[0].mesh;
  const mesh = kept
    ? unpackMesh(await store.get(kept))
    : benchProblem(settings.problemId as string).mesh(settings.parameters, settings.mesh as MeshSpec);
  const stored: CellField[] = [];
  for (const name of inFieldOrder(rows.map((r) => r.name))) {
    const row = rows.find((r) => r.name === name);
    if (row) stored.push({ name, unit: row.unit, values: bytesToDoubles(await store.get(row.blob)) });
  }
  if (stored[0].values.length !== mesh.cellCount) throw new UseCaseError("conflict", "The fields of this run belong to an earlier mesh.");
  return { mesh, fields: derivedFields(mesh, stored, fluidOfRun(settings.parameters)) };
}

export interface FieldFileInput {
  readonly blobs: string;
  readonly source: FieldSource;
  readonly kind: "vtu" | "csv";
}

/** All fields of a run as one open file. */
export async function fieldFile({ blobs, source, kind }: FieldFileInput): Promise<{ bytes: Uint8Array }> {
  const { mesh, fields } = await readFields(blobs, source);
  const text = kind === "vtu" ? asGrid(mesh, fields) : asTable(mesh, fields);
  return { bytes: new TextEncoder().encode(text) };
}

const asGrid = (mesh: FaceMesh, fields: readonly DerivedField[]) =>
  writeVtkGrid(
    mesh,
    fields.map((f) => ({ name: `${f.name}, ${f.unit}`, values: f.values })),
  );

function asTable(mesh: FaceMesh, fields: readonly DerivedField[]): string {
  const head = ["x, m", "y, m", "volume, m2", ...fields.map((f) => `${f.name}, ${f.unit}`)];
  const rows = Array.from({ length: mesh.cellCount }, (_, c) => [
    mesh.centroidM[2 * c],
    mesh.centroidM[2 * c + 1],
    mesh.volumeM2[c],
    ...fields.map((f) => f.values[c]),
  ]);
  return writeCsv(head, rows);
}
