import { leading, valuesFor } from "../../stages/scale.ts";
import type { SourceAssessor } from "./source.ts";

export const reference: SourceAssessor = {
  key: "reference",
  name: "reference",
  group: "input",
  stage: "yardsticks",
  find: ({ evidence: e, quantity: q, scale }) => {
    const first = leading(valuesFor(e.yardsticks, q.key));
    const u = first?.value.standardUncertainty;
    return {
      relative: u === undefined ? undefined : (2 * u) / scale.value,
      note: first ? `${first.yardstick.name}: ${first.value.uncertaintyNote}` : "no yardstick for this quantity",
    };
  },
  settle: () => ({ sentence: "state the uncertainty of the yardstick, or estimate it", go: "yardsticks" }),
  effort: 4,
};
