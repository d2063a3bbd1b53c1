import type { CaseEvidence } from "../records/case.ts";
import { chosenRuns, studyAlong } from "../study/study.ts";
import { derivedSet, withDerived } from "./derived/derivedQuantities.ts";
import { withMeans } from "./settling/averages.ts";
import type { Ground } from "./stages/assessor.ts";
import { scaleOf } from "./stages/scale.ts";

/**
 * What the steps of an assessment start from.
 * @throws {DerivedError} a formula of a derived quantity does not hold
 */
export function groundOf(evidence: CaseEvidence): Ground {
  const { derived } = evidence;
  const set = derived && derivedSet(derived, evidence.quantities);
  const worked = derived && set ? evidence.runs.map((r) => withDerived(r, derived, set)) : evidence.runs;
  const e = { ...evidence, runs: worked.map((r) => withMeans(r, evidence.quantities, evidence.setup)) };
  const { runs: chosen, stale } = chosenRuns(e);
  // What a person took off is no evidence any more: not for the value, nor for how it settled.
  const off = new Set(e.leftOut?.map((l) => l.runId));
  const runs = chosen.filter((r) => !off.has(r.id));
  const ladder = studyAlong("mesh", runs).runs;
  const scales = Object.fromEntries(e.quantities.map((q) => [q.key, scaleOf(q, e.yardsticks, ladder[0], e.setup)]));
  return { e, set, ladder, leftOut: chosen.filter((r) => off.has(r.id)), timeSteps: studyAlong("time-step", runs), stale, scales };
}
