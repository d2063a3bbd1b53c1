import { LOOK_COVERAGE } from "./lookCoverage.ts";
import type { ThreeMesh } from "./threeMesh.ts";

/** How a set of values looks to whoever does not know its truth. */
export const LOOKS = ["formal", "slow", "fast", "oscillating", "diverging", "degenerate"] as const;

export type Look = (typeof LOOKS)[number];

export const LOOK_WORDS: Readonly<Record<Look, string>> = {
  formal: "monotone, of the formal order",
  slow: "monotone, of a lower order than the formal one",
  fast: "monotone, of a higher order than the formal one",
  oscillating: "oscillating",
  diverging: "diverging",
  degenerate: "without an order",
};

/** How the finest three values look. */
export function lookOf(r: ThreeMesh, formalOrder: number): Look {
  if (r.kind !== "monotone") return r.kind;
  if (r.agrees) return "formal";
  return r.order < formalOrder ? "slow" : "fast";
}

/** Sets of the coverage study that looked alike, and how many of them the adopted uncertainty covered. */
export interface LookCoverage {
  readonly sets: number;
  readonly covered: number;
}

const FEWEST = 100;
const MOST_RUNGS = 6;

/**
 * What became of seeded sets that looked the same with as many rungs; undefined where fewer than a hundred did.
 * @param rungs as many as took part; more than six count as six
 */
export function coverageOfLook(look: Look, rungs: number): LookCoverage | undefined {
  const found = LOOK_COVERAGE[`${look} ${Math.min(rungs, MOST_RUNGS)}`];
  return found && found.sets >= FEWEST ? found : undefined;
}
