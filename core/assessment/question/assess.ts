import { checkSetup } from "../../method/setup/checks.ts";
import { similarityNumbers } from "../../method/setup/setup.ts";
import type { CaseEvidence } from "../../records/case.ts";
import { stateOf, withAnswers } from "../../remarks/remark.ts";
import type { CaseAssessment } from "../results/case.ts";

/** The set-up's similarity numbers, and what its rules say of it with the answers given. */
export function assessSetup(e: CaseEvidence): CaseAssessment["setup"] {
  const remarks = withAnswers(checkSetup(e.setup), e.answers ?? []);
  return { similarity: similarityNumbers(e.setup), remarks, state: stateOf(remarks) };
}
