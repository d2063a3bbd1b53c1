import type { RunStatus } from "@/core/problems/build/benchJob";

/** What a page hears of a run under way. */
export type RunMessage =
  | { type: "state"; runId: string; state: string }
  | { type: "rows"; runId: string; from: number; columns: { role: string; key: string }[]; rows: number[][]; starts: Record<string, number> }
  | { type: "status"; runId: string; status: RunStatus }
  | { type: "climbing"; runId: string; cells: number; left: number }
  | { type: "field"; runId: string; iteration: number; name: string; names: string[]; values: string };
