import type { ErrorBudget } from "../../method/budget/errorBudget.ts";
import type { State } from "../../remarks/remark.ts";
import type { CaseAssessment } from "./case.ts";

/** A case as the board of all cases shows it: its states, its small rule, its findings. */
export interface BoardRow {
  readonly id: string;
  readonly title: string;
  readonly kind: "exact" | "published" | "measured";
  /** name of the leading quantity */
  readonly leading: string;
  readonly board: CaseAssessment["board"];
  readonly rule: ErrorBudget | undefined;
  readonly verdicts: readonly State[];
  readonly openFindings: number;
  /** something stored of it cannot be read */
  readonly damaged: boolean;
}
