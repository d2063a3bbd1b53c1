import { percent, signedPercent } from "../formatting/number.ts";
import type { Tried } from "../records/build.ts";
import { rulesOf } from "../remarks/rule.ts";

/** A quantity of a benchmark that is run with every version. */
export interface RoundQuantity {
  readonly caseId: string;
  readonly title: string;
  readonly quantityKey: string;
  readonly name: string;
  readonly unit: string;
  /** what changes are fractions of */
  readonly scale: number;
  /** numerical uncertainty at 95 %, fraction of the scale; what a change is weighed against */
  readonly uncertainty?: number;
  readonly tried: readonly Tried[];
}

/** What a version made of a quantity, against the version before it that was run. */
export interface RoundCell {
  readonly version: string;
  readonly value: number;
  readonly runId: string;
  /** of the scale, against the last version before that has a value; absent in the first */
  readonly change?: number;
  /** what both records leave open, 95 %, fraction of the scale */
  readonly noise?: number;
  /** change over the numerical uncertainty of the quantity, where that is known */
  readonly weight?: number;
  readonly moved?: boolean;
}

export interface RoundLine extends Omit<RoundQuantity, "tried"> {
  readonly place: string;
  readonly cells: readonly RoundCell[];
  /** where it left its first value for good: the last version that had it, the first that has not, and what to run between them */
  readonly broke?: {
    readonly good: string;
    readonly bad: string;
    readonly between: readonly string[];
    readonly next?: string;
    readonly sentence: string;
  };
}

export interface Rounds {
  readonly code: string;
  /** in the order they were first run */
  readonly versions: readonly string[];
  readonly lines: readonly RoundLine[];
  /** how many lines moved beyond noise with each version */
  readonly moved: Readonly<Record<string, number>>;
}

/** a change below this share of the scale is rounding, whatever a record says of itself */
const ROUNDING = 1e-12;

/** Codes that were run in two versions or more, with the most first. */
export function codesInRounds(quantities: readonly RoundQuantity[]): { code: string; versions: number }[] {
  const versions = new Map<string, Set<string>>();
  for (const { tried } of quantities) for (const t of tried) versions.set(t.code, (versions.get(t.code) ?? new Set()).add(t.version));
  return [...versions].map(([code, set]) => ({ code, versions: set.size })).sort((a, b) => b.versions - a.versions || a.code.localeCompare(b.code));
}

/**
 * The benchmarks run with every version of a code: what moved from version to version, beyond what the records themselves leave open. Runs on one
 * mesh with the same settings are compared, on the place most versions share; of two runs of a version there the newest counts.
 */
export function roundsOf(code: string, quantities: readonly RoundQuantity[]): Rounds {
  const own = quantities.map((q) => ({ ...q, tried: q.tried.filter((t) => t.code === code && Number.isFinite(t.value)) }));
  const versions = inOrder(own.flatMap((q) => q.tried));
  const lines = own.flatMap((q) => lineOf(q, versions));
  const moved = Object.fromEntries(versions.map((v) => [v, lines.filter((l) => l.cells.some((c) => c.version === v && c.moved)).length]));
  return { code, versions, lines, moved };
}

/** Versions by when each was first run. */
function inOrder(tried: readonly Tried[]): string[] {
  const first = new Map<string, string>();
  for (const { version, at } of tried) if (!first.has(version) || at < (first.get(version) ?? "")) first.set(version, at);
  return [...first].sort(([, a], [, b]) => (a < b ? -1 : a > b ? 1 : 0)).map(([version]) => version);
}

function lineOf({ tried, ...q }: RoundQuantity, versions: readonly string[]): RoundLine[] {
  const places = new Map<string, Tried[]>();
  for (const t of tried) places.set(t.place, [...(places.get(t.place) ?? []), t]);
  const count = (list: readonly Tried[]) => new Set(list.map((t) => t.version)).size;
  const [most] = [...places].sort(([, a], [, b]) => count(b) - count(a));
  if (!most) return [];
  const [place, here] = most;
  const newest = versions.flatMap((version) => {
    const own = here.filter((t) => t.version === version);
    return own.length ? [own.reduce((a, b) => (b.at >= a.at ? b : a))] : [];
  });
  const cells = newest.map((t, k) => cellOf(t, newest[k - 1], q));
  const broke = breakOf(newest, versions, q.scale);
  return [{ ...q, place, cells, ...(broke ? { broke } : {}) }];
}

function cellOf(t: Tried, before: Tried | undefined, q: Pick<RoundQuantity, "scale" | "uncertainty">): RoundCell {
  const { version, value, runId } = t;
  if (!before) return { version, value, runId };
  const change = (value - before.value) / q.scale;
  const noise = noiseOf(t, before, q.scale);
  return {
    version,
    value,
    runId,
    change,
    noise,
    ...(q.uncertainty ? { weight: Math.abs(change) / q.uncertainty } : {}),
    moved: Math.abs(change) > noise,
  };
}

const noiseOf = (a: Tried, b: Tried, scale: number): number => Math.max(ROUNDING, Math.hypot(a.noise, b.noise) / scale);

/** The first version whose value, and every later one, lies away from the first value by more than noise; versions between that were not run narrow it. */
function breakOf(newest: readonly Tried[], versions: readonly string[], scale: number): RoundLine["broke"] {
  const [first] = newest;
  if (newest.length < 2) return undefined;
  const away = newest.map((t) => Math.abs(t.value - first.value) / scale > noiseOf(t, first, scale));
  if (!away.at(-1)) return undefined;
  const bad = away.lastIndexOf(false) + 1;
  const [good, broken] = [newest[bad - 1], newest[bad]];
  const between = versions.slice(versions.indexOf(good.version) + 1, versions.indexOf(broken.version));
  const next = between[Math.floor((between.length - 1) / 2)];
  const size = signedPercent((broken.value - good.value) / scale);
  const narrow = next ? ` ${between.length} ${between.length === 1 ? "version" : "versions"} between were not run; run ${next} next.` : "";
  return {
    good: good.version,
    bad: broken.version,
    between,
    ...(next ? { next } : {}),
    sentence: `Held up to ${good.version}, moved by ${size} with ${broken.version}.${narrow}`,
  };
}

/** What a round says in a sentence. */
export function roundSentence({ versions, lines, moved }: Rounds): string {
  const last = versions.at(-1);
  if (!last || versions.length < 2) return "One version alone: nothing can have moved yet.";
  const of = lines.filter((l) => l.cells.some((c) => c.version === last && c.change !== undefined));
  const largest = Math.max(0, ...of.flatMap((l) => l.cells.filter((c) => c.version === last && c.moved).map((c) => Math.abs(c.change ?? 0))));
  return moved[last]
    ? `With ${last}, ${moved[last]} of ${of.length} figures moved beyond noise, the largest by ${percent(largest)}.`
    : `With ${last}, none of ${of.length} figures moved beyond noise.`;
}

/** The rules of this file in words. */
export const ROUND_RULES = rulesOf("core/study/rounds.ts", [
  {
    rule: "rounds",
    text: "Runs of one benchmark on one mesh with the same settings and different versions of a code are a round each. A figure has moved where it differs from the version before by more than the root of the squares of what both records leave open (iteration or averaging, 95 %) and more than rounding. It broke with the first version from which on every value lies away from the first one by more than that; versions between that were not run are halved. The change is weighed against the numerical uncertainty beside.",
    source: "method of this product",
  },
]);
