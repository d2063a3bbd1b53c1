import { worst } from "../../remarks/remark.ts";
import { plural, type StagePart } from "../stages/part.ts";
import { meshesChapter } from "./chapter.ts";
import { meshesWords } from "./words.ts";

export const meshes: StagePart = {
  stage: "meshes",
  line: (e, { meshes: judged }) => ({
    line: plural(new Set(e.runs.map((r) => r.mesh?.label)).size, "mesh", "meshes"),
    state: e.runs.length ? worst(["holds", ...judged.map((m) => m.state)]) : "none",
  }),
  words: meshesWords,
  chapter: meshesChapter,
};
