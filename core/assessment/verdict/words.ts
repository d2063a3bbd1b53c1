import { sentenceCase } from "../../formatting/number.ts";
import type { Margin, MarginNote } from "../results/margin.ts";
import type { Verdict } from "../results/verdict.ts";
import type { Told } from "../stages/part.ts";
import { nextText, reasonText } from "./verdict.ts";

/** What the margin says of the verdict on a quantity. */
export function verdictWords({ assessment: a, quantity: q }: Told): Margin | undefined {
  const v = a.verdicts.find((x) => x.quantityKey === q.key);
  if (!v) return undefined;
  const dominant = a.rules.find((r) => r.quantityKey === q.key)?.dominant;
  const reasons = v.reasons.map(
    (r, k): MarginNote => ({
      heading: v.reasons.length === 1 ? "Why" : `Why, ${k + 1} of ${v.reasons.length}`,
      sentence: reasonText(r),
      rule: r.rule,
      go: r.go,
    }),
  );
  return {
    label: q.name,
    figure: v.word,
    verdict: "",
    tone: v.state,
    notes: [
      { heading: "What may be claimed", sentence: v.claim.sentence, rule: "claim" },
      ...reasons,
      ...next(v),
      ...(dominant ? [{ heading: "Largest source", sentence: `${sentenceCase(dominant)} dominates.` }] : []),
    ],
  };
}

function next(v: Verdict): MarginNote[] {
  if (v.next)
    return [
      {
        heading: v.state === "none" ? "Cheapest next step" : "Next",
        sentence: nextText(v.next),
        go: v.next.go,
      },
    ];
  if (v.state !== "holds") return [];
  return [{ heading: "Next", sentence: "Nothing is left to settle. Issue the report.", go: "report" }];
}
