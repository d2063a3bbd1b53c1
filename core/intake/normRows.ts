import type { FileProblem } from "../formats/delimited.ts";
import type { ErrorNorms } from "../records/profile.ts";

/** A row of a table of results that tells how far a field is from an exact one, and what it is small against. */
export const NORM_ROLES = ["norm-l1", "norm-l2", "norm-max", "norm-scale"] as const;
export type NormRole = (typeof NORM_ROLES)[number];

export const isNorm = (role: string): role is NormRole => (NORM_ROLES as readonly string[]).includes(role);

const WORDS: Readonly<Record<NormRole, string>> = {
  "norm-l1": "its L1 norm",
  "norm-l2": "its L2 norm",
  "norm-max": "its largest error",
  "norm-scale": "the largest exact value",
};

/** What a row of errors is called for: "L2 error of u" is of u. */
export const fieldOfNorm = (name: string): string =>
  name
    .replace(/\b(l1|l2|linf|l_?inf(inity)?|max(imum)?|largest|root mean square|rms|mean|absolute|error|norm|exact|value|scale|of|in|the)\b/gi, " ")
    .replace(/[\s,:()|]+/g, " ")
    .trim() || name.trim();

/** Guesses which norm a row is by its name; undefined where it is none. */
export function guessNorm(name: string): NormRole | undefined {
  if (/\b(largest|max(imum)?) exact\b|\bscale of\b/i.test(name)) return "norm-scale";
  if (!/\b(error|norm)\b/i.test(name)) return undefined;
  if (/\bl1\b/i.test(name)) return "norm-l1";
  if (/\bl2\b|\brms\b|root mean square/i.test(name)) return "norm-l2";
  return /\bl_?inf(inity)?\b|\bmax(imum)?\b|\blargest\b/i.test(name) ? "norm-max" : undefined;
}

export interface NormRow {
  readonly line: number;
  readonly name: string;
  readonly role: NormRole;
  readonly value: number;
  readonly unit: string;
}

/**
 * Norms by field. Each field needs all three and the largest exact value: a norm is small only against something.
 * @returns norms in the units of the file, which all rows of a field share; what stands in the way, line by line
 */
export function normsOf(rows: readonly NormRow[]): { readonly norms: ErrorNorms[]; readonly problems: FileProblem[] } {
  const fields = new Map<string, NormRow[]>();
  for (const r of rows) fields.set(fieldOfNorm(r.name), [...(fields.get(fieldOfNorm(r.name)) ?? []), r]);
  const problems: FileProblem[] = [];
  const norms = [...fields].flatMap(([field, own]): ErrorNorms[] => {
    const fault = faultOf(field, own);
    if (fault) {
      problems.push(fault);
      return [];
    }
    const of = (role: NormRole) => own.find((r) => r.role === role)?.value ?? Number.NaN;
    return [{ field, unit: own[0].unit, l1: of("norm-l1"), l2: of("norm-l2"), linf: of("norm-max"), scale: of("norm-scale") }];
  });
  return { norms, problems };
}

/** rounding of a file with few digits */
const ROUNDING = 1e-3;

function faultOf(field: string, own: readonly NormRow[]): FileProblem | undefined {
  const { line } = own[0];
  const missing = NORM_ROLES.filter((role) => !own.some((r) => r.role === role)).map((role) => WORDS[role]);
  if (missing.length) return { line, sentence: `The error of ${field} lacks ${missing.join(", ")}.` };
  const twice = own.find((r, k) => own.findIndex((x) => x.role === r.role) !== k);
  if (twice) return { line: twice.line, sentence: `Two rows give ${WORDS[twice.role]} of ${field}.` };
  const other = own.find((r) => r.unit !== own[0].unit);
  if (other) return { line: other.line, column: "unit", sentence: `${other.name} is in ${other.unit}, other rows of ${field} in ${own[0].unit}.` };
  const negative = own.find((r) => r.value < 0);
  if (negative) return { line: negative.line, sentence: `${negative.name} is negative; a norm is not.` };
  const of = (role: NormRole) => own.find((r) => r.role === role)?.value ?? Number.NaN;
  // Means over the volume: none of them is above the largest, and the first never above the second.
  if (of("norm-l1") > of("norm-l2") * (1 + ROUNDING) || of("norm-l2") > of("norm-max") * (1 + ROUNDING))
    return { line, sentence: `The norms of ${field} are no means over the volume: L1 is at most L2, and L2 at most the largest error.` };
  return undefined;
}
