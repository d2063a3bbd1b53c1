import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { HOSTILE_FORMULAS } from "../../numeric/hostileFormulasForTests.ts";
import { normalsOf, randomFrom } from "../../numeric/random.ts";
import { DerivedError, DerivedSet, namesIn, readDerived } from "./derived.ts";

const given = [
  { name: "Q", unit: "m^3/s" },
  { name: "dp", unit: "Pa" },
  { name: "P", unit: "W" },
  { name: "rho", unit: "kg/m^3" },
  { name: "A", unit: "m^2" },
];
const spec = (symbol: string, formula: string, unit: string) => ({ key: symbol, symbol, formula, unit });
const base = { Q: 1.2, dp: 70, P: 130, rho: 1.27, A: 0.05 };

describe("values with units carried and checked", () => {
  test("an efficiency, a flow coefficient, and a quantity made of both", () => {
    const set = new DerivedSet(
      [spec("worth", "eta * Kv / Kv", "1"), spec("eta", "Q dp / P", "1"), spec("Kv", "Q / (A * sqrt(2 * dp / rho))", "1")],
      given,
    );
    const v = set.values(base);
    expect(v.eta.value).toBeCloseTo((1.2 * 70) / 130, 14);
    expect(v.Kv.value).toBeCloseTo(1.2 / (0.05 * Math.sqrt(140 / 1.27)), 12);
    expect(v.worth.value).toBeCloseTo(v.eta.value, 14);
  });
  test.each([
    ["Q dp", "m/s", /gives .*not m\/s/],
    ["Q + dp", "1", /do not go together/],
    ["Q / nothing", "1", /Nothing is called "nothing"\. Known are Q/],
    ["dp / rho", "Pa", /not Pa/],
    ["Q == 1", "1", /not allowed/],
    ["import(Q)", "1", /not allowed/],
    ["Q; dp", "1", /not allowed/],
    ['"text"', "1", /not allowed/],
    ["(Q", "1", /no formula/],
  ])("%s is refused", (formula, unit, words) => expect(() => new DerivedSet([spec("x", formula, unit)], given)).toThrow(words));
  test("at a kink the steeper side counts, so that no uncertainty vanishes", () => {
    const at = (formula: string, Q: number) => new DerivedSet([spec("x", formula, "m^3/s")], given).values({ ...base, Q }, { Q: 0.01 }).x;
    expect(at("abs(Q)", 0).standard).toBeCloseTo(0.01, 8);
    expect(at("abs(Q)", 1.2).standard).toBeCloseTo(0.01, 8);
    expect(at("max(Q, 1.2 Q)", 0).standard).toBeCloseTo(0.012, 8);
    expect(at("sqrt(Q^2)", 0).standard).toBeCloseTo(0.01, 8);
  });
  test("a circle is named link by link", () => {
    expect(() => new DerivedSet([spec("a", "b * 2", "1"), spec("b", "c", "1"), spec("c", "a", "1")], given)).toThrow(/a needs b needs c needs a/);
    expect(() => new DerivedSet([spec("a", "a", "1")], given)).toThrow(DerivedError);
  });
  test.each(HOSTILE_FORMULAS)("%s is refused before it is worked on", (text, sentence) => {
    expect(() => readDerived(text, ["x"])).toThrow(sentence);
  });
  test("no code can be reached through a formula", () =>
    fc.assert(
      fc.property(fc.string({ maxLength: 40 }), (text) => {
        try {
          readDerived(text, ["Q"]).traverse((n) =>
            expect(["SymbolNode", "ConstantNode", "OperatorNode", "FunctionNode", "ParenthesisNode"]).toContain(n.type),
          );
        } catch (error) {
          expect(error).toBeInstanceOf(DerivedError);
        }
      }),
    ));
});

describe("uncertainty, first order", () => {
  test("against sampling, for a product, a quotient and a root", () => {
    const set = new DerivedSet([spec("eta", "Q dp / P", "1"), spec("speed", "sqrt(2 dp / rho)", "m/s")], given);
    const standard = { Q: 0.01, dp: 0.7, P: 1.1, rho: 0.004, A: 0 };
    const stated = set.values(base, standard);
    const random = randomFrom(4);
    const normal = normalsOf(random);
    const samples = Array.from({ length: 20_000 }, () =>
      set.values(Object.fromEntries(Object.entries(base).map(([k, v]) => [k, v + standard[k as keyof typeof standard] * normal()]))),
    );
    for (const key of ["eta", "speed"]) {
      const mean = samples.reduce((s, v) => s + v[key].value, 0) / samples.length;
      const deviation = Math.sqrt(samples.reduce((s, v) => s + (v[key].value - mean) ** 2, 0) / samples.length);
      expect(Math.abs(deviation / (stated[key].standard ?? 0) - 1)).toBeLessThan(0.03);
    }
  });
  test("what two parts share is counted once, with its sign", () => {
    const set = new DerivedSet([spec("a", "2 Q", "m^3/s"), spec("b", "a - 2 Q", "m^3/s"), spec("c", "a + Q", "m^3/s")], given);
    const v = set.values(base, { Q: 0.1 });
    expect(v.b.standard).toBeCloseTo(0, 12);
    expect(v.c.standard).toBeCloseTo(0.3, 12);
  });
  test("an unknown part leaves the whole unknown", () =>
    expect(new DerivedSet([spec("eta", "Q dp / P", "1")], given).values(base, { Q: 0.1 }).eta.standard).toBeUndefined());
});

test("a record of the parts gives a record of the whole; constants stay", () => {
  const set = new DerivedSet([spec("Kv", "Q / (A * sqrt(2 * dp / rho))", "1"), spec("double", "2 Kv", "1")], given);
  const { Kv, double } = set.records({ Q: [1, 2, Number.NaN], dp: [50, 60, 70] }, base, 3);
  expect(Kv[1]).toBeCloseTo(2 / (0.05 * Math.sqrt(120 / 1.27)), 12);
  expect(double[0]).toBeCloseTo(2 * Kv[0], 14);
  expect(Kv[2]).toBeNaN();
});

describe("parts, order and slopes", () => {
  const set = new DerivedSet(
    [spec("c", "b + b", "m^6/s^2"), spec("b", "Q^2", "m^6/s^2"), spec("d", "rho * 2", "kg/m^3")],
    [...given, { name: "time", unit: "s" }],
  );
  test("which names a formula uses; none of one that is not there", () => {
    expect(set.uses("c")).toEqual(["b"]);
    expect(set.uses("b")).toEqual(["Q"]);
    expect(set.uses("x")).toEqual([]);
  });
  test("what rests on a name at first or second hand", () => {
    expect([...set.restingOn(["Q"])].sort()).toEqual(["b", "c"]);
    expect([...set.restingOn(["rho"])]).toEqual(["d"]);
    expect([...set.restingOn([])]).toEqual([]);
  });
  test("sensitivities go down to the base names, and a missing uncertainty leaves the whole unknown", () => {
    const v = set.values(base, { Q: 0.1 });
    expect(v.c.sensitivities.Q).toBeCloseTo(4 * 1.2, 10);
    expect(v.c.standard).toBeCloseTo(0.1 * 4 * 1.2, 10);
    expect(v.d.standard).toBeUndefined();
    expect(set.values(base, { Q: 0.1, rho: 0.05 }).d.standard).toBeCloseTo(0.1, 12);
  });
  test("what two parts share is counted once, with its sign", () => {
    const shared = new DerivedSet([spec("e", "Q - Q", "m^3/s"), spec("f", "Q * dp / Q", "Pa")], given);
    const v = shared.values(base, { Q: 0.1, dp: 2 });
    expect(v.e.standard).toBeCloseTo(0, 12);
    expect(v.f.standard).toBeCloseTo(2, 8);
  });
  test("records entry by entry, names without one at their single value", () => {
    expect(set.records({ Q: [1, 2, 3] }, { rho: 5 }, 3)).toEqual({ b: [1, 4, 9], c: [2, 8, 18], d: [10, 10, 10] });
  });
  test("by differences where there is no closed form: within a millionth of the slope", () => {
    const kinked = new DerivedSet([spec("g", "max(Q, 0.5 * Q)", "m^3/s")], given);
    expect(kinked.values(base, { Q: 1 }).g.standard).toBeCloseTo(1, 6);
    expect(kinked.values({ ...base, Q: -1.2 }, { Q: 1 }).g.standard).toBeCloseTo(0.5, 6);
  });
});

test("a formula uses what it names, once each: neither its functions nor constants", () => {
  const names = ["Q", "dp", "min"];
  expect(namesIn(readDerived("sqrt(Q) + 2 * min(dp, Q) - pi", names))).toEqual(["Q", "dp"]);
  expect(namesIn(readDerived("2 + 1", names))).toEqual([]);
});

test("a name without a unit, or of unit 1, is a pure number; anything else keeps its unit", () => {
  const given = [
    { name: "n", unit: "" },
    { name: "m", unit: "1" },
    { name: "L", unit: "m" },
  ];
  const made = (formula: string, unit: string) =>
    new DerivedSet([{ key: "k", symbol: "k", formula, unit }], given).values({ n: 2, m: 3, L: 5 }).k.value;
  expect([made("n * m + 1", ""), made("L ^ n", "m^2"), made("sqrt(m + 6) * L", "m"), made("exp(n - m)", "1")]).toEqual([7, 25, 15, Math.exp(-1)]);
  expect(() => made("n + L", "m")).toThrow(DerivedError);
  expect(() => made("exp(L)", "1")).toThrow(DerivedError);
  expect(() => made("n * m", "m")).toThrow(DerivedError);
});
