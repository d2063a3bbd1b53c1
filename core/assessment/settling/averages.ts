import { type AveragedRecord, averageRecord, evenly, lastToAverage } from "../../method/averaging/record.ts";
import { type StrouhalScale, statistic } from "../../method/averaging/statistic.ts";
import { countFinite, type Numbers } from "../../numeric/numbers.ts";
import type { QuantitySpec } from "../../records/quantity.ts";
import type { HistoryEvidence, RunEvidence } from "../../records/run.ts";
import type { Take } from "../../records/take.ts";
import type { QuantityAverage } from "../results/settling.ts";

const FEWEST = 40;

/** What averaging needs to know of a run. */
type Recorded = Pick<RunEvidence, "history" | "judging">;

interface Worked {
  readonly record: AveragedRecord;
  readonly lastProposed?: number;
}

/** What was worked out of a record, by the cut asked for: an assessment looks at the same one several times. */
const worked = new WeakMap<Numbers, Map<number | undefined, Worked | undefined>>();

function workedOut(history: HistoryEvidence, values: Numbers, asked: number | undefined): Worked | undefined {
  const known = worked.get(values) ?? new Map<number | undefined, Worked | undefined>();
  worked.set(values, known);
  if (!known.has(asked)) known.set(asked, workOut(history, values, asked));
  return known.get(asked);
}

function workOut(history: HistoryEvidence, values: Numbers, asked: number | undefined): Worked | undefined {
  const entries = countFinite(values);
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

/** The cut a person made of a quantity's record, else of all of the run's. */
const cutOf = (judging: RunEvidence["judging"], key: string) => judging?.cuts?.[key] ?? judging?.cut;

/** Averages of a run's records: of every quantity in time, and of steady ones where a person asked or the iteration never comes to rest. */
export function averagesOf(
  run: Recorded,
  quantities: readonly Pick<QuantitySpec, "key" | "take">[],
  restless: boolean,
  scale: StrouhalScale = { lengthM: Number.NaN, velocityMS: Number.NaN },
): QuantityAverage[] {
  const { history, judging } = run;
  if (!history) return [];
  const inTime = history.time !== undefined;
  return quantities.flatMap((q) => {
    const statistical = q.take !== undefined && q.take !== "last";
    if (!inTime && !restless && !judging?.average && !statistical) return [];
    const values = history.quantities[q.key];
    const found = values && workedOut(history, values, cutOf(judging, q.key));
    if (!found) return [];
    const { record, lastProposed } = found;
    const take = q.take ?? (judging?.average ? "mean" : "last");
    const adopted = take !== "last";
    const taken =
      take === "last"
        ? undefined
        : take === "mean"
          ? { value: record.mean, expanded: record.expanded }
          : takenOf(history, values, record, take, scale);
    return [
      {
        ...record,
        key: q.key,
        abscissa: inTime ? ("s" as const) : ("iterations" as const),
        adopted,
        take,
        ...(taken ? { taken } : {}),
        lastProposed,
      },
    ];
  });
}

function takenOf(history: HistoryEvidence, values: Numbers, record: AveragedRecord, take: Exclude<Take, "last" | "mean">, scale: StrouhalScale) {
  const even = evenly(abscissaOf(history), values, record.step).subarray(record.cut);
  return statistic(even, record.step, take, scale);
}

/** Times, or iterations. */
export const abscissaOf = (h: HistoryEvidence): Numbers => h.time ?? h.iteration;

/** A run in which statistics of its records stand for its values, where they were chosen. */
export function withMeans(run: RunEvidence, quantities: readonly QuantitySpec[], scale: StrouhalScale): RunEvidence {
  if (!run.result) return run;
  const adopted = averagesOf(run, quantities, run.judging?.average === true, scale).filter((a) => a.adopted);
  if (!adopted.length) return run;
  const values = { ...run.result.quantities };
  for (const a of adopted) {
    if (a.taken) values[a.key] = a.taken.value;
    // A record without the frequency that was asked for has no value of the quantity.
    else delete values[a.key];
  }
  return { ...run, result: { ...run.result, quantities: values } };
}
