import type { MathNode } from "mathjs";
import { quantityText, sentenceCase } from "../../formatting/number.ts";
import type { OwnRule, RuleValue } from "../../records/ownRule.ts";
import type { Remark } from "../../remarks/remark.ts";
import { rulesOf } from "../../remarks/rule.ts";
import { DerivedError, namesIn, readDerived, unitFound } from "./derived.ts";

/** The name a remark of a rule of one's own goes by. */
export const ownRuleName = (key: string): string => `own-rule:${key}`;

/**
 * Reads both sides of a rule: names known, units the same on both.
 * @throws {DerivedError} a name, a sign, sides that are no such quantities as can be compared
 */
export function readRule(
  { left, right }: Pick<OwnRule, "left" | "right">,
  values: readonly Omit<RuleValue, "value">[],
): { left: MathNode; right: MathNode; unit: string } {
  const names = values.map((v) => v.name);
  const [a, b] = [readDerived(left, names), readDerived(right, names)];
  const [of, against] = [unitFound(a, values), unitFound(b, values)];
  if (of.key !== against.key) throw new DerivedError(`The sides cannot be compared: "${left}" is ${of.words}, "${right}" is ${against.words}.`);
  return { left: a, right: b, unit: of.unit };
}

/** Whether a case has everything a rule asks of it. */
export function applies({ left, right }: Pick<OwnRule, "left" | "right">, values: readonly RuleValue[]): boolean {
  const names = new Set(values.map((v) => v.name));
  const all = [left, right].flatMap((text) => {
    try {
      return namesIn(readDerived(text, [...names]));
    } catch {
      return [""];
    }
  });
  return all.every((n) => names.has(n));
}

/** What the rules of a programme say of one case; a rule whose names the case has not says nothing. */
export function checkOwn(rules: readonly OwnRule[], values: readonly RuleValue[]): Remark[] {
  const scope = Object.fromEntries(values.map((v) => [v.name, v.value]));
  return rules.flatMap((r): Remark[] => {
    if (!applies(r, values)) return [];
    const read = readRule(r, values);
    const [left, right] = [Number(read.left.evaluate(scope)), Number(read.right.evaluate(scope))];
    const keeps = r.relation === "at least" ? left >= right : left <= right;
    if (keeps) return [];
    const [has, asked] = [left, right].map((x) => quantityText(x, read.unit, 4));
    const sentence = `${sentenceCase(r.name)}: ${r.left} is ${has}; ${r.relation} ${r.right}, ${asked}, is asked for (${r.by}: ${r.reason}).`;
    return [{ rule: ownRuleName(r.key), severity: r.severity, sentence }];
  });
}

/** The rules of this file in words. */
export const OWN_RULES = rulesOf("core/method/propagation/ownRules.ts", [
  {
    rule: "own-rule",
    text: "Rules of a programme's own: two formulas over conditions, facts and similarity numbers of a case, checked for names and units when they are written, and carried out for every case that has all their names. They bear on the set-up as the built-in rules do: a stop fails it, a doubt can be answered with a reason.",
    source: "the programme itself",
  },
]);
