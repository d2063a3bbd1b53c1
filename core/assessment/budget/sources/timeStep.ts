import { significant } from "../../../formatting/number.ts";
import { threeMesh } from "../../../method/refinement/threeMesh.ts";
import { type Found, finite, type RuleInput, type SourceAssessor } from "./source.ts";

/** of another code's scheme in time nothing is stated: the least order it can have gives the largest uncertainty */
const LEAST_ORDER = 1;

/** The three-mesh procedure with the time step in the place of the spacing, over the finest three steps on one mesh. */
function find({ quantity: q, scale, finest, timeSteps, recordError }: RuleInput): Found | undefined {
  // Bench runs in time refine step and spacing together, so that the mesh figure holds both.
  if (!finest?.history?.time || finest.origin === "bench") return undefined;
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

export const timeStep: SourceAssessor = {
  key: "time-step",
  name: "time step",
  group: "numerical",
  stage: "refinement",
  find,
  settle: () => ({ sentence: "bring in a run with another time step, or bound what the step leaves", go: "runs" }),
  effort: 8,
};
