import type { CaseEvidence } from "../records/case.ts";
import { groundOf } from "./ground.ts";
import { ASSESSORS, stageLines } from "./registry.ts";
import type { CaseAssessment } from "./results/case.ts";
import type { Assessed } from "./stages/part.ts";

/** Assesses a case from its evidence. Pure: the same evidence gives the same result. */
export function assessCase(evidence: CaseEvidence): CaseAssessment {
  const ground = groundOf(evidence);
  const { e, ladder, stale } = ground;
  const found: Partial<Assessed> = { caseId: e.caseId, ladder: ladder.map((r) => r.id), stale };
  // Each step adds its part; that none reads a later one's is held by a test.
  for (const step of ASSESSORS) Object.assign(found, step.assess(ground, found as Assessed));
  const whole = found as Assessed;
  return { ...whole, stages: stageLines(e, whole) };
}
