import { describe, expect, test } from "vitest";
import { DESCRIPTIONS, described, presetParameters } from "@/core/problems/describe/catalogue";
import { familyEntries, planOf, ruleOf } from "./familyPlan";

const problem = described("lidded-box");
const parameters = presetParameters(problem) as unknown as Record<string, number>;
const typed = familyEntries({ ...problem.family, baseNx: 16, baseNy: 16, ratio: 2, count: 3 });

describe("a family as it is typed", () => {
  test("goes back to the rule it came from, of every template", () => {
    for (const p of DESCRIPTIONS) {
      const { shape, ...rule } = ruleOf(familyEntries(p.family), p.shapes);
      expect([p.id, rule]).toEqual([
        p.id,
        expect.objectContaining({ baseNx: p.family.baseNx, gradingX: p.family.gradingX, gradingY: p.family.gradingY }),
      ]);
      expect(shape).toBe(p.shapes ? (p.family.shape ?? "rows") : undefined);
    }
  });
  test("a ratio of two makes four times the cells from mesh to mesh, coarsest first", () => {
    const { members } = planOf(typed, problem, parameters);
    expect(members?.map((m) => [m.nx, m.ny, m.cells])).toEqual([
      [16, 16, 256],
      [32, 32, 1024],
      [64, 64, 4096],
    ]);
    expect(members?.[2].spec).toMatchObject({ nx: 64, ny: 64 });
  });
  test("triangles are two a rectangle", () => {
    expect(planOf({ ...typed, shape: "triangles" }, problem, parameters).members?.[0].cells).toBe(problem.shapes ? 512 : 256);
  });
  test("what is no rule is a sentence, not a family", () => {
    const { members, mistake } = planOf({ ...typed, ratio: "1" }, problem, parameters);
    expect(members).toBeUndefined();
    expect(mistake).toMatch(/ratio/i);
    expect(planOf({ ...typed, baseNx: "many" }, problem, parameters).mistake).toBeTruthy();
  });
});
