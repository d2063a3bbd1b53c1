import { extent, ticks as linearTicks } from "d3-array";
import type { Numbers } from "@/core/numeric/numbers";

/** Powers of ten that span a range, at most about six. */
export function decades(low: number, high: number): number[] {
  if (!(low > 0 && high > 0)) return [1e-3, 1];
  const from = Math.floor(Math.log10(low));
  const to = Math.max(from + 1, Math.ceil(Math.log10(high)));
  const step = Math.max(1, Math.ceil((to - from) / 6));
  const first = Math.floor(from / step) * step;
  const out: number[] = [];
  for (let d = first; d < to + step; d += step) out.push(10 ** d);
  return out;
}

/** 1, 3, 10, 30 ... within the range of some positive numbers in order. */
export function logTicks(values: readonly number[], steps: readonly number[]): number[] {
  if (!values.length) return [];
  const [low, high] = [values[0], values[values.length - 1]];
  const out: number[] = [];
  for (let d = Math.floor(Math.log10(low)); d <= Math.log10(high); d++) for (const s of steps) out.push(Number((s * 10 ** d).toPrecision(3)));
  return out.filter((t) => t >= low && t <= high);
}

/** Whether a value can be drawn: on a logarithmic axis only what is positive. */
export const drawable = (v: number, log: boolean) => Number.isFinite(v) && (!log || v > 0);

/**
 * Ticks and ends of the axis of some records, and of a level that has to be on it.
 * @returns of a logarithmic axis whole decades, of a linear one a little room above and below
 */
export function ordinate(records: readonly Numbers[], level: number | undefined, log: boolean): { ticks: number[]; domain: [number, number] } {
  const ends = [...records.map((r) => extent(r.filter((v) => drawable(v, log)))), [level, level]].flat();
  const [low, high] = extent(ends.filter((v): v is number => v !== undefined));
  if (log) {
    const ticks = decades(low ?? Number.NaN, high ?? Number.NaN);
    return { ticks, domain: [ticks[0], ticks[ticks.length - 1]] };
  }
  if (low === undefined || high === undefined) return { ticks: [], domain: [0, 1] };
  const room = (high - low) * 0.08 || Math.abs(high) * 1e-3 || 1;
  return { ticks: linearTicks(low, high, 5), domain: [low - room, high + room] };
}

/**
 * Entries of a record that are drawn: evenly thinned to at most about `most`, the last always among them.
 */
export function thinnedEntries(length: number, most: number): number[] {
  const step = Math.max(1, Math.ceil(length / most));
  return Array.from({ length }, (_, i) => i).filter((i) => i % step === 0 || i === length - 1);
}
