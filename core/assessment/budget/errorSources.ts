import { dominantSource, type ErrorBudget, type ErrorSource, numericalUncertainty, standardOf } from "../../method/budget/errorBudget.ts";
import { settled } from "../../method/budget/settlement.ts";
import { SOURCES } from "./registry.ts";
import type { RuleInput } from "./sources/source.ts";

/** All error sources of a quantity on one scale, settled by hand where nothing measured them. */
export function buildBudget(i: RuleInput): ErrorBudget {
  const { evidence: e, quantity: q } = i;
  const found = SOURCES.flatMap(({ key, name, group, stage, find }): ErrorSource[] => {
    const made = find(i);
    return made ? [{ key, name, group, stage, ...made }] : [];
  });
  const sources = found.map((s) => settled(s, e.settlements ?? [], q.key, e.setupHash));
  const uInputs = sources.find((s) => s.key === "inputs");
  return {
    quantityKey: q.key,
    scale: i.scale.value,
    ...(i.scale.name ? { scaleName: i.scale.name } : {}),
    value: i.finest?.result?.quantities[q.key],
    sources,
    uNum: numericalUncertainty(sources, e.spread?.spread),
    ...(uInputs ? { uInput: uInputs.relative === undefined ? undefined : standardOf([uInputs]) } : { uInput: 0 }),
    dominant: dominantSource(sources)?.name,
    missing: sources.filter((s) => s.relative === undefined).map((s) => s.name),
  };
}
