import type { BalanceAssessment } from "../../method/balance/balance.ts";
import type { LawLine, SecondLine } from "../../method/balance/laws.ts";
import type { SurfaceAssessment } from "../../method/balance/surfaceForces.ts";

/** What goes in and out of one run, and what holds for every flow of its kind. */
export interface RunBalance extends BalanceAssessment {
  readonly runId: string;
  readonly label: string;
  readonly cells?: number;
  readonly laws: readonly LawLine[];
  readonly second: readonly SecondLine[];
  /** forces integrated over a surface; absent where no surface was brought in */
  readonly surface?: SurfaceAssessment;
}
