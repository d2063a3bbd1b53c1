import { worst } from "../../remarks/remark.ts";
import type { StagePart } from "../stages/part.ts";
import { settlingChapter } from "./chapter.ts";
import { settlingWords } from "./words.ts";

export const settling: StagePart = {
  stage: "settling",
  restsOnRuns: true,
  line: (_e, { settling: found }) => ({
    line: found.length ? `${found.filter((s) => s.state === "holds").length} of ${found.length}` : "needs a run",
    state: worst(found.map((s) => s.state)),
  }),
  words: settlingWords,
  chapter: settlingChapter,
};
