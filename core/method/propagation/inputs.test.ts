import { describe, expect, test } from "vitest";
import { erfc } from "../../numeric/errorFunction.ts";
import { normalsOf, randomFrom } from "../../numeric/random.ts";
import type { InputUncertainty, SweptPoint } from "../../records/inputs.ts";
import { answerByRuns } from "./answers.ts";
import { DerivedSet } from "./derived.ts";
import { correlationMatrix, inputUncertainty, type SensitivityMeans, sensitivityOf } from "./inputs.ts";
import { differencePlan, samplePlan } from "./plans.ts";

describe("inputs", () => {
  const input = (key: string, uncertainty: number, sensitivities: Record<string, number> = {}, value = 2): InputUncertainty => ({
    key,
    label: key,
    value,
    unit: "m/s",
    uncertainty,
    sensitivities,
  });
  const nothing: SensitivityMeans = { values: {}, swept: [] };
  const sweep = (f: (u: number) => number, at = [1, 2, 4]) => at.map((U) => ({ parameters: { U, L: 3 }, quantities: { q: f(U) } }));

  test("typed beats formula beats sweep", () => {
    const swept = sweep((u) => u ** 2);
    const set = new DerivedSet([{ key: "d", symbol: "d", formula: "U^3", unit: "m^3/s^3" }], [{ name: "U", unit: "m/s" }]);
    const means: SensitivityMeans = {
      values: {},
      derived: { set, keys: ["d"], constants: { U: 2 } },
      swept: swept.map((s) => ({ ...s, quantities: { d: s.quantities.q } })),
    };
    expect(sensitivityOf(input("U", 0.1, { d: 5 }), "d", means)).toEqual({ value: 5, by: "typed" });
    expect(sensitivityOf(input("U", 0.1), "d", means)).toEqual({ value: expect.closeTo(3, 10), by: "formula" });
    expect(sensitivityOf(input("U", 0.1), "d", { ...means, derived: undefined })).toEqual({ value: expect.closeTo(2, 10), by: "sweep" });
    expect(sensitivityOf(input("U", 0.1), "d", nothing)).toBeUndefined();
  });
  test("a sweep gives the power of a law back, also of a quantity below zero", () => {
    for (const power of [-1.5, 0.4, 2])
      for (const sign of [1, -1])
        expect(sensitivityOf(input("U", 0.1), "q", { values: {}, swept: sweep((u) => sign * 7 * u ** power) })?.value).toBeCloseTo(power, 10);
  });
  test("least squares: slope of the logarithms, not of the ends", () => {
    const found = sensitivityOf(input("U", 0.1), "q", { values: {}, swept: sweep((u) => (u === 2 ? 2 * Math.E : u)) });
    // A middle point raised by one in the logarithm of a symmetric set leaves the slope at one.
    expect(found?.value).toBeCloseTo(1, 10);
    const tilted = sensitivityOf(input("U", 0.1), "q", { values: {}, swept: sweep((u) => (u === 4 ? 8 : u)) });
    expect(tilted?.value).toBeCloseTo(1.5, 10);
  });
  test("points that differ in something else, values that are zero, and one place alone tell nothing", () => {
    const mixed = [
      { parameters: { U: 1, L: 3 }, quantities: { q: 1 } },
      { parameters: { U: 2, L: 4 }, quantities: { q: 9 } },
    ];
    expect(sensitivityOf(input("U", 0.1), "q", { values: {}, swept: mixed })).toBeUndefined();
    const more = [...mixed, { parameters: { U: 4, L: 3 }, quantities: { q: 4 } }];
    expect(sensitivityOf(input("U", 0.1), "q", { values: {}, swept: more })?.value).toBeCloseTo(1, 10);
    expect(sensitivityOf(input("U", 0.1), "q", { values: {}, swept: sweep((u) => u, [2, 2]) })).toBeUndefined();
    expect(sensitivityOf(input("U", 0.1), "q", { values: {}, swept: sweep(() => 0) })).toBeUndefined();
    expect(sensitivityOf(input("U", 0.1), "q", { values: {}, swept: sweep((u) => u - 2, [-1, 0, 2]) })).toBeUndefined();
  });
  describe("through a formula", () => {
    const set = new DerivedSet(
      [{ key: "c", symbol: "c", formula: "q / (rho * U^2)", unit: "m^2" }],
      [
        { name: "rho", unit: "kg/m^3" },
        { name: "U", unit: "m/s" },
        { name: "q", unit: "N" },
      ],
    );
    const means = (swept: SensitivityMeans["swept"] = []): SensitivityMeans => ({
      values: { q: 20 },
      derived: { set, keys: ["c"], constants: { rho: 1.25, U: 2 } },
      swept,
    });
    test("its own power, plus what the quantities in it make of the input", () => {
      // A force that goes with the square of the velocity cancels the formula's minus two.
      expect(sensitivityOf(input("U", 0.1, { q: 2 }), "c", means())?.value).toBeCloseTo(0, 10);
      expect(sensitivityOf(input("U", 0.1, { q: 1.7 }), "c", means())?.value).toBeCloseTo(-0.3, 10);
      const swept = [1, 2, 4].map((U) => ({ parameters: { U }, quantities: { q: 3 * U ** 1.5 } }));
      expect(sensitivityOf(input("U", 0.1), "c", means(swept))?.value).toBeCloseTo(-0.5, 10);
    });
    test("a quantity in it whose answer nobody knows leaves it unknown; constants that are not asked about do not", () => {
      expect(sensitivityOf(input("U", 0.1), "c", means())).toBeUndefined();
      expect(sensitivityOf(input("rho", 0.1, { q: 1 }, 1.25), "c", means())?.value).toBeCloseTo(0, 10);
    });
    test("a value of zero has no relative answer", () =>
      expect(sensitivityOf(input("U", 0.1, { q: 2 }), "c", { ...means(), values: { q: 0 } })).toBeUndefined());
  });
  test("together: uncertainty over value times sensitivity, by squares", () => {
    const both = inputUncertainty([input("U", 0.02, { q: 3 }), input("L", 0.08, { q: -1 }, -2)], "q", nothing);
    expect(both.shares.map((s) => s.relative)).toEqual([expect.closeTo(0.03, 12), expect.closeTo(0.04, 12)]);
    expect(both.relative).toBeCloseTo(0.05, 12);
  });
  test("one answer not known, or a value of zero, leaves the whole unknown; so do no inputs at all", () => {
    expect(inputUncertainty([input("U", 0.02, { q: 3 }), input("L", 0.02)], "q", nothing).relative).toBeUndefined();
    expect(inputUncertainty([input("U", 0.02, { q: 3 }, 0)], "q", nothing)).toEqual({ shares: [{ key: "U", label: "U" }] });
    expect(inputUncertainty([], "q", nothing)).toEqual({ shares: [] });
  });
});

const given = (key: string, value: number, uncertainty: number): InputUncertainty => ({
  key,
  label: key,
  value,
  unit: "1",
  uncertainty,
  sensitivities: {},
});

describe("answers by runs that were planned for them", () => {
  const inputs = [given("U", 2, 0.1), given("nu", 1.5e-5, 3e-7), given("L", 0.3, 0.006)];
  const law = (p: Readonly<Record<string, number>>) => 0.7 * p.U ** 1.8 * p.nu ** 0.2 * p.L ** -0.4;
  const run = (plan: ReturnType<typeof differencePlan>, of = law, set = "a"): SweptPoint[] =>
    plan.map((p) => ({ parameters: p.values, quantities: { q: of(p.values) }, set }));
  const answers = (swept: readonly SweptPoint[]) => inputs.map((i) => answerByRuns(i, "q", swept));

  test("central differences give the powers of a law, whatever was run first", () => {
    const runs = run(differencePlan(inputs));
    expect(runs).toHaveLength(7);
    for (const order of [runs, [...runs].reverse()]) {
      const found = answers(order);
      [1.8, 0.2, -0.4].forEach((power, k) => {
        expect(found[k]).toMatchObject({ by: "differences", value: expect.closeTo(power, 12) });
        found[k]?.sides?.forEach((side) => {
          expect(side).toBeCloseTo(power, 12);
        });
      });
    }
  });

  test("an answer that bends shows by its sides, and is said to be uneven where they are a fifth apart", () => {
    // Slopes of (1 + 8 (U/2 - 1)^2 + (U/2 - 1)) to either side of 2, steps of 5 %.
    const bent = run(differencePlan([inputs[0]]), (p) => 1 + (p.U / 2 - 1) + 8 * (p.U / 2 - 1) ** 2);
    const budget = inputUncertainty([inputs[0]], "q", { values: {}, swept: bent });
    expect(budget.shares[0].uneven).toBe(true);
    const [down, up] = answerByRuns(inputs[0], "q", bent)?.sides ?? [];
    expect(down).toBeCloseTo(Math.log(1 / (1 - 0.05 + 0.02)) / Math.log(1 / 0.95), 10);
    expect(up).toBeCloseTo(Math.log(1 + 0.05 + 0.02) / Math.log(1.05), 10);
    expect(inputUncertainty([inputs[0]], "q", { values: {}, swept: run(differencePlan([inputs[0]])) }).shares[0].uneven).toBeUndefined();
  });

  test("a quantity that passes zero, or a condition below it, is answered in straight lines", () => {
    const t = given("T", -20, 4);
    const at = (T: number): SweptPoint => ({ parameters: { T }, quantities: { q: 3 + 0.1 * T } });
    // From 0.6 to 1.4, both of one sign: in logarithms, close to the slope at the middle, 0.1 * -20 / 1.
    expect(answerByRuns(t, "q", [at(-24), at(-16)])?.value).toBeCloseTo(Math.log(1.4 / 0.6) / Math.log(16 / 24), 12);
    const crossing = (T: number): SweptPoint => ({ parameters: { T }, quantities: { q: 22 + T } });
    expect(answerByRuns(t, "q", [crossing(-24), crossing(-20), crossing(-16)])?.value).toBeCloseTo(-10, 10);
    expect(answerByRuns(given("T", -22, 4), "q", [crossing(-26), crossing(-18)])).toBeUndefined();
  });

  test("runs of two sets are never mixed: the later set counts, or the one that tells", () => {
    const coarse = run(differencePlan(inputs), (p) => 1.3 * law(p), "coarse");
    const fine = run(differencePlan(inputs), (p) => law(p) * p.U ** 0.1, "fine");
    expect(answers([...coarse, ...fine])[0]?.value).toBeCloseTo(1.9, 10);
    expect(answers([...coarse, fine[0]])[0]?.value).toBeCloseTo(1.8, 10);
    // One run of each: together they would make a slope that neither has.
    expect(answerByRuns(inputs[0], "q", [coarse[1], fine[2]])).toBeUndefined();
  });

  test("a sample gives all answers of a smooth law at once, within the errors it states", () => {
    const swept = run(samplePlan(inputs, 40, 11));
    [1.8, 0.2, -0.4].forEach((power, k) => {
      const found = answers(swept)[k];
      expect(found?.by).toBe("sample");
      expect(Math.abs((found?.value ?? 0) - power)).toBeLessThan(0.03);
    });
    // As many runs as unknowns tell nothing of the error.
    expect(answers(swept.slice(0, 4))[0]).toBeUndefined();
  });

  test("the standard error of a sample covers: 1,000 seeded samples with noise", () => {
    let [inside, all] = [0, 0];
    for (let seed = 1; seed <= 1000; seed++) {
      const noise = normalsOf(randomFrom(seed + 5000));
      const swept = run(samplePlan(inputs, 12, seed), (p) => law(p) * (1 + 0.004 * noise()));
      const found = answerByRuns(inputs[0], "q", swept);
      all++;
      // Eight runs more than unknowns: Student's 95 % bound is 2.306.
      if (Math.abs((found?.value ?? 0) - 1.8) < 2.306 * (found?.standard ?? 0)) inside++;
    }
    expect(inside / all).toBeGreaterThan(0.93);
    expect(inside / all).toBeLessThan(0.97);
  });
});

describe("plans", () => {
  const inputs = [given("a", 10, 2), given("b", -5, 1)];
  test("a sample takes every stratum once, spreads as stated, and is the same for the same seed", () => {
    const plan = samplePlan(inputs, 50, 3);
    expect(samplePlan(inputs, 50, 3)).toEqual(plan);
    expect(samplePlan(inputs, 50, 4)).not.toEqual(plan);
    for (const i of inputs) {
      const scores = plan.map((p) => (p.values[i.key] - i.value) / (i.uncertainty / 2)).sort((x, y) => x - y);
      scores.forEach((z, k) => {
        const p = 0.5 * erfc(-z / Math.SQRT2);
        expect(p).toBeGreaterThanOrEqual(k / 50 - 0.002);
        expect(p).toBeLessThanOrEqual((k + 1) / 50 + 0.002);
      });
      const mean = scores.reduce((s, v) => s + v, 0) / 50;
      expect(Math.abs(mean)).toBeLessThan(0.05);
      expect(Math.sqrt(scores.reduce((s, v) => s + v * v, 0) / 50)).toBeCloseTo(1, 1);
    }
  });
  test("a stated correlation is there, and the strata are kept; what contradicts itself is refused", () => {
    const free = samplePlan(inputs, 200, 9);
    const tied = samplePlan(inputs, 200, 9, [{ between: ["a", "b"], coefficient: 0.8 }]);
    const of = (plan: typeof free) => {
      const [x, y] = ["a", "b"].map((key) => plan.map((p) => p.values[key]));
      const [mx, my] = [x, y].map((q) => q.reduce((s, v) => s + v, 0) / q.length);
      const sum = (f: (i: number) => number) => x.reduce((s, _, i) => s + f(i), 0);
      return sum((i) => (x[i] - mx) * (y[i] - my)) / Math.sqrt(sum((i) => (x[i] - mx) ** 2) * sum((i) => (y[i] - my) ** 2));
    };
    expect(Math.abs(of(free))).toBeLessThan(0.2);
    expect(of(tied)).toBeGreaterThan(0.7);
    expect(of(tied)).toBeLessThan(0.9);
    const sorted = (plan: typeof free) => plan.map((p) => p.values.b).sort((x, y) => x - y);
    expect(sorted(tied)).toEqual(sorted(free));
    expect(() => samplePlan(inputs, 10, 1, [{ between: ["a", "b"], coefficient: 1.2 }])).toThrow(RangeError);
  });
});

describe("correlated inputs", () => {
  const typed = (key: string, sensitivity: number): InputUncertainty => ({ ...given(key, 1, 0.03), sensitivities: { q: sensitivity } });
  const none: SensitivityMeans = { values: {}, swept: [] };
  const whole = (a: number, b: number, r?: number) =>
    inputUncertainty([typed("a", a), typed("b", b)], "q", none, r === undefined ? [] : [{ between: ["b", "a"], coefficient: r }]);

  test("fully together they add, fully against each other they cancel, apart they add in squares", () => {
    expect(whole(2, 1).relative).toBeCloseTo(0.03 * Math.sqrt(5), 14);
    expect(whole(2, 1, 1).relative).toBeCloseTo(0.09, 14);
    expect(whole(2, 1, -1).relative).toBeCloseTo(0.03, 14);
    expect(whole(1, 1, -1).relative).toBeCloseTo(0, 14);
    // An answer of the other sign turns the correlation round.
    expect(whole(2, -1, 1).relative).toBeCloseTo(0.03, 14);
  });
  test("parts sum to one, also where one makes up for the other; the largest is named", () => {
    const { shares, largest } = whole(2, 1, -0.5);
    expect(shares.reduce((s, x) => s + (x.part ?? 0), 0)).toBeCloseTo(1, 12);
    expect(shares[1].part).toBeLessThanOrEqual(0);
    expect(largest).toBe("a");
    expect(whole(0, 0).largest).toBeUndefined();
  });
  test("what names an input that is not there counts for nothing", () => {
    expect(correlationMatrix(["a", "b"], [{ between: ["a", "x"], coefficient: 0.9 }])).toEqual([
      [1, 0],
      [0, 1],
    ]);
  });
});
