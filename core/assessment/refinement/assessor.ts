import { z } from "zod";
import type { CaseEvidence } from "../../records/case.ts";
import { PROCEDURES } from "../../records/procedure.ts";
import type { QuantitySpec } from "../../records/quantity.ts";
import type { QuantityRefinement } from "../results/refinement.ts";
import { valueError } from "../settling/valueError.ts";
import type { Assessor, Ground } from "../stages/assessor.ts";
import { leading, valuesFor } from "../stages/scale.ts";
import { number, remarks, State } from "../stages/shapes.ts";
import { assessRefinement, type KnownTruth } from "./refinement.ts";

export const refinementAssessor: Assessor = {
  assess: (g) => ({ refinement: g.e.quantities.map((q) => studyMeshes(g, q)) }),
  shape: {
    refinement: z.array(
      z.looseObject({
        key: z.string(),
        rungs: z.array(
          z.looseObject({ runId: z.string(), label: z.string(), cells: number, spacing: number, iterationError: number, used: z.boolean() }),
        ),
        result: z.looseObject({ kind: z.enum(["monotone", "oscillating", "diverging", "degenerate"]), uncertainty: number }).optional(),
        procedures: z.array(z.looseObject({ key: z.enum(PROCEDURES), uncertainty: number })).optional(),
        adopted: z.looseObject({ key: z.enum(PROCEDURES), because: z.string() }).optional(),
        uncertainty: number.optional(),
        relative: number.optional(),
        limit: number,
        remarks,
        state: State,
        headline: z.string(),
      }),
    ),
  },
};

function studyMeshes({ e, ladder, leftOut, scales }: Ground, q: QuantitySpec): QuantityRefinement {
  return assessRefinement({
    ladder: [...ladder, ...leftOut],
    quantity: q,
    scale: scales[q.key].value,
    formalOrder: e.formalOrder,
    iterationErrors: Object.fromEntries(ladder.map((r) => [r.id, valueError(r, q, e.setup)])),
    truth: truthOf(e, q.key),
    leftOut: e.leftOut,
    chosen: e.adopted?.find((a) => a.quantityKey === q.key),
    divergent: e.divergent?.find((d) => d.quantityKey === q.key),
  });
}

/** The yardstick that is the truth of a quantity, for a case that is exact or published and where it holds. */
function truthOf(e: CaseEvidence, key: string): KnownTruth | undefined {
  if (e.kind === "measured") return undefined;
  const holding = valuesFor(e.yardsticks, key).filter(({ yardstick: y }) => y.validity.inside && ["exact", "table"].includes(y.kind));
  const found = leading(holding);
  if (!found) return undefined;
  return { name: found.yardstick.name, value: found.value.value, uncertainty: 2 * (found.value.standardUncertainty ?? 0) };
}
