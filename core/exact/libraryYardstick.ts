import { asGiven } from "../formatting/number.ts";
import type { FromLibrary, Reference, ReferenceProfile, ReferenceValue } from "../records/reference.ts";
import { conversion } from "../units/conversion.ts";
import { SAMPLES } from "./explore.ts";
import type { Conditions } from "./fitting.ts";
import { findSolution } from "./library.ts";
import { evaluate, placesOf, type Solution, type SolutionCurve, type SolutionValue } from "./solution.ts";

/** What a case asks for, as far as a yardstick needs to know it. */
export interface Asked {
  readonly key: string;
  readonly name: string;
  readonly unit: string;
}

/** Parameters of a yardstick: those that follow the case at what the case says now, the others as they were set. */
function parametersNow(
  s: Solution,
  made: FromLibrary,
  { values }: Pick<Conditions, "values">,
): { parameters: Record<string, number>; missing: string[] } {
  const parameters: Record<string, number> = { ...made.parameters };
  const missing: string[] = [];
  for (const p of s.parameters.filter((x) => made.followed.includes(x.key))) {
    const now = p.like && values[p.like];
    if (now === undefined) missing.push(p.label);
    else parameters[p.key] = now;
  }
  return { parameters, missing };
}

const NONE = { values: [], profiles: [] } as const;

/**
 * A yardstick of the library at the conditions of its case: its figures and curves worked out anew, its range checked.
 * @param stored what was kept of it; its figures are not among that
 * @returns a yardstick that does not hold, with the reason, where the solution or a condition is missing
 */
export function libraryYardstick(stored: Reference & { readonly made: FromLibrary }, conditions: Conditions, asked: readonly Asked[]): Reference {
  const { made } = stored;
  const s = findSolution(made.solution);
  const refused = (sentence: string): Reference => ({ ...stored, ...NONE, validity: { inside: false, sentence } });
  if (!s) return refused(`The library has no solution called ${made.solution}.`);
  const { parameters, missing } = parametersNow(s, made, conditions);
  if (missing.length) return refused(`The case no longer says what it follows: ${missing.join(", ")}.`);
  const found = evaluate(s, parameters);
  if (!found.ok) return refused(found.sentence);
  const at = s.parameters.map(
    (p) => `${p.label} ${asGiven(parameters[p.key], 6)}${p.unit ? ` ${p.unit}` : ""}${made.followed.includes(p.key) ? " (the case's)" : ""}`,
  );
  const outside = found.range.filter((r) => !r.inside);
  return {
    ...stored,
    source: `${s.source}. At ${at.join(", ")}`,
    validity: { inside: found.inside, sentence: (outside.length ? outside : found.range).map((r) => r.sentence).join(" ") },
    values: made.values.flatMap((w) => figureOf(s, found.values, w, asked)),
    profiles: made.curves.flatMap((w) => profileOf(s, found.curves, w)),
  };
}

const noteOf = (s: Solution) => (s.uncertainty === 0 ? "exact" : `${s.uncertaintyNote ?? s.nature}, 95 %`);

function figureOf(s: Solution, values: readonly SolutionValue[], wish: FromLibrary["values"][number], asked: readonly Asked[]): ReferenceValue[] {
  const v = values.find((x) => x.key === wish.from);
  const q = asked.find((x) => x.key === wish.quantityKey);
  const turn = v && q ? conversion(v.unit, q.unit)?.turn : undefined;
  if (!v || !q || !turn) return [];
  const value = turn(v.value) * (wish.sign ?? 1);
  const uncertainty = v.uncertainty ?? s.uncertainty;
  return [{ quantityKey: q.key, value, standardUncertainty: (uncertainty / 2) * Math.abs(value), uncertaintyNote: noteOf(s) }];
}

function profileOf(s: Solution, curves: readonly SolutionCurve[], wish: FromLibrary["curves"][number]): ReferenceProfile[] {
  const c = curves.find((x) => x.key === wish.from);
  if (!c) return [];
  const abscissa = placesOf(c, SAMPLES);
  const value = c.sample(abscissa);
  return [
    {
      profileKey: wish.profileKey,
      axes: { name: c.name, abscissa: { name: c.x.name, unit: c.x.unit || "1" }, value: { name: c.y.name, unit: c.y.unit || "1" } },
      abscissa,
      value,
      standardUncertainty: value.map((v) => (s.uncertainty / 2) * Math.abs(v)),
      uncertaintyNote: noteOf(s),
      line: true,
    },
  ];
}

/** Whether a figure of a solution can stand for a quantity: their units are of one kind. */
export const canStandFor = (v: Pick<SolutionValue, "unit">, q: Pick<Asked, "unit">): boolean => conversion(v.unit, q.unit) !== undefined;
