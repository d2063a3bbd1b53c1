import type { Remark } from "../../remarks/remark.ts";
import type { MarginNote } from "../results/margin.ts";

/** What the margin says while no run is finished. */
export const NO_RUN: MarginNote = {
  heading: "What fills this",
  sentence: "A finished run. Start the family on the Runs page or bring in results from files.",
  go: "runs",
};

const HEADINGS: Readonly<Record<Remark["severity"], string>> = { stop: "Does not hold", doubt: "A doubt", note: "To know" };

/** Remarks as the margin lists them. */
export const remarksAsNotes = (remarks: readonly Remark[]): MarginNote[] =>
  remarks.map((r) => ({ heading: r.answered ? "Accepted" : HEADINGS[r.severity], sentence: r.sentence, rule: r.rule }));
