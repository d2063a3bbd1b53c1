import { describe, expect, test } from "vitest";
import { randomFrom } from "../numeric/random.ts";
import { manufacturedFlow, writtenFlow } from "./flow.ts";
import { Formula } from "./formula.ts";
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
    const w = writtenFlow(FORMULAS, properties);
    const bench = manufacturedFlow(FORMULAS, properties);
    for (const at of places(properties.revolved ? 1 : 0)) {
      const added = [...bench.source(...at), bench.supply(...at)];
      expect(w.sources.map((s) => s.formula.at(...at))).toEqual(added.map((v) => expect.closeTo(v, 9)));
    }
    expect(distanceFromDifferences(w)).toBeLessThan(2e-6);
    const wrong = { ...w, sources: [w.sources[0], w.sources[1], { ...w.sources[2], formula: Formula.of("x") }] };
    expect(distanceFromDifferences(wrong)).toBeGreaterThan(0.1);
  });
  test("a flow that carries nothing has no equation for it, and the sources of the flow are the same", () => {
    const { streamFunction, pressure } = FORMULAS;
    const bare = writtenFlow({ streamFunction, pressure }, ring);
    const full = writtenFlow(FORMULAS, ring);
    expect([bare.kind, full.kind]).toEqual(["flow", "carried"]);
    expect(bare.sources.map((s) => s.key)).toEqual(["source_x", "source_y"]);
    for (const at of places(1)) {
      const [a, b] = [bare, full].map((w) => w.sources.slice(0, 2).map((s) => s.formula.at(...at)));
      expect(a).toEqual(b);
    }
    expect("supply" in manufacturedFlow({ streamFunction, pressure }, ring)).toBe(false);
  });
  test("round an axis the flow keeps its mass: r u and r v are free of sources", () => {
    const { u, v } = manufacturedFlow(FORMULAS, ring);
    const [h, [x, y, t]] = [1e-4, [0.3, 1.4, 0.2]];
    const along = (u.at(x + h, y, t) - u.at(x - h, y, t)) * y;
    const across = (y + h) * v.at(x, y + h, t) - (y - h) * v.at(x, y - h, t);
    expect((along + across) / (2 * h)).toBeCloseTo(0, 7);
  });
  test("known by hand: q = y^2 conducted round an axis is supplied -4 k, in the plane -2 k", () => {
    const still = { streamFunction: "0", pressure: "0", carried: "y ^ 2" };
    expect(manufacturedFlow(still, ring).supply(0.2, 1.3, 0)).toBeCloseTo(-4 * 0.07, 12);
    expect(manufacturedFlow(still, plane).supply(0.2, 0.3, 0)).toBeCloseTo(-2 * 0.07, 12);
  });
  test("known by hand: turning about no axis, the hoop stress alone holds back an outward flow v = y", () => {
    // psi = -x y^2 gives u = -2 x and v = y round the axis: v_rr + v_r / r - v / r^2 = 0, and convection v v_r = y is left.
    const spread = { streamFunction: "-x * y ^ 2", pressure: "0", carried: "1" };
    const { source, v } = manufacturedFlow(spread, ring);
    expect(v.at(0.5, 1.5, 0)).toBeCloseTo(1.5, 12);
    expect(source(0.5, 1.5, 0)).toEqual([expect.closeTo(4 * 0.5, 12), expect.closeTo(1.5, 12)]);
  });
  test("conduction alone leaves every term of a flow untested, and says so", () => {
    const still = writtenFlow({ streamFunction: "0", pressure: "0", carried: "sin(x) * y ^ 2" }, ring);
    const untested = exercised(still).filter((t) => t.untested);
    expect(untested.some((t) => t.equation === "what is carried" && t.term === "convection along x")).toBe(true);
    expect(untested.some((t) => t.equation === "what is carried" && t.term.startsWith("diffusion"))).toBe(false);
    expect(exercised(writtenFlow(FORMULAS, ring)).filter((t) => t.untested)).toEqual([]);
  });
});
