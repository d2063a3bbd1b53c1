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

type Values = readonly (number | null)[];
type ByKey = Readonly<Record<string, Values>>;

/** A record as JSON writes it: lists of numbers, null where an entry has none. */
export interface WrittenHistory {
  readonly iteration: Values;
  readonly time?: Values;
  readonly residuals: ByKey;
  readonly quantities: ByKey;
  readonly balances?: ByKey;
  readonly starts?: Readonly<Record<string, number>>;
}

/** A record as JSON can hold it, which knows neither typed arrays nor NaN. */
export function writeHistory(h: HistoryEvidence): WrittenHistory {
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

/** @throws {TypeError} it is no list of numbers and gaps */
function array(values: unknown): Float64Array {
  if (!Array.isArray(values) || values.some((v) => v !== null && typeof v !== "number")) throw new TypeError("This is no record of a run.");
  return Float64Array.from(values as Values, (v) => v ?? Number.NaN);
}

/**
 * The record that {@link writeHistory} wrote; entries without a number are NaN, never 0. Pages read records with it, so it brings no package along.
 * @throws {TypeError} it is none
 */
export function readHistory(h: WrittenHistory): HistoryEvidence {
  const each = (of: ByKey) => Object.fromEntries(Object.entries(of).map(([key, values]) => [key, array(values)]));
  return {
    iteration: array(h.iteration),
    ...(h.time ? { time: array(h.time) } : {}),
    residuals: each(h.residuals),
    quantities: each(h.quantities),
    ...(h.balances ? { balances: each(h.balances) } : {}),
    ...(h.starts ? { starts: h.starts } : {}),
  };
}
