import { checkOwn } from "../../method/propagation/ownRules.ts";
import { checkSetup } from "../../method/setup/checks.ts";
import { similarityNumbers } from "../../method/setup/setup.ts";
import type { CaseEvidence } from "../../records/case.ts";
import { stateOf, withAnswers } from "../../remarks/remark.ts";
import type { CaseAssessment } from "../results/case.ts";

/** The set-up's similarity numbers, and what its rules say of it with the answers given. */
export function assessSetup(e: CaseEvidence): CaseAssessment["setup"] {
  const similarity = similarityNumbers(e.setup);
  const numbers = similarity.map(({ key, unit, value }) => ({ name: key, unit, value }));
  const own = e.own ? checkOwn(e.own.rules, [...e.own.values, ...numbers]) : [];
  const remarks = withAnswers([...checkSetup(e.setup), ...own], e.answers ?? []);
  return { similarity, remarks, state: stateOf(remarks) };
}
