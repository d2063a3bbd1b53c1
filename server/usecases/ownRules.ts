import { z } from "zod";
import { DerivedError } from "../../core/method/propagation/derived.ts";
import { checkOwn, ownRuleName, readRule } from "../../core/method/propagation/ownRules.ts";
import { similarityNumbers } from "../../core/method/setup/setup.ts";
import { setupOf } from "../../core/problems/describe/caseSetup.ts";
import { OWN_SEVERITIES, type OwnRule, RELATIONS, type RuleValue } from "../../core/records/ownRule.ts";
import type { Store } from "../db/store.ts";
import { type CaseRow, findCase } from "../repositories/cases.ts";
import { findProgramme, updateProgramme } from "../repositories/programmes.ts";
import { ruleValues } from "./evidenceParts.ts";
import { UseCaseError } from "./failure.ts";

const side = z.string().trim().min(1, "Write the formula.").max(300);

export const OwnRuleInput = z.object({
  name: z.string().trim().min(1, "Name the rule.").max(120),
  left: side,
  relation: z.enum(RELATIONS),
  right: side,
  severity: z.enum(OWN_SEVERITIES),
  reason: z.string().trim().min(1, "Say why it is there.").max(400),
  by: z.string().trim().min(1, "Sign it; initials are enough.").max(40),
  findingId: z.uuid().optional(),
});

async function caseOf(opened: Store, caseId: string): Promise<CaseRow> {
  const row = await findCase(opened.db, caseId);
  if (!row) throw new UseCaseError("not-found", "There is no such case.");
  return row;
}

/** Everything a rule may name in a case, with its value. */
function valuesOf({ setup }: CaseRow): RuleValue[] {
  const numbers = similarityNumbers(setupOf(setup)).map(({ key, unit, value }) => ({ name: key, unit, value }));
  return [...ruleValues(setup), ...numbers];
}

/** Names a rule may use in a case, for whoever writes one. */
export const ruleNames = async (opened: Store, caseId: string): Promise<RuleValue[]> => valuesOf(await caseOf(opened, caseId));

/** Keeps a set-up rule of the programme's own, written at one of its cases. @returns what it says of this case */
export async function makeRule(opened: Store, caseId: string, input: z.infer<typeof OwnRuleInput>, at = new Date()): Promise<{ said: string }> {
  const row = await caseOf(opened, caseId);
  const programme = await findProgramme(opened.db, row.programmeId);
  if (!programme) throw new UseCaseError("not-found", "The case has no programme.");
  const values = valuesOf(row);
  try {
    readRule(input, values);
  } catch (error) {
    if (!(error instanceof DerivedError)) throw error;
    // Which side it is about can be told by reading them one by one.
    const field = sideOf(input, values);
    throw new UseCaseError("invalid", error.message, { [field]: error.message });
  }
  if (programme.rules.some((r) => r.name.toLowerCase() === input.name.toLowerCase()))
    throw new UseCaseError("invalid", "The programme has a rule of that name.", { name: "The programme has a rule of that name." });
  const key = `${input.name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .slice(0, 40)}-${at.getTime().toString(36)}`;
  const rule: OwnRule = { ...input, key, at: at.toISOString() };
  await updateProgramme(opened.db, programme.id, { rules: [...programme.rules, rule] });
  const [remark] = checkOwn([rule], values);
  return { said: remark?.sentence ?? "This case keeps the rule." };
}

function sideOf({ left, right }: { left: string; right: string }, values: readonly RuleValue[]): "left" | "right" {
  try {
    readRule({ left, right: left }, values);
    return "right";
  } catch {
    return right === left ? "right" : "left";
  }
}

/** Takes a rule away; cases that failed by it alone hold again. */
export async function dropRule(opened: Store, programmeId: string, key: string): Promise<void> {
  const programme = await findProgramme(opened.db, programmeId);
  if (!programme?.rules.some((r) => r.key === key)) throw new UseCaseError("not-found", `There is no rule "${ownRuleName(key)}".`);
  await updateProgramme(opened.db, programmeId, { rules: programme.rules.filter((r) => r.key !== key) });
}
