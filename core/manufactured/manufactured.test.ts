import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { earlyWarnings } from "../method/iteration/watch.ts";
import { HOSTILE_FORMULAS } from "../numeric/hostileFormulasForTests.ts";
import { fromPlain, toPlain } from "../solver/wire.ts";
import { manufacturedFlow } from "./flow.ts";
import { Formula, FormulaError, readFormula } from "./formula.ts";
import { manufacturedGas } from "./gas.ts";

describe("formulas", () => {
  test.each([
    "import('fs')",
    "x = 3",
    "f(x) = x",
    "[1, 2]",
    "x.constructor",
    "process",
    "evaluate('1')",
    "'text'",
    "x > 2",
    "x; y",
    "random()",
    "x'",
    "",
    "2 +",
    "sin",
    "9".repeat(400),
  ])("%j is refused, or at least is no code", (text) => {
    expect(() => {
      const f = Formula.of(text);
      if (!Number.isFinite(f.at(0.3, 0.4, 0))) throw new FormulaError("no number");
    }).toThrow();
  });
  test.each(HOSTILE_FORMULAS)("%s is refused before it is worked on", (text, sentence) => {
    expect(() => readFormula(text)).toThrow(sentence);
  });
  test("derivatives are those of the function", () => {
    const f = Formula.of("sin(2*pi*x) * exp(-y) + x^3 / (1 + t^2)");
    const [byX, byY, byT] = [f.by("x"), f.by("y"), f.by("t")];
    const h = 1e-5;
    fc.assert(
      fc.property(fc.double({ min: -1, max: 1, noNaN: true }), fc.double({ min: -1, max: 1, noNaN: true }), (x, y) => {
        expect(byX.at(x, y, 0.5)).toBeCloseTo((f.at(x + h, y, 0.5) - f.at(x - h, y, 0.5)) / (2 * h), 5);
        expect(byY.at(x, y, 0.5)).toBeCloseTo((f.at(x, y + h, 0.5) - f.at(x, y - h, 0.5)) / (2 * h), 5);
        expect(byT.at(x, y, 0.5)).toBeCloseTo((f.at(x, y, 0.5 + h) - f.at(x, y, 0.5 - h)) / (2 * h), 5);
      }),
      { numRuns: 30 },
    );
  });
  test("what a formula depends on is known", () => {
    expect(Formula.of("x * t").usesTime).toBe(true);
    expect(Formula.of("tan(x)").usesTime).toBe(false);
    expect(() => readFormula("x + z")).toThrow(/"z" is not allowed/);
  });
});

describe("sources", () => {
  test("an exact solution needs none: decaying eddies, Poiseuille flow, a uniform gas", () => {
    const nu = 0.03;
    const decay = `exp(-${2 * nu * (2 * Math.PI) ** 2} * t)`;
    const turning = {
      streamFunction: `-cos(2*pi*x) * cos(2*pi*y) * ${decay} / (2*pi)`,
      pressure: `-0.25 * (cos(4*pi*x) + cos(4*pi*y)) * ${decay}^2`,
    };
    const eddies = manufacturedFlow(turning, { viscosity: nu });
    const plates = manufacturedFlow({ streamFunction: "y^2 / 2 - y^3 / 3", pressure: `${-2 * nu} * x` }, { viscosity: nu });
    const gas = manufacturedGas(
      { density: "1.2", u: "300", v: "-20", pressure: "1e5" },
      { gamma: 1.4, gasConstant: 287, viscosityPaS: 1, prandtl: 0.7 },
    );
    for (const [x, y, t] of [
      [0.1, 0.7, 0.2],
      [0.45, 0.05, 1],
    ]) {
      for (const f of eddies.source(x, y, t)) expect(f).toBeCloseTo(0, 10);
      for (const f of plates.source(x, y, t)) expect(f).toBeCloseTo(0, 12);
      expect([...gas.source(x, y, t)].map((s) => Math.abs(s))).toEqual([0, 0, 0, 0]);
    }
  });
  test("round an axis by hand: a gas that only swells, v = y, needs mass 2 r, no shear, and the heat its pressure's work asks for", () => {
    // u = 0, v = y: div v = 2; stress along y and round the axis are both mu (2 - 4/3) = 2/3 mu and cancel; along x -4/3 mu.
    const gas = { gamma: 1.4, gasConstant: 287, viscosityPaS: 0.3, prandtl: 0.7, revolved: true };
    const { source } = manufacturedGas({ density: "2", u: "0", v: "y", pressure: "5" }, gas);
    const y = 1.3;
    // Energy: div of (gamma p / (gamma - 1) + r v^2 / 2) v less div of v times 2/3 mu.
    const swells = 2 * (1.4 / 0.4) * 5 + 4 * y ** 2 - 2 * (2 / 3) * 0.3;
    expect(source(0.2, y, 0)).toEqual([4, 0, 2 * 3 * y, swells].map((v) => expect.closeTo(v, 10)));
  });
});

test("whatever a checkpoint holds comes back from a file to the last bit", () => {
  const number = fc.oneof(fc.double(), fc.constantFrom(0, -0, Number.NaN, Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY, 1e308, 5e-324));
  const array = fc.array(number).map((a) => Float64Array.from(a));
  const value = fc.letrec((tie) => ({
    any: fc.oneof(
      { maxDepth: 3 },
      number,
      fc.boolean(),
      fc.string(),
      fc.constant(null),
      array,
      fc.array(tie("any"), { maxLength: 4 }),
      fc.dictionary(fc.stringMatching(/^[a-z]{1,6}$/), tie("any"), { maxKeys: 4, noNullPrototype: true }),
    ),
  })).any;
  fc.assert(
    fc.property(value, (v) => {
      expect(fromPlain(JSON.parse(JSON.stringify(toPlain(v))))).toEqual(v);
    }),
  );
});

describe("early warnings", () => {
  const steady = { dropTarget: 6, quantities: [], transient: false };
  const flat = Array.from({ length: 20 }, () => 1e-3);
  test("say what happens, and nothing when all is well", () => {
    const falling = Array.from({ length: 20 }, (_, k) => 10 ** -k);
    expect(earlyWarnings({ ...steady, residuals: { mass: falling } })).toEqual([]);
    expect(earlyWarnings({ ...steady, residuals: { mass: [...falling].reverse() } })[0]).toMatchObject({ rule: "diverging" });
    expect(earlyWarnings({ ...steady, residuals: {}, backflow: 0.1 })[0]).toMatchObject({ rule: "backflow" });
    const drag = { name: "drag", limit: 0.01, reference: 5.58 };
    expect(
      earlyWarnings({ ...steady, residuals: { mass: flat }, quantities: [{ ...drag, values: flat.map(() => 40) }] }).map((w) => w.rule),
    ).toContain("outside-range");
    expect(
      earlyWarnings({ ...steady, residuals: { mass: flat }, quantities: [{ ...drag, values: flat.map(() => 5.5) }] }).map((w) => w.rule),
    ).toEqual(["settled-already"]);
    expect(earlyWarnings({ ...steady, transient: true, residuals: { mass: flat }, quantities: [{ ...drag, values: flat.map(() => 40) }] })).toEqual(
      [],
    );
  });
});
