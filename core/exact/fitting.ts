import { LIBRARY } from "./library.ts";
import { type Like, type Solution, type SolutionPhysics, speaksAgainst } from "./solution.ts";

/** What a case says that a solution can be held against; SI. */
export interface Conditions {
  readonly values: Readonly<Partial<Record<Like, number>>>;
  readonly physics: Required<Omit<SolutionPhysics, "space">> & Pick<SolutionPhysics, "space">;
}

/** How well a solution goes with a case. */
export interface Fit {
  /** in words what speaks against it; empty where nothing does */
  readonly against: readonly string[];
  /** parameters the case fills in, SI */
  readonly parameters: Readonly<Record<string, number>>;
  /** it holds at the case's conditions */
  readonly inside: boolean;
  /** the smaller the better */
  readonly rank: number;
}

type Way = Exclude<keyof SolutionPhysics, "space">;

/** What is said where a solution is of one kind and the case of the other: [only the solution is, only the case is]. */
const APART: Readonly<Record<Way, readonly [solution: string, theCase: string]>> = {
  transient: ["it changes in time, the case is steady", "it is steady, the case changes in time"],
  compressible: ["it is of a gas that is compressed, the case is not", "it is of constant density, the case is not"],
  turbulent: ["it is turbulent, the case is laminar", "it is laminar, the case is turbulent"],
  inviscid: ["it has no viscosity, the case has", "it has viscosity, the case has none"],
  heat: ["it is about heat, the case is not", "it says nothing of heat"],
};

/** heat may ride along, and a gas without viscosity is still a gas: these count less */
const WEIGHT: Readonly<Record<Way, number>> = { transient: 2, compressible: 3, turbulent: 2, inviscid: 1, heat: 1 };

/** Parameters of a solution that a case knows, where they lie within its bounds. */
export function followedParameters(s: Solution, { values }: Pick<Conditions, "values">): Record<string, number> {
  return Object.fromEntries(
    s.parameters.flatMap((p) => {
      const value = p.like && values[p.like];
      return value !== undefined && value >= p.low && value <= p.high ? [[p.key, value]] : [];
    }),
  );
}

/** Solutions with how they go with a case, best first. */
export const ranked = (c: Conditions): { readonly solution: Solution; readonly fit: Fit }[] =>
  LIBRARY.map((solution) => ({ solution, fit: fitOf(solution, c) })).sort((a, b) => a.fit.rank - b.fit.rank);

/** How a solution goes with a case: what both are about, and whether it holds at the case's conditions. */
export function fitOf(s: Solution, c: Conditions): Fit {
  const ways = (Object.keys(APART) as Way[]).filter((w) => Boolean(s.physics[w]) !== c.physics[w]);
  const spaces = s.physics.space && c.physics.space && s.physics.space !== c.physics.space;
  const parameters = followedParameters(s, c);
  const outside = speaksAgainst(s, parameters);
  const inside = !outside.length;
  const against = [
    ...ways.map((w) => APART[w][s.physics[w] ? 0 : 1]),
    ...(spaces ? [`it is ${s.physics.space}, the case ${c.physics.space}`] : []),
    ...outside,
  ];
  const asked = s.parameters.filter((p) => p.like).length;
  const missing = asked ? 1 - Object.keys(parameters).length / asked : 0.5;
  return { against, parameters, inside, rank: ways.reduce((sum, w) => sum + WEIGHT[w], 0) + (spaces ? 2 : 0) + (inside ? 0 : 2) + missing };
}
