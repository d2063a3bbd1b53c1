import type { useHistory } from "../../api/useHistory";
import type { LiveRun } from "../../api/useRunEvents";

type Stored = ReturnType<typeof useHistory>;

/** Place of a column in the rows of a live run, -1 where there is none. */
const columnOf = (live: LiveRun | undefined, role: string, key: string) => live?.columns?.findIndex((c) => c.role === role && c.key === key) ?? -1;

/** What a run under way last said of a quantity. */
export const lastOf = (live: LiveRun | undefined, quantityKey: string): number | undefined =>
  live?.rows.at(-1)?.[columnOf(live, "quantity", quantityKey)];

/** Orders the residuals of a run under way have fallen, of that which fell least. */
export function liveDrop(live: LiveRun | undefined): number | undefined {
  const last = live?.rows.at(-1);
  if (!last || !live?.starts || live.rows.length < 2) return undefined;
  const drops = Object.entries(live.starts).map(([name, start]) => Math.log10(start / last[columnOf(live, "residual", name)]));
  return drops.length ? Math.min(...drops) : undefined;
}

interface Joined {
  readonly time?: readonly number[];
  readonly iteration: readonly number[];
  readonly residuals: Readonly<Record<string, readonly number[]>>;
  readonly quantity: readonly number[];
}

/** The stored record with the live rows that came after it. */
export function join(stored: Stored, live: LiveRun | undefined, key: string): Joined {
  const last = stored?.iteration.at(-1) ?? 0;
  const rows = (live?.rows ?? []).filter((r) => r[0] > last);
  const liveNames = (live?.columns ?? []).filter((c) => c.role === "residual").map((c) => c.key);
  const names = stored?.iteration.length ? Object.keys(stored.residuals) : liveNames;
  const take = (role: string, name: string) => {
    const k = columnOf(live, role, name);
    return rows.map((r) => (k < 0 ? Number.NaN : r[k]));
  };
  const timed = stored?.time ?? (columnOf(live, "time", "time") >= 0 ? [] : undefined);
  return {
    ...(timed ? { time: [...timed, ...take("time", "time")] } : {}),
    iteration: [...(stored?.iteration ?? []), ...rows.map((r) => r[0])],
    residuals: Object.fromEntries(names.map((n) => [n, [...(stored?.residuals[n] ?? []), ...take("residual", n)]])),
    quantity: [...(stored?.quantities[key] ?? (stored?.iteration ?? []).map(() => Number.NaN)), ...take("quantity", key)],
  };
}
