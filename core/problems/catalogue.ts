import { liddedBox } from "./liddedBox.ts";
import { plates } from "./plates.ts";
import type { BenchProblem } from "./problem.ts";

export const BENCH_PROBLEMS: readonly BenchProblem[] = [plates, liddedBox];

/** @throws {RangeError} No problem of that name. */
export function benchProblem(id: string): BenchProblem {
  const found = BENCH_PROBLEMS.find((p) => p.id === id);
  if (!found) throw new RangeError(`There is no bench problem "${id}".`);
  return found;
}
