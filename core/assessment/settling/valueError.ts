import type { QuantitySpec } from "../../records/quantity.ts";
import type { RunEvidence } from "../../records/run.ts";
import type { Setup } from "../../records/setup.ts";
import { averagesOf } from "./averages.ts";
import { errorOf } from "./settling.ts";

/** How far a run's value may be off for its record alone, in its unit: what the iteration left, or the uncertainty of an adopted mean. */
export function valueError(run: RunEvidence, q: QuantitySpec, setup: Setup): number {
  const record = run.history?.quantities[q.key];
  if (!record) return 0;
  const [average] = averagesOf(run, [q], run.judging?.average === true, setup).filter((a) => a.adopted);
  if (average) return average.taken?.expanded ?? 0;
  return run.history?.time ? 0 : errorOf(record).error;
}
