import { z } from "zod";
import { inputUncertainty, type SensitivityMeans } from "../../method/propagation/inputs.ts";
import { valueError } from "../settling/valueError.ts";
import type { Assessor, Ground } from "../stages/assessor.ts";
import { number, Stage } from "../stages/shapes.ts";
import { buildBudget } from "./errorSources.ts";

const Budget = z.looseObject({
  quantityKey: z.string(),
  scale: number,
  value: number.optional(),
  sources: z.array(
    z.looseObject({
      key: z.string(),
      name: z.string(),
      group: z.enum(["numerical", "input", "machine"]),
      relative: number.optional(),
      stage: Stage,
      note: z.string(),
    }),
  ),
  difference: number.optional(),
  band: number.optional(),
  uNum: number.optional(),
  missing: z.array(z.string()),
});

const InputBudget = z.looseObject({
  quantityKey: z.string(),
  relative: number.optional(),
  largest: z.string().optional(),
  shares: z.array(
    z.looseObject({ key: z.string(), label: z.string(), relative: number.optional(), part: number.optional(), uneven: z.boolean().optional() }),
  ),
});

export const budgetAssessor: Assessor = {
  assess: (g, { settling, balance, refinement, ladders }) => {
    const { e, ladder, scales, timeSteps } = g;
    const shared = {
      evidence: e,
      finest: ladder[0],
      settling: settling[0],
      balance: balance[0],
      timeSteps,
      ladders: ladders.list,
      means: sensitivities(g),
    };
    const { inputs: given = [], correlations } = e;
    return {
      inputs: given.length ? e.quantities.map((q) => ({ quantityKey: q.key, ...inputUncertainty(given, q.key, shared.means, correlations) })) : [],
      rules: e.quantities.map((quantity, k) =>
        buildBudget({
          ...shared,
          quantity,
          scale: scales[quantity.key],
          refinement: refinement[k],
          recordError: (run) => valueError(run, quantity, e.setup),
        }),
      ),
    };
  },
  shape: { rules: z.array(Budget), inputs: z.array(InputBudget) },
};

/** Where the sensitivity of a quantity to an input may come from. */
function sensitivities({ e, set, ladder }: Ground): SensitivityMeans {
  const values = ladder[0]?.result?.quantities ?? {};
  if (!e.derived || !set) return { values, swept: e.swept ?? [] };
  const constants = Object.fromEntries(e.derived.inputs.map((i) => [i.name, i.value]));
  return { values, derived: { set, keys: e.derived.specs.map((s) => s.key), constants }, swept: e.swept ?? [] };
}
