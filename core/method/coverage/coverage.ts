import { significant } from "../../formatting/number.ts";
import { rulesOf } from "../../remarks/rule.ts";

/** A number that says where something was done: a Reynolds, Mach or Prandtl number. */
export interface Condition {
  readonly key: string;
  readonly name: string;
  readonly value: number;
}

/** A case that was held against a truth, and where. */
export interface ValidationPoint {
  readonly id: string;
  readonly title: string;
  readonly conditions: readonly Condition[];
}

/** How one condition of the application lies among those the evidence was made at. */
export interface ConditionCoverage extends Condition {
  readonly state: "inside" | "beyond" | "none";
  /** lowest and highest among the points that have it */
  readonly range?: readonly [number, number];
  /** the point that lies nearest, and by which factor it is away, 1 or more */
  readonly nearest?: { readonly id: string; readonly title: string; readonly value: number; readonly factor: number };
  readonly sentence: string;
}

/** The points nearest by all conditions they share with the application. */
export interface NearPoint {
  readonly id: string;
  readonly title: string;
  /** root of the mean square of the decades between them, over the shared conditions */
  readonly decades: number;
  readonly shared: number;
}

export interface Coverage {
  readonly conditions: readonly ConditionCoverage[];
  readonly nearest: readonly NearPoint[];
  /** no condition lies beyond the evidence or has none */
  readonly inside: boolean;
  readonly sentence: string;
}

const decadesBetween = (a: number, b: number): number => Math.abs(Math.log10(a / b));

/** a condition that is within this factor is called the same */
const SAME = 1.02;

/**
 * How the conditions of an application lie among those of the cases that were held against a truth. Similarity numbers span decades, so distances
 * are counted in them. Each condition is judged alone: a point inside every range may still lie far from all cases, which the nearest ones tell.
 * @param points cases with a finished comparison; those without a condition do not count for it
 * @example
 * coverage([{ key: "reynolds", name: "Reynolds number", value: 3000 }], []).conditions[0].state // "none"
 */
export function coverage(application: readonly Condition[], points: readonly ValidationPoint[]): Coverage {
  const own = application.filter((c) => c.value > 0 && Number.isFinite(c.value));
  const conditions = own.map((c) => ofCondition(c, points));
  const nearest = points
    .flatMap((p): NearPoint[] => {
      const apart = own.flatMap((c) => {
        const there = valueAt(p, c.key);
        return there === undefined ? [] : [decadesBetween(c.value, there) ** 2];
      });
      if (!apart.length) return [];
      return [{ id: p.id, title: p.title, decades: Math.sqrt(apart.reduce((a, b) => a + b, 0) / apart.length), shared: apart.length }];
    })
    .sort((a, b) => b.shared - a.shared || a.decades - b.decades);
  const out = conditions.filter((c) => c.state !== "inside");
  return { conditions, nearest, inside: conditions.length > 0 && !out.length, sentence: inWords(conditions, nearest) };
}

const valueAt = (p: ValidationPoint, key: string): number | undefined => p.conditions.find((c) => c.key === key && c.value > 0)?.value;

function ofCondition(c: Condition, points: readonly ValidationPoint[]): ConditionCoverage {
  const there = points.flatMap((p) => {
    const value = valueAt(p, c.key);
    return value === undefined ? [] : [{ id: p.id, title: p.title, value, factor: 10 ** decadesBetween(c.value, value) }];
  });
  const named = `${c.name} ${significant(c.value, 3)}`;
  if (!there.length) return { ...c, state: "none", sentence: `${named}: no case that was held against a truth has one.` };
  const values = there.map((t) => t.value);
  const range = [Math.min(...values), Math.max(...values)] as const;
  const nearest = there.reduce((a, b) => (b.factor < a.factor ? b : a));
  const inside = c.value >= range[0] / SAME && c.value <= range[1] * SAME;
  const where = `from ${significant(range[0], 3)} to ${significant(range[1], 3)}`;
  const by = nearest.factor < SAME ? "there" : `a factor ${significant(nearest.factor, 2)} away`;
  const sentence = inside
    ? `${named} lies inside what was held against a truth, ${where}; nearest is ${nearest.title}, ${by}.`
    : `${named} is an extrapolation: what was held against a truth goes ${where}; nearest is ${nearest.title}, ${by}.`;
  return { ...c, state: inside ? "inside" : "beyond", range, nearest, sentence };
}

function inWords(conditions: readonly ConditionCoverage[], nearest: readonly NearPoint[]): string {
  if (!conditions.length) return "The application has no similarity number yet: state its conditions.";
  const beyond = conditions.filter((c) => c.state === "beyond").map((c) => c.name);
  const none = conditions.filter((c) => c.state === "none").map((c) => c.name);
  const parts = [
    ...(beyond.length ? [`${beyond.join(", ")} beyond the evidence`] : []),
    ...(none.length ? [`no evidence for ${none.join(", ")}`] : []),
  ];
  const near = nearest[0];
  const close = near
    ? ` The nearest case is ${near.title}, ${significant(10 ** near.decades, 2)} times away on average over ${near.shared} of ${conditions.length} conditions.`
    : "";
  return `${parts.length ? `${parts.join("; ")}: what is claimed there is extrapolated.` : "Every condition lies inside what was held against a truth, each taken alone."}${close}`.replace(
    /^./,
    (c) => c.toUpperCase(),
  );
}

/** The rules of this file in words. */
export const COVERAGE_RULES = rulesOf("core/method/coverage/coverage.ts", [
  {
    rule: "coverage",
    text: "Conditions of the application are its similarity numbers. A case counts where one of its quantities was held against a yardstick with every source known. A condition between the lowest and highest of those cases lies inside, outside them its claim is an extrapolation and named so; distances are factors. Each condition is judged alone, so the nearest cases over all shared conditions are listed beside.",
    source: "method of this product",
  },
]);
