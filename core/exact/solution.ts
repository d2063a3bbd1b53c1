import { asGiven, significant } from "../formatting/number.ts";

/** Fields of the trade a solution is filed under. */
export const SUBJECTS = [
  "Ducts and plates",
  "Moving walls",
  "Boundary layers",
  "Jets and wakes",
  "Vortices",
  "Bodies",
  "Ideal flow",
  "Friction",
  "Turbulent walls",
  "Heat in a flow",
  "Natural convection",
  "Conduction",
  "Gas: waves and shocks",
  "Gas: ducts",
  "Openings",
] as const;
export type Subject = (typeof SUBJECTS)[number];

/** What a parameter is, so that a case can fill it in. */
export type Like =
  | "velocity"
  | "length"
  | "density"
  | "viscosity"
  | "kinematic"
  | "reynolds"
  | "mach"
  | "gamma"
  | "prandtl"
  | "rayleigh"
  | "temperatureDifference"
  | "gravity";

/** A parameter of a solution, SI. */
export interface Parameter {
  readonly key: string;
  readonly label: string;
  /** TeX */
  readonly symbol: string;
  readonly unit: string;
  readonly preset: number;
  readonly low: number;
  readonly high: number;
  /** slid over decades rather than evenly */
  readonly log?: boolean;
  readonly whole?: boolean;
  readonly choices?: readonly (readonly [value: number, words: string])[];
  readonly like?: Like;
}

/** A single figure a solution gives. */
export interface SolutionValue {
  readonly key: string;
  readonly name: string;
  readonly unit: string;
  readonly value: number;
  /** at 95 %, a fraction of the value; where it is not that of the whole solution */
  readonly uncertainty?: number;
}

export interface SolutionAxis {
  readonly name: string;
  readonly unit: string;
  readonly log?: boolean;
}

/** A curve a solution gives. */
export interface SolutionCurve {
  readonly key: string;
  readonly name: string;
  readonly x: SolutionAxis;
  readonly y: SolutionAxis;
  readonly from: number;
  readonly to: number;
  /** values at ascending places */
  readonly sample: (places: readonly number[]) => number[];
}

/** A condition of validity and whether the parameters keep it. */
export interface RangeCheck {
  readonly sentence: string;
  readonly inside: boolean;
}

/** Physics a case must share for the solution to be about it. */
export interface SolutionPhysics {
  readonly transient?: boolean;
  readonly compressible?: boolean;
  readonly turbulent?: boolean;
  readonly inviscid?: boolean;
  readonly heat?: boolean;
  readonly space?: "plane" | "axisymmetric" | "three-dimensional";
}

type ValuesOf<P extends readonly Parameter[]> = { readonly [K in P[number]["key"]]: number };

interface SolutionOf<P extends readonly Parameter[]> {
  readonly id: string;
  readonly name: string;
  readonly subject: Subject;
  /** other words it is looked for by */
  readonly words: string;
  /** exact, exact up to an ordinary differential equation or a series, an asymptote, or fitted to measurements */
  readonly nature: "exact" | "similarity" | "series" | "asymptotic" | "correlation";
  /** 95 %, a fraction, where the source or the nature of it leaves one; 0 for what is exact */
  readonly uncertainty: number;
  readonly uncertaintyNote?: string;
  /** its figures take tenths of a second; its range alone tells whether they exist */
  readonly costly?: true;
  /** TeX, one line each */
  readonly formulas: readonly string[];
  readonly source: string;
  readonly physics: SolutionPhysics;
  readonly parameters: P;
  readonly range: (p: ValuesOf<P>) => readonly RangeCheck[];
  readonly values: (p: ValuesOf<P>) => readonly SolutionValue[];
  readonly curves: (p: ValuesOf<P>) => readonly SolutionCurve[];
}

/** A solution or correlation of the library: pure, in SI, with everything that is known of its standing. */
export type Solution = SolutionOf<readonly Parameter[]>;

/** Files a solution under the common type; its own functions know their parameters by name. */
export function solution<const P extends readonly Parameter[]>(s: SolutionOf<P>): Solution {
  return s as unknown as Solution;
}

/** Samples place by place. */
export const pointwise = (f: (x: number) => number) => (places: readonly number[]) => places.map(f);

/** "Reynolds number 50 is above 1": a limit in words, and whether it is kept. */
export function within(name: string, value: number, limits: { readonly low?: number; readonly high?: number }): RangeCheck {
  const { low = Number.NEGATIVE_INFINITY, high = Number.POSITIVE_INFINITY } = limits;
  const is = `${name} is ${significant(value, 3)}`;
  if (!(value >= low)) return { inside: false, sentence: `${is}, below ${asGiven(low, 3)}.` };
  if (!(value <= high)) return { inside: false, sentence: `${is}, above ${asGiven(high, 3)}.` };
  const bounds = [
    ...(low > Number.NEGATIVE_INFINITY ? [`from ${asGiven(low, 3)}`] : []),
    ...(high < Number.POSITIVE_INFINITY ? [`up to ${asGiven(high, 3)}`] : []),
  ];
  return { inside: true, sentence: `${is}; it holds ${bounds.join(" ")}.` };
}

/** Places over a curve's own extent: even, or even in decades. */
export function placesOf(c: Pick<SolutionCurve, "from" | "to" | "x">, count: number): number[] {
  const at = (k: number) => k / (count - 1);
  return Array.from({ length: count }, (_, k) => {
    if (k === 0) return c.from;
    if (k === count - 1) return c.to;
    return c.x.log ? c.from * (c.to / c.from) ** at(k) : c.from + (c.to - c.from) * at(k);
  });
}

/** Everything a solution says for one set of parameters. */
export type Evaluated =
  | {
      readonly ok: true;
      readonly values: readonly SolutionValue[];
      readonly curves: readonly SolutionCurve[];
      readonly range: readonly RangeCheck[];
      readonly inside: boolean;
    }
  | { readonly ok: false; readonly sentence: string };

/**
 * A solution at given parameters, SI, with its range checked; presets stand in for what is not given.
 * @returns a sentence where the parameters allow no solution at all
 */
export function evaluate(s: Solution, given: Readonly<Record<string, number>>): Evaluated {
  return withParameters(s, given, (p, range) => ({
    ok: true,
    values: s.values(p),
    curves: s.curves(p),
    range,
    inside: range.every((r) => r.inside),
  }));
}

/**
 * Whether a solution exists and holds at given parameters, told as cheaply as it can be.
 * @returns what speaks against it; empty where it holds
 */
export function speaksAgainst(s: Solution, given: Readonly<Record<string, number>>): string[] {
  const found = withParameters(s, given, (p, range) => {
    if (!s.costly) s.values(p);
    return { ok: true as const, range };
  });
  return found.ok ? found.range.filter((r) => !r.inside).map((r) => r.sentence) : [found.sentence];
}

type Refused = { readonly ok: false; readonly sentence: string };

/** Does something with complete parameters and the range they lie in; what cannot be is told in a sentence. */
function withParameters<T>(
  s: Solution,
  given: Readonly<Record<string, number>>,
  then: (p: Record<string, number>, range: readonly RangeCheck[]) => T,
): T | Refused {
  const p: Record<string, number> = {};
  for (const spec of s.parameters) {
    const value = given[spec.key] ?? spec.preset;
    if (!Number.isFinite(value) || value < spec.low || value > spec.high)
      return {
        ok: false,
        sentence: `${spec.label} must lie between ${significant(spec.low, 3)} and ${significant(spec.high, 3)} ${spec.unit}.`.replace(" .", "."),
      };
    if (spec.whole && !Number.isInteger(value)) return { ok: false, sentence: `${spec.label} must be a whole number.` };
    if (spec.choices && !spec.choices.some(([v]) => v === value)) return { ok: false, sentence: `${spec.label} is none of its choices.` };
    p[spec.key] = value;
  }
  try {
    return then(p, s.range(p));
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    return { ok: false, sentence: error.message };
  }
}
