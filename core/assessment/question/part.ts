import { plural, type StagePart } from "../stages/part.ts";
import { questionChapter } from "./chapter.ts";
import { questionWords } from "./words.ts";

export const question: StagePart = {
  stage: "question",
  line: (e, a) => {
    const doubts = a.setup.remarks.filter((r) => r.severity !== "note").length;
    return { line: doubts ? plural(doubts, "doubt") : plural(e.quantities.length, "quantity", "quantities"), state: a.setup.state };
  },
  words: questionWords,
  chapter: questionChapter,
};
