import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { randomFrom } from "../numeric/random.ts";
import { DerivedError, DerivedSet, readDerived } from "./derived.ts";

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
    const normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
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
