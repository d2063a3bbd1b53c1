/** How an assessment stands; shown as a shape first. */
export type State = "holds" | "remark" | "fails" | "stale" | "none";

export type Severity = "stop" | "doubt" | "note";

/** Something an assessment wants said, with the rule that says it. */
export interface Remark {
  readonly rule: string;
  readonly severity: Severity;
  readonly sentence: string;
}

/** The worst of several states: what fails outweighs what is stale, missing, doubtful. */
export function worst(states: readonly State[]): State {
  for (const s of ["fails", "stale", "none", "remark"] as const) if (states.includes(s)) return s;
  return states.length ? "holds" : "none";
}

/** Holds, holds with a remark, or fails, from the remarks made. */
export function stateOf(remarks: readonly Remark[]): State {
  if (remarks.some((r) => r.severity === "stop")) return "fails";
  return remarks.some((r) => r.severity === "doubt") ? "remark" : "holds";
}
