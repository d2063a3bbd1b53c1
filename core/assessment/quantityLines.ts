import { standardOf } from "../method/budget/errorBudget.ts";
import type { CaseEvidence } from "../records/case.ts";
import type { QuantityLine } from "./results/boardRow.ts";
import type { CaseAssessment } from "./results/case.ts";

/** Every quantity of a case as it stands among others: its numerical uncertainty, its sources, its verdict. */
export function quantityLines({ quantities }: Pick<CaseEvidence, "quantities">, a: Pick<CaseAssessment, "rules" | "verdicts">): QuantityLine[] {
  return quantities.flatMap(({ key, name, unit, limit }) => {
    const rule = a.rules.find((r) => r.quantityKey === key);
    if (!rule) return [];
    const verdict = a.verdicts.find((v) => v.quantityKey === key);
    const { value, difference, band, dominant, missing, sources } = rule;
    return [
      {
        key,
        name,
        unit,
        ...(value === undefined ? {} : { value }),
        numerical: 2 * standardOf(sources.filter((s) => s.group !== "input")),
        open: missing,
        ...(dominant === undefined ? {} : { largest: dominant }),
        limit,
        scale: rule.scale,
        state: verdict?.state ?? "none",
        sentence: verdict?.claim.sentence ?? "",
        ...(verdict?.next ? { next: { sentence: verdict.next.sentence, go: verdict.next.go } } : {}),
        rule: {
          ...(difference === undefined ? {} : { difference }),
          ...(band === undefined ? {} : { band }),
          sources: sources.map((s) => ({
            key: s.key,
            name: s.name,
            group: s.group,
            ...(s.relative === undefined ? {} : { relative: s.relative }),
            ...(s.settled ? { settled: s.settled } : {}),
          })),
        },
      },
    ];
  });
}
