import { rulesOf } from "../../remarks/rule.ts";

/** What is known of the finest mesh of a ladder, and what it cost. */
export interface PlanFrom {
  /** 95 %, over scale */
  readonly relative: number;
  /** order in use */
  readonly order: number;
  readonly cells: number;
  readonly dimension: 2 | 3;
  /** s */
  readonly seconds?: number | undefined;
  /** exponent of time against cells */
  readonly costExponent: number;
}

/** A mesh, what it would leave and what it would cost. */
export interface MeshPlan {
  readonly what: string;
  /** times as fine as the finest mesh; below one it is coarser */
  readonly ratio: number;
  /** 95 %, over scale */
  readonly relative: number;
  readonly cells: number;
  readonly seconds?: number;
}

const planned = (what: string, ratio: number, p: PlanFrom): MeshPlan => ({
  what,
  ratio,
  relative: p.relative / ratio ** p.order,
  cells: Math.ceil(p.cells * ratio ** p.dimension),
  ...(p.seconds === undefined ? {} : { seconds: p.seconds * ratio ** (p.dimension * p.costExponent) }),
});

/**
 * Meshes that would bring an uncertainty to given targets, and what half and twice the cost would buy.
 * @param targets uncertainties over scale, by what they are
 * @throws {RangeError} uncertainty, order or a target not positive
 * @example
 * meshPlans({ relative: 0.04, order: 2, cells: 1000, dimension: 2, costExponent: 1 }, { "the limit": 0.01 })[0].cells // 4000
 */
export function meshPlans(p: PlanFrom, targets: Readonly<Record<string, number>>): MeshPlan[] {
  if (!(p.relative > 0 && p.order > 0 && Object.values(targets).every((t) => t > 0)))
    throw new RangeError("Uncertainty, order and targets must be positive.");
  const to = Object.entries(targets).map(([what, target]) => planned(what, (p.relative / target) ** (1 / p.order), p));
  const costs = ([2, 0.5] as const).map((factor) =>
    planned(factor === 2 ? "twice the cost" : "half the cost", factor ** (1 / (p.dimension * Math.max(1, p.costExponent))), p),
  );
  return [...to, ...costs];
}

/** Exponent of computing time against cells from the two finest runs; 1 where they do not tell, never less. */
export function costExponent(fine: { cells: number; seconds?: number | undefined }, medium: { cells: number; seconds?: number | undefined }): number {
  if (!fine.seconds || !medium.seconds || !(fine.seconds > medium.seconds) || !(fine.cells > medium.cells)) return 1;
  return Math.max(1, Math.log(fine.seconds / medium.seconds) / Math.log(fine.cells / medium.cells));
}

/** What halving one error source does to the sum of all, by squares. */
export interface Halved {
  readonly name: string;
  readonly relative: number;
  /** sum when this one alone is halved */
  readonly sum: number;
}

/** Sources by what halving each of them would gain, the most first; those that are nothing are left out. */
export function halvings(sources: readonly { readonly name: string; readonly relative: number }[]): Halved[] {
  const square = sources.reduce((s, x) => s + x.relative ** 2, 0);
  return sources
    .filter((x) => x.relative > 0)
    .map((x) => ({ ...x, sum: Math.sqrt(square - 0.75 * x.relative ** 2) }))
    .sort((a, b) => a.sum - b.sum);
}

/** The rules of this file in words. */
export const PLANNING_RULES = rulesOf("core/method/refinement/planning.ts", [
  {
    rule: "planned-mesh",
    text: "A mesh r times as fine leaves U / r^p at the order in use and has r^D times the cells; its time follows the exponent of the two finest runs, at least 1. Halving one source leaves the root of the sum of squares with that one halved.",
    source: "own",
  },
]);
