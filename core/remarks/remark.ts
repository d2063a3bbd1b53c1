/** How an assessment stands; shown as a shape first. */
export type State = "holds" | "remark" | "fails" | "stale" | "none";

/** It holds, with a remark or without. */
export const hasHeld = (s: State): boolean => s === "holds" || s === "remark";

/** It was judged on complete evidence, whichever way. */
export const isJudged = (s: State): boolean => hasHeld(s) || s === "fails";

export type Severity = "stop" | "doubt" | "note";

/** Something an assessment wants said, with the rule that says it. */
export interface Remark {
  readonly rule: string;
  readonly severity: Severity;
  readonly sentence: string;
  /** why a person accepts it; it then no longer counts against the case */
  readonly answered?: { readonly reason: string; readonly at: string };
}

/** A person's answer to a remark, kept with the words it answers: other figures make it an answer to something else. */
export interface Answer {
  readonly rule: string;
  readonly sentence: string;
  readonly reason: string;
  /** ISO date and time */
  readonly at: string;
}

/** Remarks with the answers given to exactly these words; an answered one is a note. */
export function withAnswers(remarks: readonly Remark[], answers: readonly Answer[]): Remark[] {
  return remarks.map((r) => {
    const found = [...answers].reverse().find((a) => a.rule === r.rule && a.sentence === r.sentence);
    return found ? { ...r, severity: "note", answered: { reason: found.reason, at: found.at } } : r;
  });
}

/**
 * The worst of several states: what fails outweighs what is stale, missing, doubtful.
 * @example
 * worst(["holds", "remark", "stale"]) // "stale"
 */
export function worst(states: readonly State[]): State {
  for (const s of ["fails", "stale", "none", "remark"] as const) if (states.includes(s)) return s;
  return states.length ? "holds" : "none";
}

/**
 * Holds, holds with a remark, or fails, from the remarks made.
 * @example
 * stateOf([]) // "holds"
 */
export function stateOf(remarks: readonly Remark[]): State {
  if (remarks.some((r) => r.severity === "stop")) return "fails";
  return remarks.some((r) => r.severity === "doubt") ? "remark" : "holds";
}
