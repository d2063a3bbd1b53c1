import { z } from "zod";
import { axisPlans, settingsAt } from "../../core/problems/describe/ladderPlan.ts";
import type { MeshSpec } from "../../core/problems/describe/runSettings.ts";
import { inOne, type Store } from "../db/store.ts";
import { findCase } from "../repositories/cases.ts";
import { findRun, type RunRow } from "../repositories/runs.ts";
import { UseCaseError } from "./failure.ts";
import { insertPlanned, MOST_CELLS, planRun, queue } from "./runs.ts";

export const LadderInput = z.object({
  axis: z.enum(["time-step", "domain", "tolerance"]),
  /** run on whose mesh the ladder stands */
  runId: z.uuid(),
  values: z.array(z.number()).min(1, "Give at least one value.").max(6, "Six values are the most."),
});

/** Queues runs on the mesh of another that differ from the case in one thing only, so that they stand on one ladder with it. */
export async function startLadder(opened: Store, caseId: string, input: z.infer<typeof LadderInput>, wake = true): Promise<RunRow[]> {
  const row = await findCase(opened.db, caseId);
  if (!row) throw new UseCaseError("not-found", "There is no such case.");
  const plan = axisPlans(row.setup).find((a) => a.axis === input.axis);
  if (!plan) throw new UseCaseError("invalid", "This case has no such axis.");
  const base = await findRun(opened.db, input.runId);
  if (base?.caseId !== caseId || base.origin !== "bench" || base.sweepId) throw new UseCaseError("not-found", "There is no such run of this case.");
  const refuse = (sentence: string) => new UseCaseError("invalid", sentence, { values: sentence });
  const outside = input.values.find((v) => !(v >= plan.min && v <= plan.max));
  if (outside !== undefined) throw refuse(`${outside} is outside ${plan.min} to ${plan.max}.`);
  if (input.values.includes(plan.own)) throw refuse(`${plan.own} is what the case itself has: name others.`);
  if (new Set(input.values).size < input.values.length) throw refuse("A value stands there twice.");
  const wanted = input.values.map((v) => settingsAt(row.setup, input.axis, v, base.settings.mesh as MeshSpec));
  const large = wanted.find(({ mesh }) => mesh.nx * mesh.ny > MOST_CELLS);
  if (large) throw refuse(`${large.mesh.nx} × ${large.mesh.ny} cells are more than the bench takes (${MOST_CELLS}).`);
  const planned = await Promise.all(wanted.map(({ mesh, ...changes }) => planRun(row, mesh, changes)));
  const runs = await inOne(opened, (tx) => insertPlanned(tx, planned));
  if (wake) await queue(runs);
  return runs;
}
