import { worst } from "../../remarks/remark.ts";
import { plural, type StagePart } from "../stages/part.ts";
import { refinementChapter } from "./chapter.ts";
import { refinementWords } from "./words.ts";

export const refinement: StagePart = {
  stage: "refinement",
  restsOnRuns: true,
  line: (e, { refinement: found }) => {
    const refined = found.filter((r) => r.result).length;
    return {
      line: refined ? `${refined} of ${plural(e.quantities.length, "quantity", "quantities")}` : "needs three meshes",
      state: worst(found.map((r) => r.state)),
    };
  },
  words: refinementWords,
  chapter: refinementChapter,
};
