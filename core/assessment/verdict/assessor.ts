import { z } from "zod";
import type { QuantitySpec } from "../../records/quantity.ts";
import { weigh } from "../comparison/comparing.ts";
import type { Stage as StageName } from "../results/stage.ts";
import type { Verdict as QuantityVerdict } from "../results/verdict.ts";
import type { Assessor, Ground } from "../stages/assessor.ts";
import type { Assessed } from "../stages/part.ts";
import { Stage, State } from "../stages/shapes.ts";
import { judge, type Part } from "./verdict.ts";

const Reason = z.looseObject({ sentence: z.string(), go: Stage, rule: z.string().optional() });

const Verdict = z.looseObject({
  quantityKey: z.string(),
  state: State,
  word: z.enum(["holds", "holds with a remark", "fails", "stale", "incomplete"]),
  sentence: z.string(),
  reasons: z.array(Reason),
  settles: z.array(Reason),
  next: Reason.optional(),
});

export const verdictAssessor: Assessor = {
  assess: (g, found) => ({ verdicts: g.e.quantities.map((q, k) => verdictOf(g, q, k, found)) }),
  shape: { verdicts: z.array(Verdict) },
};

const NOTHING = { state: "none", remarks: [] } as const;

function verdictOf({ e, ladder, stale }: Ground, quantity: QuantitySpec, k: number, f: Assessed): QuantityVerdict {
  const part = (stage: StageName, { state, remarks }: Pick<Part, "state" | "remarks"> = NOTHING): Part => ({ stage, state, remarks });
  return judge({
    quantity,
    stale,
    broughtIn: (ladder[0]?.origin ?? (e.broughtIn ? "brought-in" : "bench")) === "brought-in",
    parts: [part("question", f.setup), part("settling", f.settling[0]), part("balance", f.balance[0]), part("refinement", f.refinement[k])],
    refinement: f.refinement[k],
    comparison: weigh(f.comparison.values[quantity.key]),
    rule: f.rules[k],
    findings: (e.openFindings ?? []).filter((x) => x.quantityKey === undefined || x.quantityKey === quantity.key).map((x) => x.title),
  });
}
