import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { Store } from "../db/store.ts";
import { findProgramme } from "../repositories/programmes.ts";
import { answerRemark, createCase, saveQuestion } from "./cases.ts";
import { openCase } from "./evidence.ts";
import { dropRule, makeRule, OwnRuleInput, ruleNames } from "./ownRules.ts";
import { createProgramme } from "./programmes.ts";
import { FOREIGN_PARAMETERS, newCase, questionOf, temporaryStore } from "./testStore.ts";

let opened: Store;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("own-rules"));
});
afterAll(() => close());

let count = 0;
async function make() {
  const programme = await createProgramme(opened, { name: `P ${++count}`, purpose: "" });
  const { id } = await createCase(opened, newCase({ parameters: FOREIGN_PARAMETERS }));
  return { programme, id };
}
const rule = (change: object = {}) =>
  OwnRuleInput.parse({
    name: "domain behind the step",
    left: "domainHighM - domainLowM",
    relation: "at least",
    right: "10 * lengthM",
    severity: "stop",
    reason: "the wake touched the outlet twice",
    by: "K. B.",
    ...change,
  });
const own = async (id: string) => (await openCase(opened, id)).assessment.setup.remarks.filter((r) => r.rule.startsWith("own-rule:"));
/** 50 mm long; a domain of this length */
const domain = (id: string, high: string) => saveQuestion(opened, id, questionOf({ facts: { domainLowM: "0 m", domainHighM: high } }));

describe("set-up rules of a programme's own", () => {
  test("speak where a case has all their names, with both sides in figures; the case fails by a stop and holds again", async () => {
    const { id, programme } = await make();
    await domain(id, "400 mm");
    const { said } = await makeRule(opened, id, rule());
    expect(said.replaceAll("\u00a0", " ").replaceAll("\u202f", " ")).toBe(
      "Domain behind the step: domainHighM - domainLowM is 0.4000 m; at least 10 * lengthM, 0.5000 m, is asked for (K. B.: the wake touched the outlet twice).",
    );
    expect(await own(id)).toMatchObject([{ severity: "stop", sentence: said }]);
    const other = await createCase(opened, newCase({ title: "without a domain", parameters: FOREIGN_PARAMETERS }));
    expect(await own(other.id)).toEqual([]);
    await domain(id, "600 mm");
    expect(await own(id)).toEqual([]);
    await domain(id, "400 mm");
    const [kept] = (await findProgramme(opened.db, programme.id))?.rules ?? [];
    await dropRule(opened, programme.id, kept.key);
    expect(await own(id)).toEqual([]);
    await expect(dropRule(opened, programme.id, kept.key)).rejects.toMatchObject({ code: "not-found" });
  });
  test("may name conditions, facts and similarity numbers; a doubt is answered with a reason like any other", async () => {
    const { id } = await make();
    expect((await ruleNames(opened, id)).map((v) => v.name)).toEqual(expect.arrayContaining(["velocityMS", "lengthM", "reynolds", "mach"]));
    await makeRule(opened, id, rule({ name: "slow enough", left: "reynolds", relation: "at most", right: "1000", severity: "doubt" }));
    const [remark] = await own(id);
    expect(remark).toMatchObject({ severity: "doubt" });
    await answerRemark(opened, id, { rule: remark.rule, reason: "known and accepted" });
    expect((await own(id))[0]).toMatchObject({ severity: "note", answered: { reason: "known and accepted" } });
    await expect(answerRemark(opened, id, { rule: remark.rule, reason: "again" })).rejects.toMatchObject({ code: "conflict" });
  });
  test("hold in their own programme alone", async () => {
    const first = await make();
    await makeRule(opened, first.id, rule({ left: "reynolds", relation: "at most", right: "1" }));
    const second = await make();
    expect(await own(second.id)).toEqual([]);
    expect(await own(first.id)).toHaveLength(1);
  });
  test.each([
    [{ left: "lengthM", right: "velocityMS" }, "right", "cannot be compared"],
    [{ left: "lengthM + velocityMS" }, "left", "do not go together"],
    [{ right: "10 * lengthMM" }, "right", 'Nothing is called "lengthMM"'],
    [{ left: "import('fs')", right: "1" }, "left", ""],
  ])("%o is refused at its side", async (change, field, words) => {
    const { id } = await make();
    await domain(id, "400 mm");
    await expect(makeRule(opened, id, rule(change))).rejects.toMatchObject({ code: "invalid", details: { [field]: expect.stringContaining(words) } });
  });
  test("a second one of the same name is refused", async () => {
    const { id } = await make();
    await domain(id, "400 mm");
    await makeRule(opened, id, rule());
    await expect(makeRule(opened, id, rule({ name: "DOMAIN behind the step" }))).rejects.toMatchObject({ details: { name: expect.any(String) } });
  });
});
