import { expect, test } from "vitest";
import { SCHEMES, schemeAfter, schemeCookie, schemeOf } from "./scheme";

test("three turns lead through every scheme and back", () => {
  const seen = [schemeAfter("system"), schemeAfter(schemeAfter("system")), schemeAfter(schemeAfter(schemeAfter("system")))];
  expect(seen).toEqual(["light", "dark", "system"]);
  expect(new Set(seen).size).toBe(SCHEMES.length);
});

test("only what was chosen is remembered, and anything else is the system's", () => {
  expect(schemeCookie("dark")).toMatch(/^scheme=dark; path=\/; max-age=[1-9]\d+; samesite=lax$/);
  expect(schemeCookie("system")).toContain("max-age=0");
  expect(["dark", "light", "blue", "", undefined].map(schemeOf)).toEqual(["dark", "light", "system", "system", "system"]);
});
