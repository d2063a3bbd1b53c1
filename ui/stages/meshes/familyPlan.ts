import { familyMembers } from "@/core/mesh/family";
import type { Grading } from "@/core/mesh/grading";
import type { CellShape } from "@/core/mesh/shapes";
import { cellCount, type ProblemDescription } from "@/core/problems/describe/problem";
import type { MeshSpec } from "@/core/problems/describe/runSettings";
import type { Input } from "../../api/call";
import { entryOf } from "../../forms/entries";

type Rule = Input<"POST /cases/{id}/family">;

/** A family's rule as it is typed. */
export interface FamilyEntries {
  readonly baseNx: string;
  readonly baseNy: string;
  readonly ratio: string;
  readonly count: string;
  readonly kindX: string;
  readonly strengthX: string;
  readonly kindY: string;
  readonly strengthY: string;
  readonly shape: string;
}

/** a strength to begin with where nothing is graded yet */
const STRENGTH = "1.5";
const strengthOf = (g: Grading) => (g.kind === "uniform" ? STRENGTH : String(g.strength));

/** The rule of a case, or that of its template. */
export function familyEntries(rule: ProblemDescription["family"]): FamilyEntries {
  return {
    baseNx: String(rule.baseNx),
    baseNy: String(rule.baseNy),
    ratio: String(rule.ratio),
    count: String(rule.count),
    kindX: rule.gradingX.kind,
    strengthX: strengthOf(rule.gradingX),
    kindY: rule.gradingY.kind,
    strengthY: strengthOf(rule.gradingY),
    shape: rule.shape ?? "rows",
  };
}

const grading = (kind: string, strength: string): Grading =>
  kind === "uniform" ? { kind } : { kind: kind as "both-ends", strength: Number(strength) };

/** The rule that was typed; a cell shape only where the problem has a choice. */
export const ruleOf = (typed: FamilyEntries, shapes: ProblemDescription["shapes"]): Rule => ({
  baseNx: Math.round(Number(typed.baseNx)),
  baseNy: Math.round(Number(typed.baseNy)),
  ratio: Number(typed.ratio),
  count: Number(typed.count),
  gradingX: grading(typed.kindX, typed.strengthX),
  gradingY: grading(typed.kindY, typed.strengthY),
  ...(shapes ? { shape: typed.shape as CellShape } : {}),
});

/** A mesh of the family, before it is made. */
export type Member = ReturnType<typeof familyMembers>[number] & { readonly spec: MeshSpec };

/** The meshes of the rule that was typed, coarsest first, or the sentence that says what is wrong with it. */
export function planOf(typed: FamilyEntries, problem: ProblemDescription, parameters: Readonly<Record<string, number>>) {
  try {
    const rule = ruleOf(typed, problem.shapes);
    const { gradingX, gradingY, shape } = rule;
    const specOf = (nx: number, ny: number): MeshSpec => ({ nx, ny, gradingX, gradingY, ...(shape ? { shape } : {}) });
    const counts = familyMembers(rule.baseNx, rule.baseNy, rule.ratio, rule.count, (nx, ny) => cellCount(problem, parameters, specOf(nx, ny)));
    return { rule, members: counts.map((m): Member => ({ ...m, spec: specOf(m.nx, m.ny) })) };
  } catch (error) {
    return { mistake: error instanceof Error ? error.message : String(error) };
  }
}

export const FamilyEntry = entryOf<FamilyEntries>();
