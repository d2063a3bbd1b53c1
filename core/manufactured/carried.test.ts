import { describe, expect, test } from "vitest";
import { randomFrom } from "../numeric/random.ts";
import { manufacturedCarried, writtenCarried } from "./carried.ts";
import { Formula } from "./formula.ts";
import { manufacturedFlow } from "./sources.ts";
import { distanceFromDifferences, exercised } from "./written.ts";

const FORMULAS = {
  streamFunction: "y ^ 2 / 2 + 0.2 * sin(2 * x) * cos(y) * exp(-t)",
  pressure: "0.3 * cos(x) * y ^ 2 + 0.1 * t * x",
  carried: "4 + sin(x) * y ^ 3 * exp(-0.5 * t)",
};
const plane = { viscosity: 0.02, diffusivity: 0.07, revolved: false };
const ring = { ...plane, revolved: true };
const places = (lowest: number) => {
  const next = randomFrom(5);
  return Array.from({ length: 25 }, () => [next(), lowest + next(), next()] as const);
};

describe("what a written-down flow carries", () => {
  test.each([
    ["in the plane", plane],
    ["round an axis", ring],
  ])("%s: the single formula of each source is what the bench adds up, and both agree with differences", (_, properties) => {
    const w = writtenCarried(FORMULAS, properties);
    const bench = manufacturedCarried(FORMULAS, properties);
    for (const at of places(properties.revolved ? 1 : 0)) {
      const added = [...bench.source(...at), bench.supply(...at)];
      expect(w.sources.map((s) => s.formula.at(...at))).toEqual(added.map((v) => expect.closeTo(v, 9)));
    }
    expect(distanceFromDifferences(w, 0)).toBeLessThan(2e-6);
    const wrong = { ...w, sources: [w.sources[0], w.sources[1], { ...w.sources[2], formula: Formula.of("x") }] };
    expect(distanceFromDifferences(wrong, 0)).toBeGreaterThan(0.1);
  });
  test("in the plane the flow is the one of the other template", () => {
    const [a, b] = [manufacturedCarried(FORMULAS, plane), manufacturedFlow(FORMULAS.streamFunction, FORMULAS.pressure, plane.viscosity)];
    for (const at of places(0)) expect(a.source(...at)).toEqual(b.source(...at).map((v) => expect.closeTo(v, 10)));
  });
  test("round an axis the flow keeps its mass: r u and r v are free of sources", () => {
    const { u, v } = manufacturedCarried(FORMULAS, ring);
    const [h, [x, y, t]] = [1e-4, [0.3, 1.4, 0.2]];
    const along = (u.at(x + h, y, t) - u.at(x - h, y, t)) * y;
    const across = (y + h) * v.at(x, y + h, t) - (y - h) * v.at(x, y - h, t);
    expect((along + across) / (2 * h)).toBeCloseTo(0, 7);
  });
  test("known by hand: q = y^2 conducted round an axis is supplied -4 k, in the plane -2 k", () => {
    const still = { streamFunction: "0", pressure: "0", carried: "y ^ 2" };
    expect(manufacturedCarried(still, ring).supply(0.2, 1.3, 0)).toBeCloseTo(-4 * 0.07, 12);
    expect(manufacturedCarried(still, plane).supply(0.2, 0.3, 0)).toBeCloseTo(-2 * 0.07, 12);
  });
  test("known by hand: turning about no axis, the hoop stress alone holds back an outward flow v = y", () => {
    // psi = -x y^2 gives u = -2 x and v = y round the axis: v_rr + v_r / r - v / r^2 = 0, and convection v v_r = y is left.
    const spread = { streamFunction: "-x * y ^ 2", pressure: "0", carried: "1" };
    const { source, v } = manufacturedCarried(spread, ring);
    expect(v.at(0.5, 1.5, 0)).toBeCloseTo(1.5, 12);
    expect(source(0.5, 1.5, 0)).toEqual([expect.closeTo(4 * 0.5, 12), expect.closeTo(1.5, 12)]);
  });
  test("conduction alone leaves every term of a flow untested, and says so", () => {
    const still = writtenCarried({ streamFunction: "0", pressure: "0", carried: "sin(x) * y ^ 2" }, ring);
    const untested = exercised(still).filter((t) => t.untested);
    expect(untested.some((t) => t.equation === "what is carried" && t.term === "convection along x")).toBe(true);
    expect(untested.some((t) => t.equation === "what is carried" && t.term.startsWith("diffusion"))).toBe(false);
    expect(exercised(writtenCarried(FORMULAS, ring)).filter((t) => t.untested)).toEqual([]);
  });
});
