import { assessBalance, type BalanceAssessment } from "../../method/balance/balance.ts";
import { assessLaws } from "../../method/balance/laws.ts";
import { assessSurface } from "../../method/balance/surfaceForces.ts";
import type { LawReading } from "../../records/laws.ts";
import type { QuantitySpec } from "../../records/quantity.ts";
import type { RunEvidence } from "../../records/run.ts";
import { type State, worst } from "../../remarks/remark.ts";
import { rulesOf } from "../../remarks/rule.ts";
import type { RunBalance } from "../results/balance.ts";

export interface BalanceInput {
  readonly run: RunEvidence;
  readonly quantities: readonly QuantitySpec[];
  /** relative mesh uncertainty of each quantity on this run's mesh, where known */
  readonly meshUncertainty: Readonly<Record<string, number | undefined>>;
  /** smallest of those on the finest mesh */
  readonly smallest?: number | undefined;
  /** body and flow are said to be symmetric */
  readonly symmetric: boolean;
}

const NO_FLOWS: BalanceAssessment = { lines: [], remarks: [], state: "none" };

/** What goes in and out of a run, what every flow of its kind obeys, and what was worked out twice; undefined where nothing of it was delivered. */
export function assessRunBalance({ run, quantities, meshUncertainty, smallest, symmetric }: BalanceInput): RunBalance | undefined {
  const { result } = run;
  if (!result) return undefined;
  const readings: LawReading[] = [
    ...(result.laws ?? []),
    ...(symmetric ? crossForces(quantities, result.quantities) : []),
    ...efficiencies(quantities, result.quantities),
  ];
  const accepted = Object.fromEntries(quantities.map((q) => [q.key, q.limit]));
  const laws = assessLaws(run.label, readings, result.second ?? [], meshUncertainty, accepted);
  const surface =
    result.surface && assessSurface(run.label, result.surface, Object.fromEntries(quantities.map((q) => [q.key, q])), result.quantities);
  if (!result.balance && laws.state === "none" && !surface) return undefined;
  const flows = result.balance ? assessBalance(result.balance, smallest) : NO_FLOWS;
  return {
    runId: run.id,
    label: run.label,
    cells: run.mesh?.cells,
    lines: flows.lines,
    laws: laws.laws,
    second: laws.second,
    ...(surface ? { surface } : {}),
    remarks: [...flows.remarks, ...laws.remarks, ...(surface?.remarks ?? [])],
    state: together(flows.state, worst([laws.state, surface?.state ?? "none"].filter((s) => s !== "none"))),
  };
}

/** Without any flow through a boundary the balance stays unmeasured, whatever else holds. */
function together(flows: State, laws: State): State {
  if (flows === "none") return laws === "fails" ? "fails" : "none";
  return laws === "none" ? flows : worst([flows, laws]);
}

/** Lift of a body said to be symmetric, over the largest force known. */
function crossForces(quantities: readonly QuantitySpec[], values: Readonly<Record<string, number>>): LawReading[] {
  return quantities.flatMap((q) => {
    const largest = Math.max(...quantities.filter((x) => x.unit === q.unit).map((x) => Math.abs(values[x.key] ?? 0)));
    const lift = values[q.key];
    if (q.kind !== "cross-force" || lift === undefined || !(largest > Math.abs(lift))) return [];
    return [{ law: "no-lift" as const, share: Math.abs(lift) / largest }];
  });
}

const efficiencies = (quantities: readonly QuantitySpec[], values: Readonly<Record<string, number>>): LawReading[] =>
  quantities
    .filter((q) => q.kind === "efficiency" && (q.unit === "1" || q.unit === "") && values[q.key] !== undefined)
    .map((q) => ({ law: "efficiency-below-one", share: Math.max(0, values[q.key] - 1) }));

/** The rules of this file in words. */
export const CROSS_FORCE_RULES = rulesOf("core/assessment/balance/assess.ts", [
  {
    rule: "no-lift",
    text: "Where the set-up says that body and flow are symmetric: a quantity said to be a lift or side force against the largest quantity of the same unit. 0.5 % is let pass, 5 % is a stop.",
    source: "symmetry",
  },
]);
