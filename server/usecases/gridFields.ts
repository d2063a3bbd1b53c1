import { z } from "zod";
import { AXES } from "../../core/dataset/vector.ts";
import { FIELD_ROLES } from "../../core/intake/gridFields.ts";
import type { Store } from "../db/store.ts";
import { desk } from "../desk/desk.ts";
import type { LookedGrid } from "../desk/gridTasks.ts";
import { findMesh, listFields, replaceFields, setMeshQuality } from "../repositories/runs.ts";
import { broughtInRun, changeRun, metresOf, withFile } from "./broughtIn.ts";
import { UseCaseError } from "./failure.ts";

const Uploaded = z.object({ hash: z.string().regex(/^[0-9a-f]{64}$/, "Choose the file again.") });

const Place = z.tuple([z.number(), z.number(), z.number()]);
const NORMAL = "The direction across the plane has a length.";

/** a plane across an axis, 0 is x, or by a direction across it and a place in it, in the file's unit of length */
const Cut = z.union([
  z.object({ across: z.union([z.literal(0), z.literal(1), z.literal(2)]), at: z.number() }),
  z.object({ normal: Place.refine((n) => Math.hypot(...n) > 0, NORMAL), through: Place }),
]);

export const LookGridInput = Uploaded.extend({ cut: Cut.optional() });
export const TakeGridInput = Uploaded.extend({
  name: z.string().min(1).max(200),
  /** the file's unit of length, such as "mm" */
  length: z.string().trim().min(1, "Say the file's unit of length.").max(20),
  arrays: z
    .array(z.object({ name: z.string().max(200), on: z.enum(["cells", "points"]), role: z.enum(FIELD_ROLES), unit: z.string().trim().max(40) }))
    .min(1)
    .max(2000),
  cut: Cut.optional(),
  /** take the place of fields the run has already */
  replace: z.boolean().optional(),
});

/** Looks at an uploaded file with a grid; stores nothing. */
export async function lookAtGrid(
  opened: Store,
  runId: string,
  { hash, cut }: z.infer<typeof LookGridInput>,
  signal?: AbortSignal,
): Promise<LookedGrid> {
  await broughtInRun(opened, runId, "fields");
  return desk().ask("lookGrid", { blobs: opened.blobs.folder, hash, ...(cut ? { cut } : {}) }, { signal });
}

/** most a mesh of other counts than were said is still that of the run, as a share */
const OTHER_COUNT = 0.001;

/**
 * Gives a brought-in run its mesh and fields from a file with a plane grid.
 * @returns what was done to what stood in the file, in sentences
 */
export async function takeFields(opened: Store, runId: string, input: z.infer<typeof TakeGridInput>): Promise<{ notes: string[] }> {
  const run = await broughtInRun(opened, runId, "fields");
  const unitM = metresOf(input.length);
  const densityKgM3 = run.settings.parameters.densityKgM3 ?? 1;
  const { mesh, quality, fields, notes } = await desk().ask("takeGrid", {
    blobs: opened.blobs.folder,
    hash: input.hash,
    unitM,
    words: input.arrays,
    densityKgM3,
    ...(input.cut ? { cut: input.cut } : {}),
  });
  const meshBlob = await opened.blobs.put(mesh);
  const rows: Parameters<typeof replaceFields>[2][number][] = [];
  for (const { name, unit, values } of fields)
    rows.push({ runId, name, unit, count: values.length, blob: await opened.blobs.put(new Uint8Array(values.buffer)), mesh: meshBlob });
  const said = run.meshId ? await findMesh(opened.db, run.meshId) : undefined;
  const other = said && Math.abs(quality.cells / said.cells - 1) > OTHER_COUNT;
  const cut = input.cut && ("across" in input.cut ? { across: AXES[input.cut.across], at: input.cut.at } : input.cut);
  const fieldsFrom = { file: input.name, length: input.length, ...(cut ? { cut } : {}) };
  await changeRun(opened, runId, async ({ settings }, tx) => {
    if (!input.replace && (await listFields(tx.db, runId)).length)
      throw new UseCaseError("conflict", "The run has fields already. Nothing was changed; say that they are to be replaced.", { replace: "fields" });
    await replaceFields(tx.db, runId, rows);
    if (said && !other) await setMeshQuality(tx.db, said.id, quality);
    return { settings: { ...withFile(settings, { name: input.name, hash: input.hash }), fieldsFrom } };
  });
  return {
    notes: [
      ...notes,
      ...(other ? [`The file has ${quality.cells} cells in the plane; the run was said to have ${said.cells}. Both stand as they are.`] : []),
    ],
  };
}
