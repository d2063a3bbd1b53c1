import type { ErrorBudget, ErrorSource } from "../../method/budget/errorBudget.ts";
import type { Condition } from "../../method/coverage/coverage.ts";
import type { Tried } from "../../records/build.ts";
import type { Level } from "../../records/programme.ts";
import type { State } from "../../remarks/remark.ts";
import type { CaseAssessment } from "./case.ts";
import type { Proof } from "./proof.ts";
import type { Stage } from "./stage.ts";

/** What a small rule shows of an error budget. */
export interface SmallRule extends Pick<ErrorBudget, "difference" | "band"> {
  readonly sources: readonly Pick<ErrorSource, "key" | "name" | "group" | "relative" | "settled">[];
}

/** One quantity of one case, as it stands among others on one scale. */
export interface QuantityLine {
  readonly key: string;
  readonly name: string;
  readonly unit: string;
  readonly value?: number;
  /** numerical uncertainty at 95 % over its scale, of the sources that are known */
  readonly numerical: number;
  /** sources that nobody measured or settled */
  readonly open: readonly string[];
  readonly largest?: string;
  readonly limit: number;
  /** what its fractions are of, in its unit */
  readonly scale: number;
  readonly state: State;
  readonly rule: SmallRule;
  /** what may be said of it */
  readonly sentence: string;
  /** the step that costs least */
  readonly next?: { readonly sentence: string; readonly go: Stage };
}

/** A case as the board of all cases shows it: its states, its small rule, its findings. */
export interface BoardRow {
  readonly id: string;
  readonly title: string;
  readonly kind: "exact" | "published" | "measured";
  /** the programme it belongs to, its step towards the application, and the words it was marked with */
  readonly programmeId: string;
  readonly level: Level;
  readonly tags: readonly string[];
  /** name of the leading quantity */
  readonly leading: string;
  readonly board: CaseAssessment["board"];
  readonly rule: ErrorBudget | undefined;
  readonly verdicts: readonly State[];
  readonly openFindings: number;
  /** something stored of it cannot be read */
  readonly damaged: boolean;
}

/** What is kept of a case: its row of the board, and all its quantities, which the board does not show. */
export interface KeptRow extends BoardRow {
  readonly quantities: readonly QuantityLine[];
  /** similarity numbers: where it was done */
  readonly conditions: readonly Condition[];
  /** codes its runs were made with, and how they stood against an exact answer */
  readonly codes: readonly string[];
  /** code of the runs its verdicts are of */
  readonly judged?: string | undefined;
  readonly proofs: readonly Proof[];
  /** runs whose version is known, for the rounds */
  readonly tried: readonly Tried[];
  readonly physics: { readonly time: string; readonly compressible: boolean };
}
