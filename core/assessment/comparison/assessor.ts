import { z } from "zod";
import type { ErrorBudget } from "../../method/budget/errorBudget.ts";
import { type FieldOrders, fieldOrders } from "../../method/comparison/comparison.ts";
import type { QuantityComparison } from "../results/comparison.ts";
import type { Assessor, Ground } from "../stages/assessor.ts";
import { number, State } from "../stages/shapes.ts";
import { compareAll, compareProfiles } from "./comparing.ts";

const Comparison = z.looseObject({
  yardstick: z.string(),
  yardstickKey: z.string(),
  simulated: number,
  reference: number,
  difference: number,
  scale: number,
  uNum: number,
  uInput: number,
  uReference: number,
  uVal: number.optional(),
  uValAtLeast: number,
  open: z.array(z.string()),
  claim: z.enum(["within-noise", "beyond-noise", "incomplete"]),
  sentence: z.string(),
  inside: z.boolean(),
  decides: z.boolean(),
  limit: number,
  state: State,
});

/** Compares, and enters the differences into the budgets, which were complete but for them. */
export const comparisonAssessor: Assessor = {
  assess: (g, { rules }) => {
    const { e, ladder } = g;
    const values = Object.fromEntries(e.quantities.map((q, k) => [q.key, compareAll(e, q, ladder[0], rules[k])]));
    return {
      comparison: { values, ...compareProfiles(e, ladder[0]), orders: ordersOf(g) },
      rules: rules.map((r) => withDifference(r, values[r.quantityKey])),
    };
  },
  shape: {
    comparison: z.looseObject({
      values: z.record(z.string(), z.array(Comparison)),
      profiles: z.array(z.looseObject({ profileKey: z.string(), yardstick: z.string(), name: z.string(), l1: number, l2: number, linf: number })),
      refused: z.array(z.looseObject({ yardstick: z.string(), name: z.string(), sentence: z.string() })),
    }),
  },
};

/** The budget with the difference from the yardstick that counts most, and twice the validation uncertainty, at least what is known of it. */
function withDifference(rule: ErrorBudget, comparisons: readonly QuantityComparison[]): ErrorBudget {
  const first = comparisons[0];
  if (!first) return rule;
  const band = (u: number) => (2 * u) / rule.scale;
  return {
    ...rule,
    difference: first.difference / rule.scale,
    ...(first.uVal === undefined ? { bandAtLeast: band(first.uValAtLeast) } : { band: band(first.uVal) }),
  };
}

function ordersOf({ e, ladder }: Ground): FieldOrders | undefined {
  const rows = ladder.flatMap((r) =>
    r.mesh && r.result?.errorNorms[0] ? [{ label: r.label, spacing: r.mesh.spacing, norms: r.result.errorNorms[0] }] : [],
  );
  return rows.length ? fieldOrders(rows, e.formalOrder) : undefined;
}
