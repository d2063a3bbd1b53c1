import { z } from "zod";
import { fromPlain, toPlain } from "../solver/wire.ts";
import { ASSESSORS } from "./registry.ts";
import type { CaseAssessment } from "./results/case.ts";
import { Stage, State } from "./stages/shapes.ts";

/** Shape of an assessment: what every page, report and answer takes for granted. */
const Assessment = z.looseObject({
  caseId: z.string(),
  ladder: z.array(z.string()),
  stale: z.boolean(),
  ...Object.assign({}, ...ASSESSORS.map((a) => a.shape)),
  stages: z.array(z.looseObject({ stage: Stage, title: z.string(), line: z.string(), state: State })),
});

/** An assessment as it is kept: plain JSON that loses no number, also none that JSON has no word for. */
export const writeAssessment = (a: CaseAssessment): unknown => toPlain(a);

/** A kept assessment, or undefined where what was kept is none: then it is worked out anew. */
export function readAssessment(stored: unknown): CaseAssessment | undefined {
  const read = Assessment.safeParse(fromPlain(stored));
  return read.success ? (read.data as unknown as CaseAssessment) : undefined;
}

/** JSON Schema (draft 2020-12) of an assessment as it is kept; null stands for a figure that is none. */
export const assessmentSchema = (): object => ({
  $id: "tin-ruler-assessment-1",
  title: "Every figure worked out of a case",
  ...z.toJSONSchema(Assessment, { io: "input", unrepresentable: "any" }),
});
