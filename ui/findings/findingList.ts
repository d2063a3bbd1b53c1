import type { FindingSeverity } from "@/core/records/finding";
import { daysBetween } from "./age";

/** A finding among those of all cases. */
export interface FindingLine {
  readonly id: string;
  readonly caseId: string;
  readonly caseTitle: string;
  readonly title: string;
  readonly what: string;
  readonly cause: string;
  readonly causeName: string;
  readonly test: string;
  readonly change: string;
  readonly shownBy: string | null;
  readonly curedBy: string | null;
  readonly severity: FindingSeverity;
  readonly owner: string;
  readonly createdAt: string;
  readonly curedAt: string | null;
}

export interface FindingSieve {
  readonly state: "open" | "cured" | "all";
  readonly severity: FindingSeverity | "";
  readonly owner: string;
  readonly cause: string;
  readonly search: string;
}

export const ANY_FINDING: FindingSieve = { state: "open", severity: "", owner: "", cause: "", search: "" };

const WEIGHT: Readonly<Record<FindingSeverity, number>> = { blocking: 0, major: 1, minor: 2 };

/** Findings that are asked for, the heaviest and then the oldest first. */
export function siftedFindings(list: readonly FindingLine[], s: FindingSieve): FindingLine[] {
  const words = s.search.trim().toLowerCase().split(/\s+/).filter(Boolean);
  return list
    .filter((f) => {
      const text = `${f.title} ${f.what} ${f.cause} ${f.caseTitle}`.toLowerCase();
      return (
        (s.state === "all" || (s.state === "cured") === (f.curedBy !== null)) &&
        (s.severity === "" || f.severity === s.severity) &&
        (s.owner === "" || f.owner === s.owner) &&
        (s.cause === "" || f.causeName === s.cause) &&
        words.every((w) => text.includes(w))
      );
    })
    .sort((a, b) => WEIGHT[a.severity] - WEIGHT[b.severity] || a.createdAt.localeCompare(b.createdAt));
}

export interface CauseCount {
  readonly cause: string;
  readonly count: number;
  readonly open: number;
  readonly cases: number;
  /** middle one of the days it took to cure; absent where none is cured */
  readonly days?: number;
}

/** How often each cause was suspected, over how many cases, and how long curing it took; what came back most first. */
export function recurringCauses(list: readonly FindingLine[]): CauseCount[] {
  const by = new Map<string, FindingLine[]>();
  for (const f of list) if (f.causeName) by.set(f.causeName, [...(by.get(f.causeName) ?? []), f]);
  return [...by]
    .map(([cause, own]) => {
      const took = own.flatMap((f) => (f.curedAt ? [daysBetween(f.createdAt, f.curedAt)] : [])).sort((a, b) => a - b);
      return {
        cause,
        count: own.length,
        open: own.filter((f) => f.curedBy === null).length,
        cases: new Set(own.map((f) => f.caseId)).size,
        ...(took.length ? { days: took[Math.floor((took.length - 1) / 2)] } : {}),
      };
    })
    .sort((a, b) => b.count - a.count || a.cause.localeCompare(b.cause));
}
