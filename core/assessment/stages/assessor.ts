import type { z } from "zod";
import type { DerivedSet } from "../../method/propagation/derived.ts";
import type { CaseEvidence } from "../../records/case.ts";
import type { RunEvidence } from "../../records/run.ts";
import type { Study } from "../../study/study.ts";
import type { Assessed } from "./part.ts";
import type { Scale } from "./scale.ts";

/** What every stage of an assessment starts from. */
export interface Ground {
  /** evidence with derived quantities worked out and adopted means in the place of last values */
  readonly e: CaseEvidence;
  readonly set?: DerivedSet | undefined;
  /** one run a mesh, finest first */
  readonly ladder: readonly RunEvidence[];
  /** runs of the same set-up that a person took off */
  readonly leftOut: readonly RunEvidence[];
  readonly timeSteps: Study;
  /** the runs were made with an earlier set-up */
  readonly stale: boolean;
  readonly scales: Readonly<Record<string, Scale>>;
}

/** One step of an assessment. */
export interface Assessor {
  /** what it adds to what the steps before it found; it may read nothing that comes later */
  readonly assess: (g: Ground, found: Assessed) => Partial<Assessed>;
  /** shape of what it adds: a kept assessment that has another is none */
  readonly shape: { readonly [K in keyof Assessed]?: z.ZodType };
}
