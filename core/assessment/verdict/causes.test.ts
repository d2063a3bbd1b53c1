import { expect, test } from "vitest";
import { assessCase } from "../assessCase.ts";
import { evidenceOf, FAMILY } from "../evidenceForTests.ts";
import { STAGES } from "../results/stage.ts";
import { CAUSES, findCause } from "./causes.ts";

test("every cause has a name of its own, a check, and a stage to go to", () => {
  expect(new Set(CAUSES.map((c) => c.key)).size).toBe(CAUSES.length);
  for (const c of CAUSES) {
    expect([c.key, c.checks.length > 0, c.checks.every((k) => STAGES.includes(k.go) && k.sentence.endsWith("."))]).toEqual([c.key, true, true]);
  }
  expect(findCause("domain")?.checks[0].go).toBe("refinement");
  expect(findCause("")).toBeUndefined();
});

test("an open finding about a quantity, or about the whole case, is a remark of its verdict; one about another quantity is not", () => {
  const reasons = (openFindings?: { title: string; quantityKey?: string }[]) =>
    assessCase(evidenceOf(FAMILY, openFindings ? { openFindings } : {}))
      .verdicts[0].reasons.map((r) => r.sentence)
      .filter((s) => s.includes("finding"));
  expect(reasons()).toEqual([]);
  expect(reasons([{ title: "It is off", quantityKey: "q" }])).toEqual(["the finding “It is off” is open"]);
  expect(reasons([{ title: "All is off" }])).toEqual(["the finding “All is off” is open"]);
  expect(reasons([{ title: "Else", quantityKey: "other" }])).toEqual([]);
});
