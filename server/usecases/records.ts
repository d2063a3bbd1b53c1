import { z } from "zod";
import type { WrittenHistory } from "../../core/records/history.ts";
import { TAKE_WORDS, TAKES, type Take } from "../../core/records/take.ts";
import { convert } from "../../core/units/units.ts";
import type { Store } from "../db/store.ts";
import { desk } from "../desk/desk.ts";
import type { recordPictures as draw } from "../desk/recordTasks.ts";
import { findCase, listQuantities, updateCase } from "../repositories/cases.ts";
import { findRun, updateRun } from "../repositories/runs.ts";
import { UseCaseError } from "./failure.ts";
import { recordMaterial } from "./histories.ts";
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

const MOST_PICTURES = 60;
const pictures = new Kept<Awaited<ReturnType<typeof draw>>>(MOST_PICTURES);

/** What the pages draw of one averaged record: running mean, spread of its values, spectrum, one period. */
export async function recordPictures(opened: Store, runId: string, key: string, signal?: AbortSignal) {
  const run = await findRun(opened.db, runId);
  const record = await recordMaterial(opened, runId);
  if (!run || !record) throw new UseCaseError("not-found", "This run has no record of that quantity.");
  const row = await findCase(opened.db, run.caseId);
  const make = () => desk().ask("recordPictures", { record, key, judging: run.judging ?? undefined, setup: row?.setup }, { signal });
  // Of a run that is still followed the record grows: nothing of it is kept.
  if (!("stored" in record.source)) return make();
  const { derived, parameters, takes } = row?.setup ?? {};
  return pictures.get(`${runId} ${JSON.stringify([record.source.stored.blob, run.judging, derived, parameters, takes, key])}`, make);
}

const NOTHING: WrittenHistory = { iteration: [], residuals: {}, quantities: {} };

/** The record of a run with so many entries, for drawing; empty where nothing was recorded. */
export async function thinRecord(opened: Store, runId: string, points: number, signal?: AbortSignal): Promise<WrittenHistory> {
  const record = await recordMaterial(opened, runId);
  return record ? desk().ask("thin", { record, points }, { signal }) : NOTHING;
}

/** rows of a record written at once: so few that the first arrive soon and none fill the memory */
const ROWS = 20_000;

/** A whole record as CSV, every column with its unit, piece by piece as it is taken. */
export async function recordCsv(opened: Store, runId: string): Promise<ReadableStream<Uint8Array>> {
  const run = await findRun(opened.db, runId);
  const record = await recordMaterial(opened, runId);
  if (!run || !record) throw new UseCaseError("not-found", "This run has no record.");
  const quantities = await listQuantities(opened.db, run.caseId);
  const ending = new AbortController();
  let from = 0;
  return new ReadableStream({
    pull: async (to) => {
      const piece = await desk().ask("recordFile", { record, quantities, from, to: from + ROWS }, { signal: ending.signal });
      from += ROWS;
      to.enqueue(piece.bytes);
      if (piece.last) to.close();
    },
    cancel: () => ending.abort(),
  });
}
