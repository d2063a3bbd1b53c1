import { worst } from "../../remarks/remark.ts";
import type { StagePart } from "../stages/part.ts";
import { comparisonChapter } from "./chapter.ts";
import { comparisonWords } from "./words.ts";

export const comparison: StagePart = {
  stage: "comparison",
  restsOnRuns: true,
  line: (e, { comparison: { values } }) => {
    const found = Object.values(values);
    return {
      line: `${found.filter((v) => v.length).length} of ${e.quantities.length} done`,
      state: worst(found.flatMap((v) => (v[0] ? [v[0].state] : []))),
    };
  },
  words: comparisonWords,
  chapter: comparisonChapter,
};
