import { significant } from "../../../formatting/number.ts";
import { threeMesh } from "../../../method/refinement/threeMesh.ts";
import type { RunEvidence } from "../../../records/run.ts";
import { AXIS_WORDS } from "../../../study/ladders.ts";
import { type Found, finite, type RuleInput, type SourceAssessor } from "./source.ts";

/** of another code's scheme in time nothing is stated: the least order it can have gives the largest uncertainty */
const LEAST_ORDER = 1;

/** The three-mesh procedure with the time step in the place of the spacing, over the finest three steps on one mesh. */
function find(input: RuleInput): Found | undefined {
  const { quantity: q, scale, finest, timeSteps, recordError } = input;
  if (!finest?.history?.time) return undefined;
  if (finest.origin === "bench") return ofBench(input, finest);
  const points = timeSteps.runs
    .flatMap((r) => {
      const [value, step] = [finite(r.result?.quantities[q.key]), r.stated?.timeStepS];
      return value === undefined || step === undefined ? [] : [{ value, step, error: recordError(r) }];
    })
    .slice(0, 3);
  if (points.length < 2) return { note: "no runs with another time step" };
  const [fine, medium, coarse] = points;
  if (!coarse) return { note: "two time steps on one mesh; three are needed" };
  const result = threeMesh({
    phi: [fine.value, medium.value, coarse.value],
    spacing: [fine.step, medium.step, coarse.step],
    formalOrder: LEAST_ORDER,
    errors: [fine.error, medium.error, coarse.error],
  });
  const order = result.kind === "monotone" ? `, order ${result.order.toFixed(2)} observed, at most ${LEAST_ORDER} used` : `: ${result.kind}`;
  const steps = points.map((p) => significant(p.step, 3)).join(", ");
  return { at: finest.finishedAt, relative: finite(result.uncertainty / scale.value), note: `time steps of ${steps} s on one mesh${order}` };
}

/**
 * Bench runs in time refine step and spacing together, so that the mesh figure holds both: a source of its own where a ladder of Courant numbers was
 * computed, of which the mesh figure then holds a part once more.
 */
function ofBench({ quantity: q, scale, ladders, evidence }: RuleInput, finest: RunEvidence): Found | undefined {
  const own = finest.made?.["Courant number"];
  for (const { axis, runs, quantities, title } of ladders) {
    const along = quantities.find((x) => x.key === q.key);
    if (axis !== "time-step" || along?.relative === undefined || typeof own !== "number") continue;
    // Where no run has the steps of the finest, the next longer ones stand for them.
    const at = runs.findIndex((r, k) => (r.position ?? 0) >= own && along.values[k] !== undefined);
    const [first, value] = [along.values.find((v) => v !== undefined), along.values[at]];
    if (first === undefined || value === undefined) continue;
    const relative = along.relative + Math.abs(value - first) / scale.value;
    const steps = runs.flatMap((r) => r.position ?? []).map((p) => significant(p, 3));
    const order = along.order === undefined ? along.kind : `order ${along.order.toFixed(2)} observed`;
    const finished = evidence.runs.find((r) => r.id === runs[at].runId)?.finishedAt;
    return {
      at: finished ?? finest.finishedAt,
      relative,
      note: `Courant numbers of ${steps.join(", ")}${title.slice(AXIS_WORDS["time-step"].length)}: ${order}; spacing and step fall together, so that the mesh holds a part of it too`,
    };
  }
  return undefined;
}

export const timeStep: SourceAssessor = {
  key: "time-step",
  name: "time step",
  group: "numerical",
  stage: "refinement",
  find,
  settle: () => ({ sentence: "bring in a run with another time step, or bound what the step leaves", go: "runs" }),
  effort: 8,
};
