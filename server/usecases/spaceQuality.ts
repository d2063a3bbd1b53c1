import { z } from "zod";
import { METRIC_KEYS } from "../../core/dataset/metrics.ts";
import { keptQuality } from "../../core/records/spaceQuality.ts";
import type { Store } from "../db/store.ts";
import { desk } from "../desk/desk.ts";
import { broughtInRun, changeRun, metresOf, withFile } from "./broughtIn.ts";

export const QualityInput = z.object({
  hash: z.string().regex(/^[0-9a-f]{64}$/, "Choose the file again."),
  name: z.string().min(1).max(200),
  /** the file's unit of length */
  length: z.string().trim().min(1, "Say the file's unit of length.").max(20),
  /** other limits than the usual ones, by metric */
  limits: z.partialRecord(z.enum(METRIC_KEYS), z.number().positive().max(1e9)).default({}),
});

/** Keeps the quality of a mesh in space with the run that was made on it. */
export async function keepQuality(opened: Store, runId: string, { hash, name, length, limits }: z.infer<typeof QualityInput>): Promise<void> {
  await broughtInRun(opened, runId, "a mesh");
  metresOf(length);
  const quality = keptQuality(await desk().ask("judgeGrid", { blobs: opened.blobs.folder, hash, limits }), { name, hash }, length);
  await changeRun(opened, runId, ({ settings, result }) => ({ settings: withFile(settings, quality.file), result: { ...result, quality } }));
}
