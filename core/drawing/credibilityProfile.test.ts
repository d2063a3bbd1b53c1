import { expect, test } from "vitest";
import type { Credibility, FactorJudged } from "../method/credibility/credibility.ts";
import type { CredibilityLevel } from "../records/credibility.ts";
import { credibilityProfile } from "./credibilityProfile.ts";
import { INK } from "./palette.ts";

const factor = (name: string, level: CredibilityLevel | undefined, proposed = level): FactorJudged => ({
  key: "code",
  name,
  level,
  proposed,
  criterion: "",
  because: "",
});
const of = (factors: FactorJudged[], target?: CredibilityLevel) =>
  credibilityProfile({ factors, lowest: 0, lowestFactors: [], sentence: "", ...(target === undefined ? {} : { target }) } as Credibility);
const widths = (svg: string) => [...svg.matchAll(/<rect [^>]*width="([\d.]+)"[^>]*fill="(#\w+)"/g)].map((m) => [Number(m[1]), m[2]] as const);

test("tapes are as long as their levels; those short of what is asked for are in the pointer's colour", () => {
  const [two, four] = widths(of([factor("<a>", 2), factor("b", 4)], 3));
  expect(four[0]).toBeCloseTo(2 * two[0], 1);
  expect([two[1], four[1]]).toEqual([INK.pointer, INK.verdigris]);
  expect(of([factor("<a>", 2)])).not.toContain("<a>");
});
test("nought is a mark, what does not apply says so, what the evidence alone supports stands hollow beside", () => {
  const svg = of([factor("none", 0), factor("n/a", undefined), factor("lowered", 1, 3)]);
  expect(widths(svg)).toHaveLength(1);
  expect(svg).toContain("does not apply");
  expect(svg).toContain('stroke-dasharray="3 2"');
  expect(svg).not.toContain("asked for</text>");
  expect(of([factor("a", 1)], 0)).toContain("asked for</text>");
});
