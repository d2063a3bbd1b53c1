import { describe, expect, test } from "vitest";
import type { ReferenceProfile } from "../../records/reference.ts";
import { compareProfile } from "./comparison.ts";
import { turnedCurve } from "./turnedCurve.ts";

const CURVE: ReferenceProfile = {
  profileKey: "u",
  axes: { name: "u at the step", abscissa: { name: "y/h", unit: "1" }, value: { name: "u/U", unit: "1" } },
  abscissa: [0, 0.5, 1],
  value: [0, 0.75, 1],
  standardUncertainty: [0.01, 0.02, 0.03],
  systematicUncertainty: 0.004,
  abscissaUncertainty: 0.1,
  uncertaintyNote: "",
  window: [0.2, 1],
  doubtful: [{ index: 2, reason: "slipped" }],
  changes: ["averaged"],
};
const scaled = { factor: -0.05, shift: 0.2, unit: "m", words: "times 0.05 m, with the other sign, plus 0.2 m" };
const fast = { factor: 4, shift: 0, unit: "m/s", words: "times 4 m/s" };

describe("a curve with its figures turned", () => {
  test("places, values, uncertainties, window and units go along; doubts stay with their points; the change is said", () => {
    const t = turnedCurve({ ...CURVE, turned: { abscissa: scaled, value: fast } });
    expect(t.abscissa).toEqual([0.2, expect.closeTo(0.175, 15), expect.closeTo(0.15, 15)]);
    expect(t.value).toEqual([0, 3, 4]);
    expect(t.standardUncertainty).toEqual([0.04, 0.08, 0.12]);
    expect(t.systematicUncertainty).toBe(0.016);
    expect(t.abscissaUncertainty).toBeCloseTo(0.005, 15);
    expect(t.window?.[0]).toBeCloseTo(0.15, 15);
    expect(t.window?.[1]).toBeCloseTo(0.19, 15);
    expect(t.axes).toMatchObject({ abscissa: { name: "y/h", unit: "m" }, value: { unit: "m/s" } });
    expect(t.doubtful).toEqual(CURVE.doubtful);
    expect(t.changes).toEqual([
      "averaged",
      "y/h of the yardstick: times 0.05 m, with the other sign, plus 0.2 m.",
      "u/U of the yardstick: times 4 m/s.",
    ]);
    expect(t).not.toHaveProperty("turned");
  });
  test("one axis alone leaves the other; none leaves the curve itself; turned back it is what it was", () => {
    expect(turnedCurve(CURVE)).toBe(CURVE);
    const t = turnedCurve({ ...CURVE, turned: { value: fast } });
    expect([t.abscissa, t.axes?.abscissa.unit]).toEqual([CURVE.abscissa, "1"]);
    const back = { factor: 0.25, shift: 0, unit: "1", words: "" };
    expect(turnedCurve({ ...t, turned: { value: back } }).value).toEqual(CURVE.value);
    expect(turnedCurve({ ...CURVE, standardUncertainty: undefined, turned: { value: fast } }).standardUncertainty).toBeUndefined();
  });
  test("the comparison of the turned curve with its own line shows no difference, though its places fall", () => {
    const t = turnedCurve({ ...CURVE, window: undefined, turned: { abscissa: scaled, value: fast } });
    const run = {
      key: "u",
      name: "u",
      abscissa: { name: "x", unit: "m", values: [0.15, 0.175, 0.2] },
      value: { name: "u", unit: "m/s", values: [4, 3, 0] },
    };
    const found = compareProfile(run, t);
    if ("refused" in found) throw new Error(found.refused);
    expect(found.linf).toBeLessThan(1e-12);
    expect(found.compared).toBe(3);
  });
});
