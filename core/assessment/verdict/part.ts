import { worst } from "../../remarks/remark.ts";
import type { StagePart } from "../stages/part.ts";
import { verdictWords } from "./words.ts";

export const verdict: StagePart = {
  stage: "verdict",
  restsOnRuns: true,
  line: (e, { verdicts }) => {
    const holds = verdicts.filter((v) => v.state === "holds" || v.state === "remark").length;
    return {
      line: holds ? `${holds} of ${e.quantities.length} hold` : (verdicts[0]?.word ?? "incomplete"),
      state: worst(verdicts.map((v) => v.state)),
    };
  },
  words: verdictWords,
};
