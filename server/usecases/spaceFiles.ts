import { z } from "zod";
import { curveKey } from "../../core/intake/curveImport.ts";
import type { RunSettings } from "../../core/problems/describe/runSettings.ts";
import type { RunResult } from "../../core/records/run.ts";
import type { Store } from "../db/store.ts";
import { desk } from "../desk/desk.ts";
import { findRun } from "../repositories/runs.ts";
import { broughtInRun, changeRun, metresOf } from "./broughtIn.ts";
import { withCurves } from "./curves.ts";
import { openCase } from "./evidence.ts";
import { UseCaseError } from "./failure.ts";

interface SpaceFile {
  readonly name: string;
  readonly hash: string;
  /** its unit of length, as it was said */
  readonly length: string;
}

/** The file of a run that lies in space: whose cells were judged, or cut for its fields, or the surface the flow acts on. */
export function spaceFileOf({ settings, result }: { readonly settings: RunSettings; readonly result: RunResult | null }): SpaceFile | undefined {
  if (result?.quality) return { ...result.quality.file, length: result.quality.length };
  const { fieldsFrom, files } = settings;
  const cut = fieldsFrom?.cut && files?.find((f) => f.name === fieldsFrom.file);
  if (fieldsFrom && cut) return { ...cut, length: fieldsFrom.length };
  return result?.surface && { ...result.surface.file, length: result.surface.said.length };
}

/** Runs of a case whose files can be looked at in space. */
export async function spaceFilesOf(opened: Store, caseId: string): Promise<{ runId: string; label: string; file: string; length: string }[]> {
  const { runs } = await openCase(opened, caseId);
  return runs.flatMap((run) => {
    const file = spaceFileOf(run);
    return file ? [{ runId: run.id, label: run.label, file: file.name, length: file.length }] : [];
  });
}

/** The bytes of a run's file in space. */
export async function spaceFile(opened: Store, runId: string): Promise<{ bytes: Uint8Array; name: string }> {
  const run = await findRun(opened.db, runId);
  const file = run && spaceFileOf(run);
  if (!file) throw new UseCaseError("not-found", "The run has no file in space.");
  return { bytes: await opened.blobs.get(file.hash), name: file.name };
}

const Place = z.tuple([z.number(), z.number(), z.number()]);

export const LineInput = z.object({
  /** what the curve is called, with the run and with a yardstick it is held against */
  name: z.string().trim().min(1, "The curve needs a name.").max(80),
  of: z.object({ name: z.string().max(200), on: z.enum(["cells", "points"]) }),
  /** of a vector which part, from 0, or its size */
  component: z.union([z.number().int().min(0).max(8), z.literal("size")]),
  /** cell values brought to points first */
  smooth: z.boolean(),
  /** unit of the field; none says it is a pure number */
  unit: z.string().trim().max(40),
  /** ends of the line, in the file's unit of length */
  from: Place,
  to: Place,
  /** corners between the ends */
  by: z.array(Place).max(20, "A line has twenty corners at most.").default([]),
  count: z.number().int().min(2).max(10_000),
  /** what it is a curve over: the way along the line, or a coordinate, in metres */
  against: z.enum(["way", "x", "y", "z"]),
  replace: z.boolean().optional(),
});

/** Reads a run's file along a line and keeps the curve with the run: Comparison holds it against a yardstick's of the same name. */
export async function keepLine(opened: Store, runId: string, input: z.infer<typeof LineInput>): Promise<{ notes: string[] }> {
  const run = await broughtInRun(opened, runId, "curves");
  const file = spaceFileOf(run);
  if (!file) throw new UseCaseError("not-found", "The run has no file in space.");
  const { name, unit, replace, ...asked } = input;
  const { abscissa, values, said } = await desk().ask("lineThrough", {
    blobs: opened.blobs.folder,
    hash: file.hash,
    unitM: metresOf(file.length || "m"),
    ...asked,
  });
  const curve = {
    key: curveKey(name),
    name,
    abscissa: { name: input.against === "way" ? "way along the line" : input.against, unit: "m", values: abscissa },
    value: { name: input.of.name, unit: unit || "1", values },
  };
  await changeRun(opened, runId, ({ label, result }) => ({
    result: { ...result, profiles: withCurves(label, result.profiles, [curve], replace === true) },
  }));
  return { notes: [`${name}: ${said}.`] };
}
