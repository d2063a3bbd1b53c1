import type { RunSettings } from "../../core/problems/describe/runSettings.ts";
import type { RunResult } from "../../core/records/run.ts";
import { parseQuantity } from "../../core/units/units.ts";
import { inOne, type Store } from "../db/store.ts";
import { hashOf } from "../hash.ts";
import { findRun, type RunRow, updateRun } from "../repositories/runs.ts";
import { UseCaseError } from "./failure.ts";

/** A run that delivered figures. */
export type FinishedRun = RunRow & { readonly result: RunResult };

/** A finished run of another code, with its figures. @throws {UseCaseError} it is none */
export async function broughtInRun(opened: Store, runId: string, what: string): Promise<FinishedRun> {
  const run = await findRun(opened.db, runId);
  if (!run) throw new UseCaseError("not-found", "There is no such run.");
  if (run.origin !== "brought-in" || !run.result)
    throw new UseCaseError("conflict", `Only a finished run that was brought in is given ${what}; the bench has its own.`);
  return { ...run, result: run.result };
}

interface Changed {
  readonly settings?: RunSettings;
  readonly result?: RunResult;
}

/**
 * Changes a finished run as it stands now, and what goes with it: all of it or nothing.
 * @throws {UseCaseError} it is not there any more, or what `change` throws
 */
export const changeRun = (opened: Store, runId: string, change: (now: FinishedRun, tx: Store) => Changed | Promise<Changed>): Promise<void> =>
  inOne(opened, async (tx) => {
    const now = await findRun(tx.db, runId);
    if (!now?.result) throw new UseCaseError("conflict", "The run changed meanwhile. Nothing was stored.");
    const { settings, result } = await change({ ...now, result: now.result }, tx);
    await updateRun(tx.db, runId, { ...(settings ? { settings, settingsHash: hashOf(settings) } : {}), ...(result ? { result } : {}) });
  });

type File = NonNullable<RunSettings["files"]>[number];

/** Settings with one more of the files the run was made from, each once. */
export const withFile = (settings: RunSettings, file: File): RunSettings => ({
  ...settings,
  files: [...withoutFile(settings.files, file.hash), file],
});

/** Files but one. */
export const withoutFile = (files: RunSettings["files"], hash: string | undefined): readonly File[] => (files ?? []).filter((f) => f.hash !== hash);

/** Metres of a unit of length. @throws {UseCaseError} it is none */
export function metresOf(length: string): number {
  const read = parseQuantity(`1 ${length}`, "m");
  if (read.ok && read.si > 0) return read.si;
  const sentence = `Unit of length: ${read.ok ? "it must be positive." : read.sentence}`;
  throw new UseCaseError("invalid", sentence, { length: sentence });
}
