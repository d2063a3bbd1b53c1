import { z } from "zod";
import { TAKES } from "../records/take.ts";
import { fromPlain, toPlain } from "../solver/wire.ts";
import type { CaseAssessment } from "./results/case.ts";
import { STAGES } from "./results/stage.ts";

const number = z.number().or(z.nan()).or(z.literal(Number.POSITIVE_INFINITY)).or(z.literal(Number.NEGATIVE_INFINITY));
const State = z.enum(["holds", "remark", "fails", "stale", "none"]);
const Remark = z.looseObject({ rule: z.string(), severity: z.enum(["stop", "doubt", "note"]), sentence: z.string() });
const remarks = z.array(Remark);
const Stage = z.enum(STAGES);
const Reason = z.looseObject({ sentence: z.string(), go: Stage, rule: z.string().optional() });

const Balance = z.looseObject({
  runId: z.string(),
  label: z.string(),
  lines: z.array(z.looseObject({ what: z.string(), net: number, throughput: number, relative: number, limit: number, state: State })),
  laws: z.array(z.looseObject({ law: z.string(), share: number, demands: z.string(), sentence: z.string(), limit: number, state: State })),
  second: z.array(z.looseObject({ name: z.string(), first: number, second: number, relative: number, limit: number, state: State })),
  remarks,
  state: State,
});

const Average = z.looseObject({
  key: z.string(),
  mean: number,
  expanded: number,
  standard: number,
  cut: number,
  samples: number,
  step: number,
  effectiveSamples: number,
  adopted: z.boolean(),
  abscissa: z.enum(["s", "iterations"]),
  take: z.enum(TAKES),
  taken: z.looseObject({ value: number, expanded: number }).optional(),
  doubts: z.array(z.looseObject({ rule: z.string(), severity: z.enum(["doubt", "note"]), sentence: z.string() })),
});

const Settling = z.looseObject({
  runId: z.string(),
  label: z.string(),
  residuals: z.array(z.looseObject({ name: z.string(), start: number, end: number, drop: number, factor: number, state: z.string(), gaps: number })),
  quantities: z.array(
    z.looseObject({
      key: z.string(),
      value: number,
      error: number,
      kind: z.string(),
      factor: number,
      relative: number,
      threshold: number,
      against: z.enum(["mesh uncertainty", "limit"]),
      holds: z.boolean(),
    }),
  ),
  tolerance: z.array(z.looseObject({ tolerance: number, values: z.record(z.string(), number) })),
  averages: z.array(Average),
  marks: z.array(z.looseObject({ rule: z.string(), iteration: number, label: z.string() })),
  smallestDrop: number.optional(),
  remarks,
  state: State,
});

const Refinement = z.looseObject({
  key: z.string(),
  rungs: z.array(z.looseObject({ runId: z.string(), label: z.string(), cells: number, spacing: number, iterationError: number, used: z.boolean() })),
  result: z.looseObject({ kind: z.enum(["monotone", "oscillating", "diverging", "degenerate"]), uncertainty: number }).optional(),
  relative: number.optional(),
  limit: number,
  remarks,
  state: State,
  headline: z.string(),
});

const Comparison = z.looseObject({
  yardstick: z.string(),
  yardstickKey: z.string(),
  simulated: number,
  reference: number,
  difference: number,
  scale: number,
  uNum: number,
  uInput: number,
  uReference: number,
  uVal: number.optional(),
  uValAtLeast: number,
  open: z.array(z.string()),
  claim: z.enum(["within-noise", "beyond-noise", "incomplete"]),
  sentence: z.string(),
  inside: z.boolean(),
  decides: z.boolean(),
  limit: number,
  state: State,
});

const Rule = z.looseObject({
  quantityKey: z.string(),
  scale: number,
  value: number.optional(),
  sources: z.array(
    z.looseObject({
      key: z.string(),
      name: z.string(),
      group: z.enum(["numerical", "input", "machine"]),
      relative: number.optional(),
      stage: Stage,
      note: z.string(),
    }),
  ),
  difference: number.optional(),
  band: number.optional(),
  uNum: number.optional(),
  missing: z.array(z.string()),
});

const Verdict = z.looseObject({
  quantityKey: z.string(),
  state: State,
  word: z.enum(["holds", "holds with a remark", "fails", "stale", "incomplete"]),
  sentence: z.string(),
  reasons: z.array(Reason),
  settles: z.array(Reason),
  next: Reason.optional(),
});

const Cell = z.looseObject({ state: State, figure: z.string() });

/** Shape of an assessment: what every page, report and answer takes for granted. */
const Assessment = z.looseObject({
  caseId: z.string(),
  setup: z.looseObject({
    similarity: z.array(z.looseObject({ key: z.string(), name: z.string(), value: number, unit: z.string() })),
    remarks,
    state: State,
  }),
  ladder: z.array(z.string()),
  stale: z.boolean(),
  settling: z.array(Settling),
  balance: z.array(Balance),
  refinement: z.array(Refinement),
  comparison: z.looseObject({
    values: z.record(z.string(), z.array(Comparison)),
    profiles: z.array(z.looseObject({ profileKey: z.string(), yardstick: z.string(), name: z.string(), l1: number, l2: number, linf: number })),
    refused: z.array(z.looseObject({ yardstick: z.string(), name: z.string(), sentence: z.string() })),
  }),
  derived: z.array(z.looseObject({ key: z.string(), formula: z.string(), uses: z.array(z.string()), value: number.optional() })),
  rules: z.array(Rule),
  verdicts: z.array(Verdict),
  board: z.looseObject({ settled: Cell, balanced: Cell, refined: Cell, compared: Cell }),
  stages: z.array(z.looseObject({ stage: Stage, title: z.string(), line: z.string(), state: State })),
});

/** An assessment as it is kept: plain JSON that loses no number, also none that JSON has no word for. */
export const writeAssessment = (a: CaseAssessment): unknown => toPlain(a);

/** A kept assessment, or undefined where what was kept is none: then it is worked out anew. */
export function readAssessment(stored: unknown): CaseAssessment | undefined {
  const read = Assessment.safeParse(fromPlain(stored));
  return read.success ? (read.data as unknown as CaseAssessment) : undefined;
}
