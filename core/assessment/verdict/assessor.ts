import { z } from "zod";
import type { QuantitySpec } from "../../records/quantity.ts";
import { weigh } from "../comparison/comparing.ts";
import type { Stage as StageName } from "../results/stage.ts";
import type { Verdict as QuantityVerdict } from "../results/verdict.ts";
import type { Assessor, Ground } from "../stages/assessor.ts";
import type { Assessed } from "../stages/part.ts";
import { number, Stage, State } from "../stages/shapes.ts";
import { claimOf } from "./claim.ts";
import { blockedBy, judge, type Part } from "./verdict.ts";

const Reason = z.looseObject({ sentence: z.string(), go: Stage, rule: z.string().optional() });

const Verdict = z.looseObject({
  quantityKey: z.string(),
  state: State,
  word: z.enum(["holds", "holds with a remark", "fails", "stale", "incomplete"]),
  sentence: z.string(),
  reasons: z.array(Reason),
  settles: z.array(Reason),
  next: Reason.extend({
    gain: z.looseObject({ sentence: z.string(), from: number.optional(), to: number.optional(), seconds: number.optional() }).optional(),
  }).optional(),
  claim: z.looseObject({
    kind: z.enum(["model-error", "numerical", "nothing"]),
    low: number.optional(),
    high: number.optional(),
    conditions: z.array(z.string()),
    restsOn: z.array(z.string()),
    byArgument: z.array(z.string()),
    notCovered: z.array(z.string()),
    sentence: z.string(),
  }),
});

export const verdictAssessor: Assessor = {
  assess: (g, found) => ({ verdicts: g.e.quantities.map((q, k) => verdictOf(g, q, k, found)) }),
  shape: { verdicts: z.array(Verdict) },
};

/** A mesh that is coarser than asked for leaves a wide interval, not a wrong one. */
const WIDE_ONLY = ["mesh-over-limit"];

/** What makes the evidence worthless: a stage that fails by more than a limit of its own. */
function brokenBy(parts: readonly Part[]): string | undefined {
  for (const p of parts.filter((x) => x.state === "fails")) {
    const stops = p.remarks.filter((r) => r.severity === "stop" && !r.answered);
    const [worst] = stops.filter((r) => !WIDE_ONLY.includes(r.rule));
    if (worst) return worst.sentence.replace(/\.$/, "");
    if (!stops.length) return `${p.stage} fails`;
  }
  return undefined;
}

const NOTHING = { state: "none", remarks: [] } as const;

function verdictOf({ e, ladder, stale }: Ground, quantity: QuantitySpec, k: number, f: Assessed): QuantityVerdict {
  const part = (stage: StageName, { state, remarks }: Pick<Part, "state" | "remarks"> = NOTHING): Part => ({ stage, state, remarks });
  const parts = [part("question", f.setup), part("settling", f.settling[0]), part("balance", f.balance[0]), part("refinement", f.refinement[k])];
  const about = (e.openFindings ?? []).filter((x) => x.quantityKey === undefined || x.quantityKey === quantity.key);
  const blocking = about.filter((x) => x.blocking).map((x) => x.title);
  const comparison = weigh(f.comparison.values[quantity.key]);
  const judged = judge({
    quantity,
    stale,
    broughtIn: (ladder[0]?.origin ?? (e.broughtIn ? "brought-in" : "bench")) === "brought-in",
    parts,
    refinement: f.refinement[k],
    comparison,
    spread: e.spread?.spread,
    rule: f.rules[k],
    findings: about.filter((x) => !x.blocking).map((x) => x.title),
    blocking,
  });
  const broken = brokenBy(parts) ?? (blocking.length ? blockedBy(blocking[0]) : undefined);
  const claim = claimOf({
    quantity,
    rule: f.rules[k],
    first: comparison.first,
    ladder,
    similarity: f.setup.similarity,
    compressible: e.setup.compressible,
    fluid: e.setup.fluidName,
    defined: e.kind !== "measured",
    stale,
    broken,
    spread: e.spread?.spread,
  });
  return { ...judged, claim };
}
