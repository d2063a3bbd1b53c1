import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { type Condition, coverage, type ValidationPoint } from "./coverage.ts";

const re = (value: number): Condition => ({ key: "reynolds", name: "Reynolds number", value });
const ma = (value: number): Condition => ({ key: "mach", name: "Mach number", value });
const at = (title: string, ...conditions: Condition[]): ValidationPoint => ({ id: title, title, conditions });

describe("conditions of the application among those of the evidence", () => {
  const points = [at("box", re(1000), ma(0.1)), at("rig", re(1e5)), at("disc", ma(0.5))];
  test("between the lowest and the highest it lies inside, and the nearest is told with its factor", () => {
    const { conditions, inside } = coverage([re(2000)], points);
    expect(conditions[0]).toMatchObject({ state: "inside", range: [1000, 1e5], nearest: { id: "box" } });
    expect(conditions[0].nearest?.factor).toBeCloseTo(2, 12);
    expect(inside).toBe(true);
  });
  test("outside it is an extrapolation, named so; without any case nothing is known", () => {
    const c = coverage([re(4e5), ma(0.2), { key: "prandtl", name: "Prandtl number", value: 0.7 }], points);
    expect(c.conditions.map((x) => x.state)).toEqual(["beyond", "inside", "none"]);
    expect(c.conditions[0].sentence).toBe(
      "Reynolds number 400000 is an extrapolation: what was held against a truth goes from 1000 to 100000; nearest is rig, a factor 4.0 away.",
    );
    expect(c.inside).toBe(false);
    expect(c.sentence).toMatch(/^Reynolds number beyond the evidence; no evidence for Prandtl number: what is claimed there is extrapolated\./);
  });
  test("a case that shares more conditions stands before one that is nearer in fewer; distances are mean decades", () => {
    const { nearest } = coverage([re(1e4), ma(0.1)], points);
    expect(nearest.map((n) => [n.id, n.shared])).toEqual([
      ["box", 2],
      ["disc", 1],
      ["rig", 1],
    ]);
    expect(nearest[0].decades).toBeCloseTo(Math.sqrt(1 / 2), 12);
    expect(nearest[1].decades).toBeCloseTo(Math.log10(5), 12);
  });
  test("the same condition to two per cent is no extrapolation; without conditions it is said what to do", () => {
    expect(coverage([re(1010)], [at("only", re(1000))]).conditions[0].state).toBe("inside");
    expect(coverage([re(1100)], [at("only", re(1000))]).conditions[0].state).toBe("beyond");
    expect(coverage([re(0)], points)).toMatchObject({ inside: false, conditions: [], sentence: expect.stringContaining("state its conditions") });
  });
  test("more evidence never takes coverage away, and units of counting do not matter", () => {
    const value = fc.double({ min: 1e-3, max: 1e8, noNaN: true });
    fc.assert(
      fc.property(value, fc.array(value, { minLength: 1, maxLength: 6 }), value, (x, known, more) => {
        const list = known.map((v, i) => at(`p${i}`, re(v)));
        const before = coverage([re(x)], list);
        const after = coverage([re(x)], [...list, at("more", re(more))]);
        if (before.inside) expect(after.inside).toBe(true);
        expect(after.nearest[0].decades).toBeLessThanOrEqual(before.nearest[0].decades + 1e-12);
        const scaled = coverage(
          [re(7 * x)],
          known.map((v, i) => at(`p${i}`, re(7 * v))),
        );
        expect(scaled.inside).toBe(before.inside);
        expect(scaled.nearest[0].decades).toBeCloseTo(before.nearest[0].decades, 9);
      }),
    );
  });
});
