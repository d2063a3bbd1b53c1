import type { Numbers } from "@/core/numeric/numbers";
import type { RunJudging } from "@/core/records/run";

/** Entry (from 1) whose iteration lies nearest. What is drawn is thinned: the iteration itself tells the entry where counting starts at one. */
export const entryOf = (iteration: Numbers, at: number): number => Math.max(1, Math.round(at - (iteration[0] ?? 1)) + 1);

/** Entry from which the slope of a residual is read unless a person says otherwise: the last quarter, of four to two hundred entries. */
export const slopeFrom = (entries: number) => Math.max(1, entries - Math.max(4, Math.min(200, Math.ceil(entries / 4))) + 1);

/** Entries to cut so that the average begins at a place along the record. */
export const cutOf = (a: { readonly cutAt: number; readonly cut: number; readonly step: number }, at: number) =>
  Math.max(0, a.cut + Math.round((at - a.cutAt) / a.step));

/** How a person chose to read a record, in words. */
export function judgingWords(j: Pick<RunJudging, "cut" | "cuts" | "startEntry" | "stretchFrom">): string {
  return [
    j.startEntry === undefined ? "" : `start level at entry ${j.startEntry}`,
    j.stretchFrom === undefined ? "" : `slope from entry ${j.stretchFrom}`,
    ...Object.entries(j.cuts ?? {}).map(([key, cut]) => `${key} averaged without its first ${cut} entries`),
    j.cut === undefined ? "" : `averages without the first ${j.cut} entries`,
  ]
    .filter(Boolean)
    .join(", ");
}
