import { z } from "zod";
import type { ErrorBudget } from "../../method/budget/errorBudget.ts";
import { type FieldOrders, fieldOrders } from "../../method/comparison/comparison.ts";
import type { RunEvidence } from "../../records/run.ts";
import type { MethodOrders, QuantityComparison } from "../results/comparison.ts";
import type { LadderAssessment } from "../results/refinement.ts";
import type { Assessor, Ground } from "../stages/assessor.ts";
import { number, State } from "../stages/shapes.ts";
import { compareAll, compareCodes, compareProfiles } from "./comparing.ts";

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
  assess: (g, { rules, ladders, curves, inputs }) => {
    const { e, ladder } = g;
    const values = Object.fromEntries(e.quantities.map((q, k) => [q.key, compareAll(e, q, ladder[0], rules[k], inputs[k])]));
    const codes = Object.fromEntries(
      e.quantities.flatMap((q, k) => {
        const found = compareCodes(e, q, ladder[0], rules[k]);
        return found ? [[q.key, found]] : [];
      }),
    );
    return {
      comparison: { values, codes, ...compareProfiles(e, ladder[0], curves), orders: ordersOf(g), methods: methodsOf(g, ladders.list) },
      rules: rules.map((r) => withDifference(r, values[r.quantityKey])),
    };
  },
  shape: {
    comparison: z.looseObject({
      values: z.record(z.string(), z.array(Comparison)),
      profiles: z.array(z.looseObject({ profileKey: z.string(), yardstick: z.string(), name: z.string(), l1: number, l2: number, linf: number })),
      methods: z.array(z.looseObject({ method: z.string(), formalOrder: number })),
      codes: z.record(
        z.string(),
        z.looseObject({
          mean: number,
          spread: number,
          lowest: number,
          highest: number,
          each: z.array(z.looseObject({ label: z.string(), value: number, others: number, difference: number })),
          sentence: z.string(),
        }),
      ),
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

const ordersOf = ({ e, ladder }: Ground): FieldOrders | undefined => fieldsOf(ladder, e.formalOrder)[0];

/** Norms and orders of every field that is compared with an exact one, over runs on several meshes. */
function fieldsOf(runs: readonly RunEvidence[], formalOrder: number): FieldOrders[] {
  const names = [...new Set(runs.flatMap((r) => r.result?.errorNorms.map((n) => n.field) ?? []))];
  return names.map((field) => {
    const rows = runs.flatMap((r) => {
      const norms = r.result?.errorNorms.find((n) => n.field === field);
      return r.mesh && norms ? [{ label: r.label, spacing: r.mesh.spacing, norms }] : [];
    });
    return fieldOrders(rows, formalOrder);
  });
}

const NUMERICS = ["scheme", "flux", "limiter", "shape", "scheme order"] as const;
const FIRST_ORDER = ["upwind", "first-order"];

/** What a run was made with, as far as it tells methods apart. */
const methodOf = ({ made = {} }: RunEvidence): string => NUMERICS.flatMap((k) => (made[k] === undefined ? [] : `${k} ${made[k]}`)).join(", ");

/** Every method that solved the exact problem on two meshes or more, with its own verdict: the case's first. */
function methodsOf({ e, ladder }: Ground, ladders: readonly LadderAssessment[]): MethodOrders[] {
  const others = ladders.filter((l) => l.axis === "mesh").map((l) => l.runs.flatMap(({ runId }) => e.runs.find((r) => r.id === runId) ?? []));
  return [ladder, ...others].flatMap((runs) => {
    if (runs.length < 2) return [];
    const { made = {} } = runs[0];
    // The formal order is that of the case's own method; one of first order cannot have more.
    const formalOrder = NUMERICS.some((k) => FIRST_ORDER.includes(String(made[k])) || (k === "scheme order" && made[k] === 1)) ? 1 : e.formalOrder;
    return fieldsOf(runs, formalOrder).map((orders) => ({ method: methodOf(runs[0]) || runs[0].code, code: runs[0].code, formalOrder, orders }));
  });
}
