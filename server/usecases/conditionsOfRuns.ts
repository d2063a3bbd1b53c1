import { z } from "zod";
import { parameterSpecs, setupFingerprint } from "../../core/problems/describe/caseSetup.ts";
import type { RunSettings } from "../../core/problems/describe/runSettings.ts";
import { isUnit } from "../../core/units/units.ts";
import type { SweepAxis } from "../db/schema.ts";
import { inOne, type Store } from "../db/store.ts";
import { hashOf } from "../hash.ts";
import { type CaseRow, findCase } from "../repositories/cases.ts";
import { findRun, insertSweep, listSweeps, type RunRow, updateRun } from "../repositories/runs.ts";
import { UseCaseError } from "./failure.ts";
import { Reader, typed } from "./reader.ts";

/** Where a brought-in run was made: another value of one of the case's conditions, or of one with a name of its own; neither takes it back. */
export const ConditionInput = z.object({
  /** key of a condition of the case */
  key: z.string().max(40).default(""),
  name: z.string().trim().max(60).default(""),
  unit: z.string().trim().max(40).default(""),
  value: typed.default(""),
  /** other runs of the case that were made there: the meshes of one family */
  also: z.array(z.uuid()).max(200).default([]),
});

/** The brought-in, finished runs of one case. @throws {UseCaseError} */
async function broughtIn(opened: Store, ids: readonly string[]): Promise<RunRow[]> {
  const runs: RunRow[] = [];
  for (const id of new Set(ids)) {
    const run = await findRun(opened.db, id);
    if (!run || (runs.length && run.caseId !== runs[0].caseId)) throw new UseCaseError("not-found", "There is no such run.");
    if (run.origin !== "brought-in" || !run.result)
      throw new UseCaseError("conflict", `Only a finished run that was brought in can be placed elsewhere; "${run.label}" is none.`);
    runs.push(run);
  }
  return runs;
}

/** States that brought-in runs were made at a condition other than the case's: they are then points of a curve over that condition, and none of the case itself. */
export async function stateCondition(opened: Store, runId: string, input: z.infer<typeof ConditionInput>): Promise<void> {
  const runs = await broughtIn(opened, [runId, ...input.also]);
  const row = await findCase(opened.db, runs[0].caseId);
  if (!row) throw new UseCaseError("not-found", "There is no such case.");
  const read = input.key || input.name ? axisOf(row, input) : undefined;
  const parameters = { ...row.setup.parameters, ...(read ? { [read.axis.key]: read.value } : {}) };
  const setupHash = hashOf(setupFingerprint({ ...row.setup, parameters }));
  await inOne(opened, async (tx) => {
    const sweepId = read ? await setFor(tx, row.id, read.axis) : null;
    for (const run of runs) {
      const settings: RunSettings = { ...run.settings, parameters };
      await updateRun(tx.db, run.id, { sweepId, settings, settingsHash: hashOf(settings), setupHash });
    }
  });
}

/** The condition and its value. @throws {UseCaseError} naming the entry that cannot be read */
function axisOf(row: CaseRow, input: z.infer<typeof ConditionInput>): { axis: SweepAxis; value: number } {
  const reader = new Reader();
  const spec = parameterSpecs(row.setup.problemId).find((s) => s.key === input.key);
  if (input.key && !spec) throw new UseCaseError("invalid", "The case has no such condition.");
  if (!spec && input.unit && !isUnit(input.unit)) reader.mistakes.unit = `"${input.unit}" is no unit known here.`;
  const unit = spec?.unit ?? (input.unit || "1");
  const value = reader.required("value", input.value, unit === "1" ? "" : unit, spec?.min, spec?.max);
  reader.done();
  const key = spec?.key ?? `own-${input.name.toLowerCase().replace(/[^a-z0-9]+/g, "-")}`.slice(0, 40);
  return { axis: { key, label: spec?.label ?? input.name, unit, values: [], broughtIn: true }, value };
}

/** The set of a condition: the one there is, else a new one. */
async function setFor(tx: Store, caseId: string, axis: SweepAxis): Promise<string> {
  const known = (await listSweeps(tx.db, caseId)).find((s) => s.axes.length === 1 && s.axes[0].broughtIn && s.axes[0].key === axis.key);
  if (known && known.axes[0].unit !== axis.unit)
    throw new UseCaseError("invalid", `${axis.label} is counted in ${known.axes[0].unit} already; give it in that.`, {
      unit: `In ${known.axes[0].unit}.`,
    });
  return (known ?? (await insertSweep(tx.db, { caseId, axes: [axis], label: axis.label }))).id;
}
