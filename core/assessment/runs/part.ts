import { FINISHED, type RunState } from "../../records/run.ts";
import type { ReportChapter, StagePart } from "../stages/part.ts";
import { cell, table } from "../stages/table.ts";

const UNDER_WAY: readonly RunState[] = ["running", "waiting", "followed"];
const BROKEN_OFF: readonly RunState[] = ["diverged", "failed", "interrupted"];

const COLUMNS = [
  "run",
  "code",
  ["cells", "1"],
  ["spacing", "m"],
  ["iterations", "1"],
  ["time", "s"],
  "state",
  "settings hash",
] as const satisfies Parameters<typeof table>[2];

const chapter: ReportChapter = {
  key: "runs",
  title: "Meshes and runs",
  sentences: ({ assessment: a }) => [a.stale ? "The runs were made with an earlier set-up: the evidence is stale." : ""],
  tables: ({ runs: rows }) =>
    table(
      "runs",
      "Runs",
      COLUMNS,
      rows.map((r) => [
        r.label,
        r.code,
        cell(r.cells),
        cell(r.spacing),
        // No record counts none: how many a run brought in without one took is not known.
        cell(r.iterations || null),
        cell(r.seconds),
        r.state,
        r.settingsHash.slice(0, 12),
      ]),
    ),
};

export const runs: StagePart = {
  stage: "runs",
  line: (e) => {
    const among = (states: readonly RunState[]) => e.runs.filter((r) => states.includes(r.state)).length;
    const [done, running, broken] = [among(FINISHED), among(UNDER_WAY), among(BROKEN_OFF)];
    const words = [done && `${done} done`, running && `${running} under way`, broken && `${broken} broken off`].filter(Boolean);
    return { line: words.join(", ") || "none yet", state: done ? (broken ? "remark" : "holds") : broken ? "fails" : "none" };
  },
  chapter,
};
