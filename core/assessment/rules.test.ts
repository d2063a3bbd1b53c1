import { existsSync } from "node:fs";
import path from "node:path";
import { expect, test } from "vitest";
import { RULE_TEXTS } from "./rules.ts";

const ROOT = path.join(import.meta.dirname, "../..");

test("a rule has one text, and the file it names is there", () => {
  const names = RULE_TEXTS.map((r) => r.rule);
  expect(names.filter((n, i) => names.indexOf(n) !== i)).toEqual([]);
  expect(RULE_TEXTS.filter((r) => !existsSync(path.join(ROOT, r.file))).map((r) => r.file)).toEqual([]);
  for (const r of RULE_TEXTS) expect([r.rule, r.text.length > 20, r.source.length > 2]).toEqual([r.rule, true, true]);
});
