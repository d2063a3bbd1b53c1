/** Procedures by which the uncertainty of the finest value can be told; the first two may be adopted by the rule, all by a person. */
export const PROCEDURES = ["three-mesh", "least-squares", "factor-of-safety", "correction-factor"] as const;

export type ProcedureKey = (typeof PROCEDURES)[number];

export const PROCEDURE_WORDS: Readonly<Record<ProcedureKey, string>> = {
  "three-mesh": "three-mesh index",
  "least-squares": "least squares",
  "factor-of-safety": "factor of safety",
  "correction-factor": "correction factor",
};
