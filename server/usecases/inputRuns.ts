import { z } from "zod";
import { differencePlan, samplePlan } from "../../core/method/propagation/plans.ts";
import { inputsOf, parameterSpecs } from "../../core/problems/describe/caseSetup.ts";
import { described } from "../../core/problems/describe/catalogue.ts";
import { familyMesh } from "../../core/problems/describe/problem.ts";
import type { Store } from "../db/store.ts";
import { findCase } from "../repositories/cases.ts";
import { UseCaseError } from "./failure.ts";
import { MOST_CELLS, planRun, queueSet } from "./runs.ts";

export const InputRunsInput = z.object({
  way: z.enum(["differences", "sample"]),
  /** runs of a sample; central differences need two an input and one more */
  count: z.number().int().min(4, "A sample of fewer than four runs tells nothing.").max(200).default(20),
  seed: z.number().int().min(0).max(1_000_000_000).default(1),
  nx: z.number().int().min(2).max(2000),
  ny: z.number().int().min(2).max(2000),
  priority: z.number().int().min(-9).max(9).default(0),
});

/** Queues the runs that tell what the quantities of a case answer to, one set on one mesh. */
export async function startInputRuns(opened: Store, caseId: string, input: z.infer<typeof InputRunsInput>) {
  const row = await findCase(opened.db, caseId);
  if (!row) throw new UseCaseError("not-found", "There is no such case.");
  const { setup } = row;
  if (setup.problemId === null)
    throw new UseCaseError("invalid", "Only the bench can be asked for such runs; type the sensitivities of another code's case.");
  const inputs = inputsOf(setup).filter((i) => i.uncertainty > 0);
  if (!inputs.length) throw new UseCaseError("conflict", "Type how well a condition is known first, and save: the runs go as far as that.");
  if (input.nx * input.ny > MOST_CELLS)
    throw new UseCaseError("invalid", `${input.nx * input.ny} cells are more than the bench takes (${MOST_CELLS}).`);
  if (input.way === "sample" && input.count < inputs.length + 2)
    throw new UseCaseError("invalid", `${inputs.length} conditions need at least ${inputs.length + 2} runs.`, {
      count: `At least ${inputs.length + 2} for ${inputs.length} conditions.`,
    });
  const plan = input.way === "sample" ? samplePlan(inputs, input.count, input.seed, setup.correlations) : differencePlan(inputs);
  checkRanges(setup.problemId, plan);
  const mesh = familyMesh(described(setup.problemId).family, input.nx, input.ny);
  const planned = await Promise.all(
    plan.map((p) => planRun(row, mesh, { parameters: { ...setup.parameters, ...p.values }, priority: input.priority, label: p.label })),
  );
  const names = inputs.map((i) => i.label.toLowerCase()).join(", ");
  const label = input.way === "sample" ? `${names}: sample of ${input.count}, seed ${input.seed}` : `${names}: central differences`;
  // A set of this kind has no rows and columns: each run's values stand in its own settings.
  const axes = inputs.map(({ key, label: name, unit }) => ({ key, label: name, unit, values: [] }));
  return queueSet(opened, { caseId, axes, label }, planned);
}

/** A run that the problem does not allow is told before anything is queued. */
function checkRanges(problemId: string, plan: ReturnType<typeof differencePlan>): void {
  for (const spec of parameterSpecs(problemId)) {
    const outside = plan.find((p) => p.values[spec.key] < spec.min || p.values[spec.key] > spec.max);
    if (outside)
      throw new UseCaseError(
        "invalid",
        `${spec.label} would be ${outside.values[spec.key].toPrecision(4)} ${spec.unit} in "${outside.label}", outside ${spec.min} to ${spec.max}. State a smaller uncertainty.`,
      );
  }
}
