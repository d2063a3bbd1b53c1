import { z } from "zod";
import type { HistoryEvidence } from "./run.ts";

/** Every array of a record changed alike. */
export function changed(h: HistoryEvidence, change: (values: Float64Array) => Float64Array): HistoryEvidence {
  const each = (of: Readonly<Record<string, Float64Array>>) => Object.fromEntries(Object.entries(of).map(([key, values]) => [key, change(values)]));
  return {
    iteration: change(h.iteration),
    ...(h.time ? { time: change(h.time) } : {}),
    residuals: each(h.residuals),
    quantities: each(h.quantities),
    ...(h.balances ? { balances: each(h.balances) } : {}),
    ...(h.starts ? { starts: h.starts } : {}),
  };
}

/** At most about `most` entries of a record, evenly spaced, the last among them: for drawing, never for figures. */
export function thinned(h: HistoryEvidence, most: number): HistoryEvidence {
  const step = Math.max(1, Math.ceil(h.iteration.length / most));
  return step === 1 ? h : changed(h, (values) => values.filter((_, i) => i % step === 0 || i === values.length - 1));
}

const Values = z.array(z.number().nullable());
const ByKey = z.record(z.string(), Values);

/** A record as JSON writes it: lists of numbers, null where an entry has none. */
const Written = z.object({
  iteration: Values,
  time: Values.optional(),
  residuals: ByKey,
  quantities: ByKey,
  balances: ByKey.optional(),
  starts: z.record(z.string(), z.number()).optional(),
});

/** A record as JSON can hold it, which knows neither typed arrays nor NaN. */
export function writeHistory(h: HistoryEvidence): z.infer<typeof Written> {
  const list = (values: Float64Array) => Array.from(values, (v) => (Number.isFinite(v) ? v : null));
  const each = (of: Readonly<Record<string, Float64Array>>) => Object.fromEntries(Object.entries(of).map(([key, values]) => [key, list(values)]));
  return {
    iteration: list(h.iteration),
    ...(h.time ? { time: list(h.time) } : {}),
    residuals: each(h.residuals),
    quantities: each(h.quantities),
    ...(h.balances ? { balances: each(h.balances) } : {}),
    ...(h.starts ? { starts: { ...h.starts } } : {}),
  };
}

/** The record that {@link writeHistory} wrote; entries without a number are NaN, never 0. @throws {z.ZodError} where it is none */
export function readHistory(written: unknown): HistoryEvidence {
  const h = Written.parse(written);
  const array = (values: readonly (number | null)[]) => Float64Array.from(values, (v) => v ?? Number.NaN);
  const each = (of: z.infer<typeof ByKey>) => Object.fromEntries(Object.entries(of).map(([key, values]) => [key, array(values)]));
  return {
    iteration: array(h.iteration),
    ...(h.time ? { time: array(h.time) } : {}),
    residuals: each(h.residuals),
    quantities: each(h.quantities),
    ...(h.balances ? { balances: each(h.balances) } : {}),
    ...(h.starts ? { starts: h.starts } : {}),
  };
}
