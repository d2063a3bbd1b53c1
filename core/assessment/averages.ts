import { type AveragedRecord, averageRecord, lastToAverage } from "../averaging/record.ts";
import type { QuantitySpec } from "../problems/problem.ts";
import type { HistoryEvidence, RunEvidence } from "./evidence.ts";

export interface QuantityAverage extends AveragedRecord {
  readonly key: string;
  /** what the record runs over */
  readonly abscissa: "s" | "iterations";
  /** the mean stands for the run's value */
  readonly adopted: boolean;
  /** steady runs: how many of the last iterations the test would average over */
  readonly lastProposed?: number;
}

const FEWEST = 40;

/** What averaging needs to know of a run. */
type Recorded = Pick<RunEvidence, "history" | "judging">;

interface Worked {
  readonly record: AveragedRecord;
  readonly lastProposed?: number;
}

/** What was worked out of a record, by the cut asked for: an assessment looks at the same one several times. */
const worked = new WeakMap<readonly number[], Map<number | undefined, Worked | undefined>>();

function workedOut(history: HistoryEvidence, values: readonly number[], asked: number | undefined): Worked | undefined {
  const known = worked.get(values) ?? new Map<number | undefined, Worked | undefined>();
  worked.set(values, known);
  if (!known.has(asked)) known.set(asked, workOut(history, values, asked));
  return known.get(asked);
}

function workOut(history: HistoryEvidence, values: readonly number[], asked: number | undefined): Worked | undefined {
  const entries = values.filter(Number.isFinite).length;
  if (entries < FEWEST) return undefined;
  const lastProposed = history.time ? undefined : lastToAverage(values);
  const cut = asked ?? (lastProposed === undefined ? undefined : entries - lastProposed);
  try {
    const record = averageRecord(abscissaOf(history), values, { abscissa: history.time ? "s" : "iterations", cut });
    return { record: { ...record, cutBy: asked === undefined ? "test" : "hand" }, lastProposed };
  } catch (error) {
    // A record whose abscissa does not rise cannot be averaged; settling says what is wrong with it.
    if (error instanceof RangeError) return undefined;
    throw error;
  }
}

/** Averages of a run's records: of every quantity in time, and of steady ones where a person asked or the iteration never comes to rest. */
export function averagesOf(run: Recorded, quantities: readonly Pick<QuantitySpec, "key">[], restless: boolean): QuantityAverage[] {
  const { history, judging } = run;
  if (!history) return [];
  const inTime = history.time !== undefined;
  if (!inTime && !restless && !judging?.average) return [];
  return quantities.flatMap((q) => {
    const values = history.quantities[q.key];
    const found = values && workedOut(history, values, judging?.cut);
    if (!found) return [];
    const { record, lastProposed } = found;
    return [{ ...record, key: q.key, abscissa: inTime ? ("s" as const) : ("iterations" as const), adopted: judging?.average === true, lastProposed }];
  });
}

/** Times, or iterations. */
export const abscissaOf = (h: HistoryEvidence): readonly number[] => h.time ?? h.iteration;

/** A run whose means stand for its values. */
export function withMeans(run: RunEvidence, quantities: readonly QuantitySpec[]): RunEvidence {
  if (!run.judging?.average || !run.result) return run;
  const means = Object.fromEntries(averagesOf(run, quantities, true).map((a) => [a.key, a.mean]));
  return { ...run, result: { ...run.result, quantities: { ...run.result.quantities, ...means } } };
}
