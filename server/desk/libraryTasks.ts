import { type Explored, explore } from "../../core/exact/explore.ts";
import { type Conditions, ranked } from "../../core/exact/fitting.ts";
import { findSolution } from "../../core/exact/library.ts";

export interface ExploreWish {
  readonly solution: string;
  /** texts with units, or numbers in SI */
  readonly typed: Readonly<Record<string, string | number>>;
  readonly samples?: number;
}

/** A solution at parameters as typed; undefined where the library has none of that name. */
export function exploreLibrary({ solution, typed, samples }: ExploreWish): Explored | undefined {
  const s = findSolution(solution);
  return s && explore(s, typed, samples);
}

/** Solutions by how well they go with a case, best first. */
export const fitLibrary = (conditions: Conditions) =>
  ranked(conditions).map(({ solution: { id, name }, fit: { inside, against } }) => ({ id, name, inside, against: [...against] }));
