const DAY_MS = 86_400_000;

/** Whole days between two moments. */
export const daysBetween = (from: string, to: string): number => Math.max(0, Math.floor((Date.parse(to) - Date.parse(from)) / DAY_MS));

const days = (n: number): string => (n === 0 ? "less than a day" : n === 1 ? "1 day" : `${n} days`);

/** How long a finding has been open, or how long it took to cure. */
export const ageText = (createdAt: string, curedAt: string | null, now = new Date().toISOString()): string =>
  curedAt ? `cured after ${days(daysBetween(createdAt, curedAt))}` : `open for ${days(daysBetween(createdAt, now))}`;
