import { describe, expect, test } from "vitest";
import { parse } from "../numeric/expressions.ts";
import { randomFrom } from "../numeric/random.ts";
import { remembered } from "../numeric/remembered.ts";
import { manufacturedFlow, writtenFlow } from "./flow.ts";
import { Formula } from "./formula.ts";
import { manufacturedGas, writtenGas } from "./gas.ts";
import { expressionOf, latexOf, printed, textOf } from "./printed.ts";
import { distanceFromDifferences, exercised } from "./written.ts";

const FLOW = [
  { streamFunction: "y + 0.2 * sin(pi * x) * sin(pi * y) * exp(-t)", pressure: "0.3 * cos(pi * x) * cos(pi * y) + 0.1 * t * x" },
  { viscosity: 0.02 },
] as const;
const FIELDS = {
  density: "1.2 + 0.15 * sin(pi * x) + 0.1 * cos(pi * y) + 0.05 * t",
  u: "2 + 0.3 * sin(1.5 * x) * tanh(y)",
  v: "1 - 0.2 * cos(x) + 0.1 * y ^ 2",
  pressure: "10 + x * y + 0.4 * cos(2 * x) * exp(-0.5 * t)",
};
/** deriving it takes seconds: once for all */
const viscousGas = remembered((revolved: boolean) => writtenGas(FIELDS, { ...GAS, revolved }), 2);
const GAS = { gamma: 1.4, gasConstant: 287.05, viscosityPaS: 0.05, prandtl: 0.71 };
const places = () => {
  const next = randomFrom(9);
  return Array.from({ length: 30 }, () => [next(), next(), next()] as const);
};

describe("a manufactured solution written out", () => {
  test("flow: the single formula of each source is what the bench adds up", () => {
    const w = writtenFlow(...FLOW);
    const bench = manufacturedFlow(...FLOW);
    for (const at of places()) expect(w.sources.map((s) => s.formula.at(...at))).toEqual(bench.source(...at).map((v) => expect.closeTo(v, 10)));
  });
  test.each([
    ["in the plane", false],
    ["round an axis", true],
  ])("gas, viscous, %s: the same", (_, revolved) => {
    const w = viscousGas(revolved);
    const bench = manufacturedGas(FIELDS, { ...GAS, revolved });
    for (const [x, y, t] of places().slice(0, 8)) {
      const at = [x, y + (revolved ? 1 : 0), t] as const;
      w.sources.forEach((s, i) => {
        expect(s.formula.at(...at) / bench.source(...at)[i]).toBeCloseTo(1, 9);
      });
    }
  });
  test("sources agree with differences of the fields alone; a source that was touched does not", () => {
    const flow = writtenFlow(...FLOW);
    expect(distanceFromDifferences(flow)).toBeLessThan(1e-7);
    const wrong = { ...flow, sources: [{ ...flow.sources[0], formula: Formula.of("x") }, flow.sources[1]] };
    expect(distanceFromDifferences(wrong)).toBeGreaterThan(0.1);
    expect(distanceFromDifferences(viscousGas(false))).toBeLessThan(1e-6);
    expect(distanceFromDifferences(viscousGas(true))).toBeLessThan(1e-6);
    expect(distanceFromDifferences({ ...viscousGas(true), sources: viscousGas(false).sources })).toBeGreaterThan(0.01);
    expect(distanceFromDifferences(writtenGas(FIELDS, { ...GAS, viscosityPaS: 0 }))).toBeLessThan(1e-7);
  });
  test("which terms are exercised: a steady flow leaves time untested, a shear flow convection as well", () => {
    const of = (list: ReturnType<typeof exercised>) => list.filter((t) => t.untested).map((t) => `${t.equation}: ${t.term}`);
    expect(of(exercised(writtenFlow(...FLOW)))).toEqual([]);
    expect(of(exercised(writtenFlow({ streamFunction: "y ^ 3", pressure: "x" }, { viscosity: 0.1 })))).toEqual([
      "momentum along x: change in time",
      "momentum along x: convection along x",
      "momentum along x: convection along y",
      "momentum along y: change in time",
      "momentum along y: convection along x",
      "momentum along y: convection along y",
      "momentum along y: pressure gradient",
      "momentum along y: viscosity",
    ]);
    const shares = exercised(writtenFlow(...FLOW)).filter((t) => t.equation === "momentum along x");
    expect(shares.reduce((s, t) => s + t.share, 0)).toBeCloseTo(1, 12);
    expect(exercised(viscousGas(false)).map((t) => t.term)).toContain("work of shear and heat flow");
  });
});

describe("in the words of a language", () => {
  const c = (text: string) => expressionOf(parse(text), "c");
  test("numbers are double, constants have all their digits, every operation has brackets", () => {
    expect(c("2 * x + pi")).toBe("((2.0 * x) + 3.141592653589793)");
    expect(expressionOf(parse("2 * x + 1e-7"), "fortran")).toBe("((2.0d0 * x) + 1d-7)");
    expect(expressionOf(parse("sin(x)"), "python")).toBe("math.sin(x)");
  });
  test("whole powers stay whole where a real one would have no value, signs keep their brackets", () => {
    expect(expressionOf(parse("(x - 1) ^ 2"), "fortran")).toBe("((x - 1.0d0) ** 2)");
    expect(expressionOf(parse("x ^ y"), "fortran")).toBe("(x ** y)");
    expect(c("(x - 1) ^ 2")).toBe("pow((x - 1.0), 2.0)");
    expect(c("-x ^ 2")).toBe("(-pow(x, 2.0))");
  });
  test("functions a derivative brings are turned into those every language has; a part none has is refused", () => {
    expect(expressionOf(Formula.of("tan(x)").by("x").node, "c")).toContain("cos(x)");
    expect(c("sech(x)")).toBe("(1.0 / cosh(x))");
    expect(() => c("max(x, y)")).toThrow("cannot be written in c");
  });
  test("text can be read again and means the same; TeX and JSON hold every formula; lines of Fortran are short", () => {
    const w = viscousGas(false);
    for (const s of w.sources.slice(0, 2)) {
      const again = new Formula(parse(textOf(s)));
      for (const at of places().slice(0, 4)) expect(again.at(...at) / s.formula.at(...at)).toBeCloseTo(1, 10);
    }
    expect(latexOf(w.fields[0])).toContain("\\sin");
    const data = JSON.parse(printed(w, "json"));
    expect(data.sources.map((s: { key: string }) => s.key)).toEqual(["source_mass", "source_x", "source_y", "source_energy"]);
    expect(
      Math.max(
        ...printed(w, "fortran")
          .split("\n")
          .map((l) => l.length),
      ),
    ).toBeLessThan(132);
    expect(printed(w, "latex").match(/begin\{equation\}/g)).toHaveLength(8);
    expect(printed(w, "text")).toContain("source_energy (source of energy, W/m^3) =");
  });
});
