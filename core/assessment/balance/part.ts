import { worst } from "../../remarks/remark.ts";
import type { StagePart } from "../stages/part.ts";
import { balanceChapter } from "./chapter.ts";
import { balanceWords } from "./words.ts";

export const balance: StagePart = {
  stage: "balance",
  restsOnRuns: true,
  line: (_e, { balance: found }) => ({
    line:
      found[0]?.lines.map((l) => l.what.replace(" momentum", "")).join(", ") || (found[0]?.surface?.lines.length ? "forces alone" : "not measured"),
    state: worst(found.map((b) => b.state)),
  }),
  words: balanceWords,
  chapter: balanceChapter,
};
