import type { SourceAssessor } from "./source.ts";

export const domain: SourceAssessor = {
  key: "domain",
  name: "domain",
  group: "numerical",
  stage: "refinement",
  find: ({ evidence: e }) => (e.kind === "measured" ? { note: "no runs with another domain size" } : undefined),
  settle: () => ({ sentence: "bring in a run in a larger domain, bound what its edge does, or say that there is no far field", go: "runs" }),
  effort: 2,
};
