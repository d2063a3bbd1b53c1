import { abscissaOf, averagesOf } from "../../core/assessment/settling/averages.ts";
import { shorterMeans } from "../../core/method/averaging/averagingLength.ts";
import { histogram, runningMean } from "../../core/method/averaging/record.ts";
import { phaseAverages, welchSpectrum } from "../../core/method/averaging/spectrum.ts";
import { type CaseSetup, setupOf } from "../../core/problems/describe/caseSetup.ts";
import { thinned, type WrittenHistory, writeHistory } from "../../core/records/history.ts";
import type { QuantitySpec } from "../../core/records/quantity.ts";
import type { RunJudging } from "../../core/records/run.ts";
import { UseCaseError } from "../usecases/failure.ts";
import { type RecordMaterial, readWorked } from "./records.ts";
import { recordText } from "./recordText.ts";

/** A record with so many entries, for drawing. */
export const thin = async ({ record, points }: { readonly record: RecordMaterial; readonly points: number }): Promise<WrittenHistory> =>
  writeHistory(thinned(await readWorked(record), points));

export interface RecordFileInput {
  readonly record: RecordMaterial;
  readonly quantities: readonly Pick<QuantitySpec, "key" | "name" | "unit">[];
  /** first row and the row after the last */
  readonly from: number;
  readonly to: number;
}

/** Some rows of a record as CSV. */
export async function recordFile({ record, quantities, from, to }: RecordFileInput): Promise<{ bytes: Uint8Array; last: boolean }> {
  const h = await readWorked(record);
  return { bytes: new TextEncoder().encode(recordText(h, quantities, from, to)), last: to >= h.iteration.length };
}

export interface PictureInput {
  readonly record: RecordMaterial;
  readonly key: string;
  readonly judging?: RunJudging;
  readonly setup?: CaseSetup;
}

const MOST_LINES = 500;

/** What the pages draw of one averaged record: running mean, means over shorter parts, spread of its values, spectrum, one period. */
export async function recordPictures({ record, key, judging, setup }: PictureInput) {
  const history = await readWorked(record);
  const values = history.quantities[key];
  if (!values) throw new UseCaseError("not-found", "This run has no record of that quantity.");
  // The very average the assessment speaks of.
  const take = setup?.takes?.[key];
  const [average] = averagesOf({ history, judging }, [{ key, ...(take ? { take } : {}) }], true, setup && setupOf(setup));
  if (!average) throw new UseCaseError("invalid", "This record is too short to average, or its times do not rise.");
  const sound = Float64Array.from(values).filter(Number.isFinite);
  const kept = sound.subarray(average.cut);
  const { frequency, density } = welchSpectrum(kept, average.step);
  const every = Math.max(1, Math.ceil(frequency.length / MOST_LINES));
  const lines = Array.from(frequency.keys()).filter((k) => k > 0 && k % every === 0);
  return {
    average,
    running: runningMean(abscissaOf(history), values, average.cut),
    lengths: shorterMeans(abscissaOf(history), values, average),
    histogram: histogram(kept),
    spectrum: lines.map((k) => ({ frequency: frequency[k], density: density[k] })),
    phase: average.peak ? phaseAverages(kept, average.step, average.peak.frequency) : [],
  };
}
