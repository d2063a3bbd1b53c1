import { describe, expect, test } from "vitest";
import type { CaseEvidence } from "../records/case.ts";
import type { QuantitySpec } from "../records/quantity.ts";
import type { Settlement } from "../records/settlement.ts";
import { assessCase } from "./assessCase.ts";
import { evidence, family, q, run } from "./familyForTests.ts";

describe("sources that a person settles", () => {
  const measured = (change: Partial<CaseEvidence> = {}) => evidence(family, { kind: "measured", ...change });
  const said = (source: Settlement["source"], kind: Settlement["kind"], relative?: number, more: Partial<Settlement> = {}): Settlement => ({
    source,
    quantityKey: null,
    kind,
    relative,
    reason: "walls all round",
    by: "H. M.",
    at: "2026-04-03T08:00:00Z",
    setupHash: "now",
    ...more,
  });
  const source = (e: CaseEvidence, key: string) => assessCase(e).rules[0].sources.find((s) => s.key === key);
  test("does not apply, bounded, estimated: signed, dated, and only the estimate is a remark", () => {
    const closed = assessCase(measured({ settlements: [said("domain", "not-applicable"), said("inputs", "bounded", 0.004)] }));
    expect(closed.rules[0].missing).toEqual([]);
    expect(closed.rules[0].sources.find((s) => s.key === "domain")?.note).toBe("does not apply by H. M. on 2026-04-03: walls all round");
    expect(closed.verdicts[0].word).toBe("holds");
    const guessed = assessCase(measured({ settlements: [said("domain", "estimated", 0.001), said("inputs", "bounded", 0.004)] })).verdicts[0];
    expect(guessed.word).toBe("holds with a remark");
    expect(guessed.reasons.map((r) => r.sentence)).toEqual(["domain is an estimate of H. M., not measured"]);
  });
  test("what was said enters u_val: numerical by the numerical part, inputs by theirs", () => {
    const c = assessCase(measured({ settlements: [said("domain", "bounded", 0.006), said("inputs", "bounded", 0.008)] })).comparison.values.q[0];
    expect(c.uInput / c.scale).toBeCloseTo(0.004, 12);
    expect(c.uNum / c.scale).toBeGreaterThan(0.003);
    expect(c.uVal).toBeCloseTo(Math.hypot(c.uNum, c.uInput, c.uReference), 12);
  });
  test("a measured source is not overruled; a statement of another quantity or an earlier set-up does not count", () => {
    expect(source(measured({ settlements: [said("mesh", "estimated", 0.5)] }), "mesh")?.settled).toBeUndefined();
    expect(source(measured({ settlements: [said("domain", "bounded", 0.1, { quantityKey: "other" })] }), "domain")?.relative).toBeUndefined();
    const old = source(measured({ settlements: [said("domain", "bounded", 0.1, { setupHash: "before" })] }), "domain");
    expect(old?.relative).toBeUndefined();
    expect(old?.note).toContain("has to be said again");
  });
  test("of one quantity beats of all", () => {
    const both = [said("domain", "bounded", 0.2, { quantityKey: "q" }), said("domain", "bounded", 0.1)];
    expect(source(measured({ settlements: both }), "domain")?.relative).toBe(0.2);
  });
  test("round-off of another code: by its precision, else half the last digit it printed", () => {
    const foreign = (values: number[]) => [
      run(64, values[values.length - 1], {
        origin: "brought-in",
        code: "Lintel",
        history: { iteration: Float64Array.from(values.map((_, i) => i + 1)), residuals: {}, quantities: { q: Float64Array.from(values) } },
      }),
    ];
    const printed = Array.from({ length: 40 }, (_, i) => Number((10 + 0.5 ** i).toPrecision(5)));
    const half = source(evidence(foreign(printed)), "round-off");
    expect(half?.relative).toBeCloseTo(0.0005 / 10, 12);
    expect(half?.note).toContain("half the last digit");
    expect(source(evidence(foreign(printed), { precision: { Lintel: "single" } }), "round-off")?.relative).toBeCloseTo(6e-8 * 64, 15);
    expect(source(evidence(foreign(printed), { precision: { Lintel: "double" } }), "round-off")?.relative).toBeLessThan(1e-13);
  });
  test("inputs: typed uncertainties times typed sensitivities, by squares; a silent one keeps the source open", () => {
    const inputs = [
      { key: "U", label: "Velocity", value: 2, unit: "m/s", uncertainty: 0.02, sensitivities: { q: 2 } },
      { key: "rho", label: "Density", value: 1.25, unit: "kg/m^3", uncertainty: 0.0125, sensitivities: { q: 1 } },
    ];
    const found = source(measured({ inputs }), "inputs");
    const size = 10.015625 / 10;
    expect(found?.relative).toBeCloseTo(Math.hypot(0.02, 0.01) * size, 12);
    const silent = source(measured({ inputs: [inputs[0], { ...inputs[1], sensitivities: {} }] }), "inputs");
    expect(silent?.relative).toBeUndefined();
    expect(silent?.note).toBe("how drag answers to density is not known");
  });
  test("sensitivities from a sweep and through a formula", () => {
    const velocity = { key: "U", label: "Velocity", value: 2, unit: "m/s", uncertainty: 0.02, sensitivities: {} };
    const swept = [1.8, 2, 2.2].map((U) => ({ parameters: { U, other: 1 }, quantities: { q: 3 * U ** 1.7 } }));
    expect(source(measured({ inputs: [velocity], swept }), "inputs")?.relative).toBeCloseTo(1.7 * 0.01 * (10.015625 / 10), 10);
    const coefficient: QuantitySpec = { key: "d1", name: "coefficient", symbol: "d1", unit: "1", limit: 0.02 };
    const derived = {
      specs: [{ key: "d1", formula: "q / (U^2 * A)", unit: "N s^2/m^4" }],
      inputs: [
        { name: "U", unit: "m/s", value: 2 },
        { name: "A", unit: "m^2", value: 4 },
      ],
    };
    const a = assessCase(
      measured({ quantities: [q, { ...coefficient, unit: "N s^2/m^4" }], derived, inputs: [{ ...velocity, sensitivities: { q: 2 } }] }),
    );
    // The force goes with the square of the velocity and is divided by it: the coefficient does not answer at all.
    expect(a.rules[1].sources.find((s) => s.key === "inputs")?.relative).toBeCloseTo(0, 12);
  });
});
