import type { State } from "../../remarks/remark.ts";
export const STAGES = ["question", "yardsticks", "meshes", "runs", "settling", "balance", "refinement", "comparison", "verdict", "report"] as const;

export type Stage = (typeof STAGES)[number];

export interface StageLine {
  readonly stage: Stage;
  readonly title: string;
  readonly line: string;
  readonly state: State;
}
