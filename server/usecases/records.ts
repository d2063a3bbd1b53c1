import { z } from "zod";
import { abscissaOf, averagesOf } from "../../core/assessment/settling/averages.ts";
import { writeCsv } from "../../core/formats/csv.ts";
import { histogram, runningMean } from "../../core/method/averaging/record.ts";
import { phaseAverages, welchSpectrum } from "../../core/method/averaging/spectrum.ts";
import { setupOf } from "../../core/problems/describe/caseSetup.ts";
import type { QuantitySpec } from "../../core/records/quantity.ts";
import type { HistoryEvidence } from "../../core/records/run.ts";
import { TAKE_WORDS, TAKES, type Take } from "../../core/records/take.ts";
import { convert } from "../../core/units/units.ts";
import type { Store } from "../db/store.ts";
import { findCase, listQuantities, updateCase } from "../repositories/cases.ts";
import { findHistory, findRun, updateRun } from "../repositories/runs.ts";
import { loadWorkedHistory } from "./evidence.ts";
import { UseCaseError } from "./failure.ts";
import { Kept } from "./kept.ts";

export const JudgingInput = z.object({
  cut: z.number().int().min(0).max(1e8).optional(),
  cuts: z.record(z.string().max(40), z.number().int().min(0).max(1e8)).optional(),
  average: z.boolean().optional(),
  startEntry: z.number().int().min(1).max(1e8).optional(),
  stretchFrom: z.number().int().min(1).max(1e8).optional(),
});

/** Keeps what a person decided about reading a run's record; what is absent goes back to the tests. */
export async function judgeRun(opened: Store, runId: string, input: z.infer<typeof JudgingInput>): Promise<void> {
  const run = await findRun(opened.db, runId);
  if (!run) throw new UseCaseError("not-found", "There is no such run.");
  await updateRun(opened.db, runId, { judging: Object.keys(input).length ? input : null });
}

export const TakeInput = z.object({ take: z.enum(TAKES) });

/** Chooses what of its record stands for a quantity's value: units are checked, since a frequency is in hertz whatever was recorded. */
export async function chooseTake(opened: Store, caseId: string, key: string, take: Take): Promise<void> {
  const row = await findCase(opened.db, caseId);
  const q = (await listQuantities(opened.db, caseId)).find((x) => x.key === key);
  if (!row || !q) throw new UseCaseError("not-found", "There is no such quantity.");
  const wanted = take === "frequency" ? "Hz" : take === "strouhal" ? "1" : undefined;
  if (wanted && (wanted === "1" ? q.unit !== "1" && q.unit !== "" : convert(1, q.unit, "s^-1") === undefined))
    throw new UseCaseError(
      "invalid",
      `${q.name} is in ${q.unit || "1"}; a ${TAKE_WORDS[take]} is ${wanted === "1" ? "a pure number" : "in Hz"}. Add a quantity in ${wanted === "1" ? "1" : "Hz"} and bring the same column in as it.`,
    );
  const { [key]: _old, ...others } = row.setup.takes ?? {};
  await updateCase(opened.db, caseId, { setup: { ...row.setup, takes: take === "last" ? others : { ...others, [key]: take } } });
}

const MOST_LINES = 500;

const MOST_PICTURES = 60;
const pictures = new Kept<Awaited<ReturnType<typeof draw>>>(MOST_PICTURES, () => 1);

/** What the pages draw of one averaged record: running mean, spread of its values, spectrum, one period. */
export async function recordPictures(opened: Store, runId: string, key: string) {
  const run = await findRun(opened.db, runId);
  const stored = run && (await findHistory(opened.db, runId));
  const row = run && (await findCase(opened.db, run.caseId));
  const from = JSON.stringify([stored?.blob, run?.judging, row?.setup.derived, row?.setup.parameters, row?.setup.takes, key]);
  // Of a run that is still followed the record grows: nothing of it is kept.
  return stored ? pictures.get(`${runId} ${from}`, () => draw(opened, runId, key)) : draw(opened, runId, key);
}

async function draw(opened: Store, runId: string, key: string) {
  const run = await findRun(opened.db, runId);
  const history = await loadWorkedHistory(opened, runId);
  const values = history?.quantities[key];
  if (!run || !history || !values) throw new UseCaseError("not-found", "This run has no record of that quantity.");
  // The very average the assessment speaks of.
  const setup = (await findCase(opened.db, run.caseId))?.setup;
  const take = setup?.takes?.[key];
  const [average] = averagesOf(
    { history, judging: run.judging ?? undefined },
    [{ key, ...(take ? { take } : {}) }],
    true,
    setup ? setupOf(setup) : undefined,
  );
  if (!average) throw new UseCaseError("invalid", "This record is too short to average, or its times do not rise.");
  const sound = Float64Array.from(values).filter(Number.isFinite);
  const kept = sound.subarray(average.cut);
  const { frequency, density } = welchSpectrum(kept, average.step);
  const every = Math.max(1, Math.ceil(frequency.length / MOST_LINES));
  const lines = Array.from(frequency.keys()).filter((k) => k > 0 && k % every === 0);
  return {
    average,
    running: runningMean(abscissaOf(history), values, average.cut),
    histogram: histogram(kept),
    spectrum: lines.map((k) => ({ frequency: frequency[k], density: density[k] })),
    phase: average.peak ? phaseAverages(kept, average.step, average.peak.frequency) : [],
  };
}

/** A whole record as CSV, every column with its unit. */
export function recordCsv(h: HistoryEvidence, quantities: readonly Pick<QuantitySpec, "key" | "name" | "unit">[]): string {
  const worded = (key: string) => {
    const q = quantities.find((x) => x.key === key);
    return q ? `${q.name} (${q.unit || "1"})` : key;
  };
  const columns: (readonly [string, Float64Array])[] = [
    ...(h.time ? [["time (s)", h.time] as const] : []),
    ...Object.entries(h.residuals).map(([k, v]) => [`${k} residual (1)`, v] as const),
    ...Object.entries(h.quantities).map(([k, v]) => [worded(k), v] as const),
    ...Object.entries(h.balances ?? {}).map(([k, v]) => [`net ${k} over throughput (1)`, v] as const),
  ];
  return writeCsv(
    ["iteration", ...columns.map(([k]) => k)],
    Array.from(h.iteration, (it, i) => [it, ...columns.map(([, v]) => (Number.isFinite(v[i]) ? v[i] : ""))]),
  );
}
