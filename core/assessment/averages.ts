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

/** Averages of a run's records: of every quantity in time, and of steady ones where a person asked or the iteration never comes to rest. */
export function averagesOf(run: RunEvidence, quantities: readonly QuantitySpec[], restless: boolean): QuantityAverage[] {
  const { history, judging } = run;
  if (!history) return [];
  const inTime = history.time !== undefined;
  if (!inTime && !restless && !judging?.average) return [];
  return quantities.flatMap((q) => {
    const values = history.quantities[q.key];
    if (!values || values.filter(Number.isFinite).length < FEWEST) return [];
    const proposed = inTime ? undefined : lastToAverage(values);
    const byTest = proposed === undefined ? undefined : values.filter(Number.isFinite).length - proposed;
    const cut = judging?.cut ?? byTest;
    const abscissa = inTime ? ("s" as const) : ("iterations" as const);
    try {
      const record = averageRecord(abscissaOf(history), values, { abscissa, cut });
      const cutBy = judging?.cut === undefined ? ("test" as const) : ("hand" as const);
      return [{ ...record, cutBy, key: q.key, abscissa, adopted: judging?.average === true, lastProposed: proposed }];
    } catch (error) {
      // A record whose abscissa does not rise cannot be averaged; settling says what is wrong with it.
      if (error instanceof RangeError) return [];
      throw error;
    }
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
