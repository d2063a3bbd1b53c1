import type { RunSettings } from "@/core/problems/describe/runSettings";
import type { RunsView, RunView, SweepView } from "../../view";

/** Objects of one kind: what is the same in all of them once, and the rest of each. */
export interface Shared<T extends object> {
  readonly common: Partial<T>;
  readonly own: readonly Partial<T>[];
}

/** @returns what every one of them has, and has alike, apart from the rest */
export function share<T extends object>(list: readonly T[]): Shared<T> {
  const same = (key: string, text: string | undefined) => list.every((one) => key in one && JSON.stringify(one[key as keyof T]) === text);
  const alike = new Set(Object.entries(list[0] ?? {}).flatMap(([key, value]) => (same(key, JSON.stringify(value)) ? [key] : [])));
  const part = (one: T, common: boolean) => Object.fromEntries(Object.entries(one).filter(([key]) => alike.has(key) === common)) as Partial<T>;
  return { common: list.length ? part(list[0], true) : {}, own: list.map((one) => part(one, false)) };
}

export const unshare = <T extends object>({ common, own }: Shared<T>): T[] => own.map((one) => ({ ...common, ...one }) as T);

/** Runs as they are sent: with hundreds of them most of what was set is the same. */
interface SentRunList {
  readonly settings: Shared<RunSettings>;
  readonly rest: Shared<Omit<RunView, "settings">>;
}

/** The stage's view, its runs as they are sent. */
export interface SentRuns extends Omit<RunsView, "runs" | "sweeps"> {
  readonly sent: SentRunList;
  readonly sentSweeps: readonly (Omit<SweepView, "runs"> & { readonly sent: SentRunList })[];
}

const sendList = (runs: readonly RunView[]): SentRunList => ({
  settings: share(runs.map((r) => r.settings)),
  rest: share(runs.map(({ settings: _, ...rest }) => rest)),
});

function readList({ settings, rest }: SentRunList): RunView[] {
  const all = unshare(settings);
  return unshare(rest).map((r, i) => ({ ...r, settings: all[i] }));
}

export const sendRuns = ({ runs, sweeps, ...view }: RunsView): SentRuns => ({
  ...view,
  sent: sendList(runs),
  sentSweeps: sweeps.map(({ runs: own, ...sweep }) => ({ ...sweep, sent: sendList(own) })),
});

export const readRuns = ({ sent, sentSweeps, ...view }: SentRuns): RunsView => ({
  ...view,
  runs: readList(sent),
  sweeps: sentSweeps.map(({ sent: own, ...sweep }) => ({ ...sweep, runs: readList(own) })),
});
