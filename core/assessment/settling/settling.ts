import { percent, significant } from "../../formatting/number.ts";
import type { StrouhalScale } from "../../method/averaging/statistic.ts";
import { type IterationError, iterationError, toleranceStudy } from "../../method/iteration/iterationError.ts";
import { assessResidual, median, RESIDUAL_STATE_WORDS, type ResidualAssessment, type ResidualOptions } from "../../method/iteration/residuals.ts";
import type { Numbers } from "../../numeric/numbers.ts";
import { rememberedOf } from "../../numeric/remembered.ts";
import type { QuantitySpec } from "../../records/quantity.ts";
import type { HistoryEvidence, RunEvidence } from "../../records/run.ts";
import { TAKE_WORDS } from "../../records/take.ts";
import { type Remark, stateOf } from "../../remarks/remark.ts";
import { rulesOf } from "../../remarks/rule.ts";
import type { QuantityAverage, QuantitySettling, RunSettling, SettlingMark } from "../results/settling.ts";
import { averagesOf } from "./averages.ts";

/** One run, and what is asked of it. */
export interface SettlingInput {
  readonly run: RunEvidence;
  readonly quantities: readonly QuantitySpec[];
  /** by quantity, in its unit */
  readonly scales: Readonly<Record<string, number>>;
  /** 95 %, share of the scale; by quantity, where it is known */
  readonly meshUncertainty: Readonly<Record<string, number | undefined>>;
  /** orders every residual is to fall */
  readonly dropTarget: number;
  readonly strouhal?: StrouhalScale;
}

/** Has one run settled: drop target met by every residual and every quantity's iteration error below its threshold (method 1). */
export function assessSettling({ run, quantities, scales, meshUncertainty, dropTarget, strouhal }: SettlingInput): RunSettling {
  const base = { runId: run.id, label: run.label };
  const history = run.history;
  if (!history || history.iteration.length === 0) {
    return {
      ...base,
      residuals: [],
      quantities: [],
      tolerance: [],
      averages: [],
      marks: [],
      remarks: [{ rule: "no-history", severity: "note", sentence: `${run.label} has no record of its iterations.` }],
      state: "none",
    };
  }
  if (history.time) {
    const found = transientSettling(run, quantities, history, dropTarget, strouhal);
    const remarks = [...ownRemarks(run), ...found.remarks];
    return { ...base, ...found, remarks, state: stateOf(remarks) };
  }
  const residuals = Object.entries(history.residuals).map(([name, values]) =>
    residualOf(values, name, { dropTarget, start: startOf(run, name, values), stretchFrom: run.judging?.stretchFrom }),
  );
  const settled = quantities.flatMap((q) => {
    const record = history.quantities[q.key];
    if (!record) return [];
    const error = errorOf(record);
    const relative = Math.abs(error.error) / scales[q.key];
    const mesh = meshUncertainty[q.key];
    // A mesh uncertainty beyond the limit shows no study that could excuse anything.
    const byMesh = mesh !== undefined && mesh > 1e-9 && mesh <= q.limit;
    const threshold = (byMesh ? mesh : q.limit) / 10;
    return [
      {
        ...error,
        key: q.key,
        relative,
        threshold,
        against: byMesh ? ("mesh uncertainty" as const) : ("limit" as const),
        // What still moves one way, or grows, has not settled however little it does so.
        holds: relative < threshold && error.kind !== "moving" && error.kind !== "growing",
        standsFrom: lastingFrom(history.iteration, (i) => !(Math.abs(record[i] - error.value) > threshold * scales[q.key])),
      },
    ];
  });
  const starts = Object.fromEntries(residuals.map((r) => [r.name, r.start]));
  const restless =
    settled.some((q) => ["noise", "growing", "cycling"].includes(q.kind)) || residuals.some((r) => r.state === "stalled" || r.state === "cycling");
  const averages = averagesOf(run, quantities, restless && !settled.every((q) => q.holds), strouhal);
  // Where the mean is what counts, its own uncertainty replaces the question whether the last value stands still.
  const open = settled.filter((q) => !averages.some((a) => a.key === q.key && a.adopted));
  const remarks = [
    ...ownRemarks(run),
    ...residualRemarks(run.label, residuals, dropTarget, open.length < settled.length),
    ...quantityRemarks(run.label, open, quantities),
    ...averageRemarks(run.label, averages, quantities),
  ];
  return {
    ...base,
    residuals,
    quantities: settled,
    tolerance: residuals.length ? toleranceStudy(history.residuals, starts, history.quantities) : [],
    averages,
    smallestDrop: residuals.length ? Math.min(...residuals.map((r) => r.drop)) : undefined,
    marks: residualMarks(history, residuals, dropTarget),
    remarks,
    state: residuals.length || settled.length ? stateOf(remarks) : "none",
  };
}

/** What a run says of its own settings, by the rules that judge those of a case. */
function ownRemarks({ label, stated }: RunEvidence): Remark[] {
  const out: Remark[] = [];
  if (stated?.schemeOrder === 1)
    out.push({
      rule: "first-order-scheme",
      severity: "doubt",
      sentence: `${label} was made with a first-order scheme: its numerical diffusion adds to the viscosity, and it belongs to no family of second order.`,
    });
  if (stated?.dropOrders !== undefined && stated.dropOrders < 5)
    out.push({
      rule: "stopping-tolerance",
      severity: "doubt",
      sentence: `${label} let its residuals fall by ${significant(stated.dropOrders, 2)} orders only; five or more keep the iteration error below the mesh error.`,
    });
  return out;
}

/** Iteration error of a record; worked out once for each record that is kept at hand. */
export const errorOf: (record: Numbers) => IterationError = rememberedOf((record: Numbers) => iterationError(record));

/** What became of a residual, likewise. */
const residualOf = rememberedOf((values: Numbers, name: string, options: ResidualOptions) => assessResidual(name, values, options));

/** First iteration from which something holds to the end; undefined when it does not hold at the end. Gaps do not count against it. */
function lastingFrom(iteration: Numbers, holds: (i: number) => boolean): number | undefined {
  let from = iteration.length;
  while (from > 0 && holds(from - 1)) from--;
  return iteration[from];
}

/** a residual within this factor of its end has come as far as it goes */
const END_FACTOR = 2;

/** Where all residuals met the target for good, and where those that stall or cycle ceased to fall. */
function residualMarks(history: HistoryEvidence, residuals: readonly ResidualAssessment[], target: number): SettlingMark[] {
  if (!residuals.length) return [];
  const below = (share: (r: ResidualAssessment) => number, rows: readonly ResidualAssessment[]) =>
    lastingFrom(history.iteration, (i) => rows.every((r) => !(history.residuals[r.name][i] > share(r))));
  const met = below((r) => r.start * 10 ** -target, residuals);
  const held = residuals.filter((r) => r.state === "stalled" || r.state === "cycling");
  // Medians of five, so that one outlier late in the record does not move the mark.
  const smooth = Object.fromEntries(held.map((r) => [r.name, runningMedian(history.residuals[r.name])]));
  const stuck = held.length ? lastingFrom(history.iteration, (i) => held.every((r) => !(smooth[r.name][i] > END_FACTOR * r.end))) : undefined;
  return [
    ...(met === undefined ? [] : [{ rule: "residual-drop", iteration: met, label: "target met" }]),
    ...(stuck === undefined ? [] : [{ rule: "residual-drop", iteration: stuck, label: "falls no further" }]),
  ];
}

function runningMedian(values: Numbers): Numbers {
  return values.map((_, i) => {
    const around = values.slice(Math.max(0, i - 2), i + 3).filter(Number.isFinite);
    return around.length ? median(around) : Number.NaN;
  });
}

/** share of the steps that may end short of their target */
const UNSOLVED_SHARE = 0.05;

/** A transient run is solved step by step: what counts is how far every step was taken, not whether the quantities stand still. */
function transientSettling(
  run: RunEvidence,
  quantities: readonly QuantitySpec[],
  history: HistoryEvidence,
  dropTarget: number,
  strouhal?: StrouhalScale,
): Omit<RunSettling, "runId" | "label"> {
  const { label } = run;
  const limit = 10 ** -dropTarget * 1.0001;
  const remarks: Remark[] = [];
  const drops = Object.entries(history.residuals).map(([name, values]) => {
    const short = values.filter((v) => !(v <= limit)).length;
    if (short > UNSOLVED_SHARE * values.length) {
      remarks.push({
        rule: "step-solved",
        severity: short > 0.5 * values.length ? "stop" : "doubt",
        sentence: `${label}: ${short} of ${values.length} time steps ended before the residual of ${name} had fallen by ${dropTarget} orders. Shorten the step, or allow more sweeps.`,
      });
    }
    const sorted = [...values].sort((a, b) => a - b);
    return -Math.log10(sorted[Math.floor(0.95 * (sorted.length - 1))] || 1e-16);
  });
  const averages = averagesOf(run, quantities, false, strouhal);
  if (averages.some((a) => a.adopted)) remarks.push(...averageRemarks(label, averages, quantities));
  return {
    residuals: [],
    quantities: [],
    tolerance: [],
    averages,
    smallestDrop: drops.length ? Math.min(...drops) : undefined,
    marks: [],
    remarks,
    state: stateOf(remarks),
  };
}

/** Level a drop is counted from, where it is not the largest of the first entries. */
function startOf(run: RunEvidence, name: string, values: Numbers): number | undefined {
  const entry = run.judging?.startEntry;
  const chosen = entry === undefined ? undefined : values[entry - 1];
  return chosen !== undefined && chosen > 0 && Number.isFinite(chosen) ? chosen : run.history?.starts?.[name];
}

/** Doubts of averages that are used, alike ones together; of others a note that an average is at hand. */
function averageRemarks(label: string, averages: readonly QuantityAverage[], quantities: readonly QuantitySpec[]): Remark[] {
  const name = (key: string) => quantities.find((q) => q.key === key)?.name ?? key;
  const adopted = averages.filter((a) => a.adopted);
  const offered = averages.filter((a) => !a.adopted && a.lastProposed !== undefined);
  const out: Remark[] = adopted.flatMap((a) => [
    ...(a.taken
      ? []
      : [
          {
            rule: "statistic-absent",
            severity: "stop" as const,
            sentence: `${label}: no frequency stands out of the record of ${name(a.key)}, so that there is no ${TAKE_WORDS[a.take]} to take.`,
          },
        ]),
    ...a.doubts.map((d) => ({ rule: `average-${d.rule}`, severity: d.severity, sentence: `${label}, ${name(a.key)}: ${d.sentence}` })),
  ]);
  if (offered.length) {
    const last = Math.min(...offered.map((a) => a.lastProposed ?? 0));
    out.push({
      rule: "average-last",
      severity: "note",
      sentence: `${label} never quite comes to rest: average over its last ${last} iterations, which show no drift, and take the mean for its value.`,
    });
  }
  return out;
}

const listed = (names: readonly string[]) => (names.length < 2 ? names.join("") : `${names.slice(0, -1).join(", ")} and ${names[names.length - 1]}`);

/** One remark for all residuals in the same state. */
function residualRemarks(label: string, residuals: readonly ResidualAssessment[], target: number, averaged: boolean): Remark[] {
  const out: Remark[] = [];
  const gaps = residuals.filter((r) => r.gaps > 0);
  if (gaps.length) {
    const sentence = `${label}: ${gaps.reduce((s, r) => s + r.gaps, 0)} entries of ${listed(gaps.map((r) => r.name))} are missing and were left out.`;
    out.push({ rule: "history-gaps", severity: "note", sentence });
  }
  for (const state of new Set(residuals.map((r) => r.state))) {
    if (state === "settled") continue;
    const alike = residuals.filter((r) => r.state === state);
    const left = Math.max(0, ...alike.map((r) => r.iterationsLeft ?? 0));
    const many = alike.length > 1;
    out.push({
      rule: "residual-drop",
      // A run that wanders for good cannot fall further: its mean is what counts, and the doubt remains.
      severity: state === "still-falling" || (averaged && state !== "diverging") ? "doubt" : "stop",
      sentence: `${label}: the ${many ? "residuals" : "residual"} of ${listed(alike.map((r) => r.name))} ${many ? "are" : "is"} ${RESIDUAL_STATE_WORDS[state]} after ${significant(Math.min(...alike.map((r) => r.drop)), 2)} orders; ${target} were asked.${alike.some((r) => r.broken) ? " The record ends in something that is no number." : ""}${left ? ` At this pace about ${left} iterations are left.` : ""}`,
    });
  }
  return out;
}

function quantityRemarks(label: string, settled: readonly QuantitySettling[], quantities: readonly QuantitySpec[]): Remark[] {
  const open = settled.filter((s) => !s.holds);
  if (!open.length) return [];
  const name = (s: QuantitySettling) => quantities.find((q) => q.key === s.key)?.name ?? s.key;
  return [
    {
      rule: "iteration-error",
      severity: "doubt",
      sentence: `${label}: the iteration error left in ${listed(open.map((s) => `${name(s)} (${percent(s.relative)}, to stay below ${percent(s.threshold)})`))} is too large.`,
    },
  ];
}

/** The rules of this file in words. */
export const SETTLING_RULES = rulesOf("core/assessment/settling/settling.ts", [
  {
    rule: "step-solved",
    text: "Transient runs: at least 95 % of the time steps bring every residual down by the orders asked for within the step.",
    source: "own",
  },
  {
    rule: "no-history",
    text: "A run without a record of its iterations cannot be judged for settling: its figures are taken at their word.",
    source: "own",
  },
]);
