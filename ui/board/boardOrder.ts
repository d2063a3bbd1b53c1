import type { BoardRow } from "@/core/assessment/results/boardRow";
import type { State } from "@/core/remarks/remark";

export const ORDERS = ["as made", "by name", "worst first", "largest difference first", "most findings first"] as const;
export type Order = (typeof ORDERS)[number];

export interface Sieve {
  readonly search: string;
  /** "" for any */
  readonly state: State | "";
  readonly tag: string;
  readonly order: Order;
}

export const OPEN_SIEVE: Sieve = { search: "", state: "", tag: "", order: "as made" };

const WORST: Readonly<Record<State, number>> = { fails: 0, stale: 1, none: 2, remark: 3, holds: 4 };
const worstOf = (r: BoardRow): number => Math.min(5, ...r.verdicts.map((s) => WORST[s]));
const differenceOf = (r: BoardRow): number => (r.rule?.difference === undefined ? -1 : Math.abs(r.rule.difference));

/** Rows of the board that are asked for, in the order asked for; equals stay as they were made. Words are looked for in name, quantity and tags. */
export function sifted<Row extends BoardRow>(rows: readonly Row[], { search, state, tag, order }: Sieve): Row[] {
  const words = search.trim().toLowerCase().split(/\s+/).filter(Boolean);
  const found = rows.filter((r) => {
    const text = `${r.title} ${r.leading} ${r.tags.join(" ")}`.toLowerCase();
    return words.every((w) => text.includes(w)) && (state === "" || r.verdicts.includes(state)) && (tag === "" || r.tags.includes(tag));
  });
  switch (order) {
    case "by name":
      return found.sort((a, b) => a.title.localeCompare(b.title));
    case "worst first":
      return found.sort((a, b) => worstOf(a) - worstOf(b));
    case "largest difference first":
      return found.sort((a, b) => differenceOf(b) - differenceOf(a));
    case "most findings first":
      return found.sort((a, b) => b.openFindings - a.openFindings);
    default:
      return found;
  }
}

/** Words cases are marked with, the most used first. */
export function tagsOf(rows: readonly Pick<BoardRow, "tags">[]): string[] {
  const counts = new Map<string, number>();
  for (const t of rows.flatMap((r) => r.tags)) counts.set(t, (counts.get(t) ?? 0) + 1);
  return [...counts].sort(([a, n], [b, m]) => m - n || a.localeCompare(b)).map(([t]) => t);
}
