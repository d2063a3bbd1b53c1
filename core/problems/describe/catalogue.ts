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
import { anyParameters, type Parameters, type ProblemDescription } from "./problem.ts";
import { taylorGreenVortex } from "./taylorGreenVortex.ts";
import { travellingVortex } from "./vortex.ts";
import { wake } from "./wake.ts";

/** Every problem the bench can run, in the order they are offered. */
export const DESCRIPTIONS: readonly ProblemDescription[] = [
  anyParameters(plates),
  anyParameters(liddedBox),
  anyParameters(pipe),
  anyParameters(pipeEntry),
  anyParameters(cylinders),
  anyParameters(wake),
  anyParameters(taylorGreenVortex),
  anyParameters(chamber),
  anyParameters(backwardFacingStep),
  anyParameters(cylinder),
  anyParameters(cylinderShedding),
  anyParameters(heated),
  anyParameters(shockTube),
  anyParameters(ramp),
  anyParameters(corner),
  anyParameters(contouredDuct),
  anyParameters(travellingVortex),
  anyParameters(manufacturedFlowProblem),
  anyParameters(manufacturedCarriedProblem),
  anyParameters(manufacturedGasProblem),
];

/** @throws {RangeError} No problem of that name. */
export function described(id: string): ProblemDescription {
  const found = DESCRIPTIONS.find((p) => p.id === id);
  if (!found) throw new RangeError(`There is no bench problem "${id}".`);
  return found;
}

/** The figures a template proposes. */
export const presetParameters = <P extends Parameters>(p: Pick<ProblemDescription<P>, "parameters" | "reference">): P =>
  Object.fromEntries(p.parameters.map((q) => [q.key, q.preset])) as unknown as P;

/** Formulas of a template as it comes, by their keys. */
export const presetFormulas = (p: Pick<ProblemDescription, "formulas">): Record<string, string> =>
  Object.fromEntries((p.formulas ?? []).map((q) => [q.key, q.preset]));
