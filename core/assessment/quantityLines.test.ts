import { expect, test } from "vitest";
import { assessCase } from "./assessCase.ts";
import { evidenceOf, FAMILY } from "./evidenceForTests.ts";
import { quantityLines } from "./quantityLines.ts";

test("a quantity among others carries its value, the root of squares of its numerical sources, what is open and its limit", () => {
  const e = evidenceOf(FAMILY, { kind: "measured" });
  const a = assessCase(e);
  const [line] = quantityLines(e, a);
  const { sources, value } = a.rules[0];
  const squares = sources.filter((s) => s.group !== "input").reduce((sum, s) => sum + (s.relative ?? 0) ** 2, 0);
  expect(line).toMatchObject({ key: "q", name: e.quantities[0].name, value, limit: e.quantities[0].limit, state: a.verdicts[0].state });
  expect(line.numerical).toBeCloseTo(Math.sqrt(squares), 12);
  expect(line.open).toEqual(expect.arrayContaining(["domain", "inputs"]));
  expect(line.rule.sources.map((s) => s.key)).toEqual(sources.map((s) => s.key));
  // Words stay with the case: a small rule needs none.
  expect(line.rule.sources[0]).not.toHaveProperty("note");
});
