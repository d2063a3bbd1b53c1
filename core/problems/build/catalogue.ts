import { backwardFacingStep } from "./backwardFacingStep.ts";
import { chamber } from "./chamber.ts";
import { corner, ramp } from "./corners.ts";
import { cylinder, cylinderShedding } from "./cylinder.ts";
import { cylinders } from "./cylinders.ts";
import { contouredDuct } from "./duct.ts";
import { shockTube } from "./gasTubes.ts";
import { heated } from "./heated.ts";
import { liddedBox } from "./liddedBox.ts";
import { manufacturedCarriedProblem, manufacturedFlowProblem, manufacturedGasProblem } from "./manufactured.ts";
import { pipe, pipeEntry } from "./pipe.ts";
import { plates } from "./plates.ts";
import type { BenchProblem } from "./problem.ts";
import { taylorGreenVortex } from "./taylorGreenVortex.ts";
import { travellingVortex } from "./vortex.ts";
import { wake } from "./wake.ts";

export const BENCH_PROBLEMS: readonly BenchProblem[] = [
  plates,
  liddedBox,
  pipe,
  pipeEntry,
  cylinders,
  wake,
  taylorGreenVortex,
  chamber,
  backwardFacingStep,
  cylinder,
  cylinderShedding,
  heated,
  shockTube,
  ramp,
  corner,
  contouredDuct,
  travellingVortex,
  manufacturedFlowProblem,
  manufacturedCarriedProblem,
  manufacturedGasProblem,
];

/** @throws {RangeError} No problem of that name. */
export function benchProblem(id: string): BenchProblem {
  const found = BENCH_PROBLEMS.find((p) => p.id === id);
  if (!found) throw new RangeError(`There is no bench problem "${id}".`);
  return found;
}
