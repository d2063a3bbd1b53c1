import { duration, percent, sentenceCase } from "../../formatting/number.ts";
import { type ErrorSource, K_NUMERICAL } from "../../method/budget/errorBudget.ts";
import { K } from "../../method/comparison/compareValue.ts";
import { costExponent, meshPlans } from "../../method/refinement/planning.ts";
import type { NumericalSpread } from "../../records/studyChoice.ts";
import type { QuantityComparison } from "../results/comparison.ts";
import type { QuantityRefinement } from "../results/refinement.ts";
import type { Gain } from "../results/verdict.ts";

/** What making one source smaller would do to the band of a comparison: the mesh by a mesh that reaches what is needed, another source halved. */
export function gainOf(
  source: ErrorSource,
  c: QuantityComparison | undefined,
  refinement: QuantityRefinement,
  spread: NumericalSpread = "centred",
): Gain | undefined {
  if (!c || c.uVal === undefined || source.relative === undefined || !(source.relative > 0)) return undefined;
  const u = c.uVal / c.scale;
  const k = source.key === "mesh" ? K_NUMERICAL[spread] : 2;
  const part = source.relative / k;
  const rest = Math.sqrt(Math.max(0, u * u - part * part));
  const from = K * u;
  const room = c.limit - Math.abs(c.difference) / c.scale;
  const plan = source.key === "mesh" ? meshFor(k * Math.sqrt(Math.max(0, (room / K) ** 2 - rest * rest)), refinement) : undefined;
  if (plan && room > K * rest) {
    const to = K * Math.hypot(rest, plan.relative / k);
    const time = plan.seconds === undefined ? "" : `, in about ${duration(plan.seconds)}`;
    return {
      from,
      to,
      ...(plan.seconds === undefined ? {} : { seconds: plan.seconds }),
      sentence: `A mesh of ${plan.cells.toLocaleString("en")} cells would bring the band from ${percent(from)} to ${percent(to)}, which keeps the limit${time}.`,
    };
  }
  const to = K * Math.hypot(rest, part / 2);
  const reach =
    room > 0 && to <= room ? "which keeps the limit" : `the limit needs ${room > 0 ? percent(room) : "a smaller difference, whatever the band"}`;
  return { from, to, sentence: `Half of ${source.name} would bring the band from ${percent(from)} to ${percent(to)}; ${reach}.` };
}

/** The mesh that leaves a target uncertainty, at the order the refinement has observed or its formal one. */
function meshFor(target: number, { rungs, relative, result }: QuantityRefinement) {
  const [fine, medium] = rungs.filter((r) => !r.leftOut && r.value !== undefined);
  if (!fine || !(target > 0) || !(relative && relative > target)) return undefined;
  const order = result?.kind === "monotone" ? result.orderUsed : undefined;
  if (!order) return undefined;
  const from = {
    relative,
    order,
    cells: fine.cells,
    dimension: fine.dimension,
    seconds: fine.seconds,
    costExponent: costExponent(fine, medium ?? fine),
  };
  return meshPlans(from, { "the limit": target })[0];
}

/** The mesh that refinement itself has planned, which brings the mesh uncertainty to its limit. */
export function gainOfNext({ relative, limit, next }: QuantityRefinement): Gain | undefined {
  if (!next || relative === undefined) return undefined;
  const time = next.seconds === undefined ? "" : `, in about ${duration(next.seconds)}`;
  return {
    from: relative,
    to: limit,
    ...(next.seconds === undefined ? {} : { seconds: next.seconds }),
    sentence: `A mesh of ${next.cells.toLocaleString("en")} cells would bring the mesh uncertainty from ${percent(relative)} to its limit of ${percent(limit)}${time}.`,
  };
}

/** What settling an open source would do: the band is then known, and no smaller than what is known of it; and what a run for it costs. */
export function gainOfSettling(open: number, c: QuantityComparison | undefined, seconds: number | "no run" | undefined): Gain {
  const left = open - 1;
  const after = left ? `${left} more ${left === 1 ? "source is" : "sources are"} open then` : "the verdict can be given then";
  const cost = seconds === "no run" ? " It needs no run." : seconds === undefined ? "" : ` A run like the finest takes about ${duration(seconds)}.`;
  const known = c && c.uValAtLeast > 0 ? (K * c.uValAtLeast) / c.scale : undefined;
  const band = known === undefined ? "" : `The band is at least ${percent(known)} and will not get smaller by it; `;
  return {
    ...(known === undefined ? {} : { from: known }),
    ...(typeof seconds === "number" ? { seconds } : {}),
    sentence: `${sentenceCase(`${band}${after}`)}.${cost}`,
  };
}
