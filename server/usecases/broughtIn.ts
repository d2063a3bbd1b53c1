import { parseQuantity } from "../../core/units/units.ts";
import type { Store } from "../db/store.ts";
import { findRun, type RunRow } from "../repositories/runs.ts";
import { UseCaseError } from "./failure.ts";

/** A finished run of another code, with its figures. @throws {UseCaseError} it is none */
export async function broughtInRun(opened: Store, runId: string, what: string): Promise<RunRow & { readonly result: NonNullable<RunRow["result"]> }> {
  const run = await findRun(opened.db, runId);
  if (!run) throw new UseCaseError("not-found", "There is no such run.");
  if (run.origin !== "brought-in" || !run.result)
    throw new UseCaseError("conflict", `Only a finished run that was brought in is given ${what}; the bench has its own.`);
  return { ...run, result: run.result };
}

/** Metres of a unit of length. @throws {UseCaseError} it is none */
export function metresOf(length: string): number {
  const read = parseQuantity(`1 ${length}`, "m");
  if (read.ok && read.si > 0) return read.si;
  const sentence = `Unit of length: ${read.ok ? "it must be positive." : read.sentence}`;
  throw new UseCaseError("invalid", sentence, { length: sentence });
}
