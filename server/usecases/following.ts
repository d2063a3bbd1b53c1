import { z } from "zod";
import type { Store } from "../db/store.ts";
import { desk } from "../desk/desk.ts";
import { follower } from "../jobs/follower.ts";
import { dropReading } from "../jobs/readings.ts";
import { listQuantities } from "../repositories/cases.ts";
import { insertRun, type RunRow } from "../repositories/runs.ts";
import { foreignRun, keepRecipe } from "./bringIn.ts";
import { RunWords } from "./bringInInputs.ts";
import { finishedReading } from "./confirmedFiles.ts";
import { UseCaseError } from "./failure.ts";

export const FollowInput = RunWords.extend({ reading: z.uuid() });

/** Makes a run of a log on the server that is still being written; its rows are read as they come. */
export async function followLog(opened: Store, caseId: string, input: z.infer<typeof FollowInput>): Promise<RunRow> {
  const reading = finishedReading(input.reading);
  if (reading.hash !== undefined) throw new UseCaseError("invalid", "Only a log in a watched folder of the server can be followed.");
  const known = await listQuantities(opened.db, caseId);
  // Refused where a line cannot be used; what it holds comes again with the following.
  const { name, sheet } = reading;
  await desk().ask("readConfirmed", { history: { name, sheet }, mapping: { roles: input.roles, units: input.units, rowRoles: [] }, known });
  const units = reading.sheet.units.map((u, i) => input.units?.[i] ?? u ?? null);
  const foreign = await foreignRun(opened, caseId, input, { follow: { path: reading.path, roles: input.roles, units } });
  const run = await insertRun(opened.db, { ...foreign, state: "followed", startedAt: new Date() });
  await keepRecipe(opened, input, reading.sheet.header, reading.sheet.units, known);
  dropReading(reading.id);
  await (await follower()).follow(run);
  return run;
}
