import { expect, test } from "vitest";
import { RULE_TEXTS } from "./rules.ts";

test("a rule has one text and a source", () => {
  const names = RULE_TEXTS.map((r) => r.rule);
  expect(names.filter((n, i) => names.indexOf(n) !== i)).toEqual([]);
  for (const r of RULE_TEXTS) expect([r.rule, r.text.length > 20, r.source.length > 2]).toEqual([r.rule, true, true]);
});
