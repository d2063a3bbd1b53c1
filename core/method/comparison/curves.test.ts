import { describe, expect, test } from "vitest";
import { compareValue, listed } from "./compareValue.ts";
import { compareProfile, fieldOrders } from "./comparison.ts";

const curve = (at: number[], ys: number[]) => ({
  key: "p",
  name: "p",
  abscissa: { name: "x", unit: "1", values: at },
  value: { name: "v", unit: "1", values: ys },
});
const compare = (at: number[], ys: number[], abscissa: number[], value: number[], doubtful?: { index: number; reason: string }[]) =>
  compareProfile(curve(at, ys), { profileKey: "p", abscissa, value, uncertaintyNote: "", ...(doubtful ? { doubtful } : {}) });
const made = (...args: Parameters<typeof compare>) => {
  const c = compare(...args);
  if ("refused" in c) throw new Error(c.refused);
  return c;
};
const refused = (...args: Parameters<typeof compare>) => {
  const c = compare(...args);
  return "refused" in c ? c.refused : "";
};

describe("curves as they come", () => {
  test("in any order, with gaps in either coordinate", () => {
    const c = made([2, 0, Number.NaN, 1, 1.5], [4, 0, 7, 2, Number.NaN], [0.5, 1.5], [1, 3]);
    expect(c.points.map((p) => p.simulated)).toEqual([expect.closeTo(1, 12), expect.closeTo(3, 12)]);
    expect(c.linf).toBeLessThan(1e-12);
  });
  test("the ends belong to the curve; beyond them nothing is read", () => {
    const c = made([1, 2, 3], [1, 2, 3], [0.999, 1, 3, 3.001, Number.NaN], [0, 1, 3, 0, 0]);
    expect(c.points.map((p) => p.at)).toEqual([1, 3]);
    expect(c.outside).toBe(3);
  });
  test("differences are simulated less reference, at their place, the largest with its sign", () => {
    const c = made([0, 1, 2], [0, 1, 2], [0.5, 1, 1.5], [1, 1, 0.5]);
    expect(c.points.map((p) => p.difference)).toEqual([expect.closeTo(-0.5, 12), expect.closeTo(0, 12), expect.closeTo(1, 12)]);
    expect(c.worst).toMatchObject({ at: 1.5, difference: expect.closeTo(1, 12) });
    expect(c.worst?.doubtful).toBeUndefined();
    expect(c.l1).toBeCloseTo(0.5, 12);
    expect(c.l2).toBeCloseTo(Math.sqrt(1.25 / 3), 12);
  });
  test("the worst is neither the first nor the last but the largest, the first of equals; no point before it counts for more", () => {
    const worst = (...value: number[]) => made([0, 4], [0, 0], [0.5, 1, 2], value).worst;
    expect(worst(0.1, -0.5, 0.2)).toEqual({ at: 1, difference: 0.5, doubtful: undefined });
    expect(worst(0.1, -0.5, 0.5)).toMatchObject({ at: 1 });
    expect(worst(-0.6, -0.5, 0.5)).toMatchObject({ at: 0.5, difference: 0.6 });
  });
  test("norms stand beside the range of the reference, whatever the curve does", () => {
    expect(made([0, 1], [0, 100], [0, 1], [3, 5])).toMatchObject({ range: 2, rangeName: "range" });
    expect(made([0, 1], [0, 100], [0, 1], [-3, -5])).toMatchObject({ range: 2, rangeName: "range" });
  });
  test("a flat reference is counted in the largest value of both; two zeros in one", () => {
    expect(made([0, 1], [1, -7], [0, 1], [4, 4])).toMatchObject({ range: 7, rangeName: "largest value" });
    expect(made([0, 1], [1, 1], [0, 1], [-4, -4])).toMatchObject({ range: 4 });
    expect(made([0, 1], [0, 0], [0, 1], [0, 0])).toMatchObject({ range: 1, rangeName: "largest value", linf: 0 });
    expect(made([0, 1], [1, 1], [0, 1], [4, 4 + 1e-8])).toMatchObject({ rangeName: "range" });
    expect(made([0, 1], [1, 1], [0, 1], [4, 4 + 1e-9])).toMatchObject({ rangeName: "largest value" });
  });
  test("doubtful points are shown, may be the worst, and enter no norm", () => {
    const c = made([0, 1, 2], [0, 1, 2], [0.5, 1.5], [0.4, 9], [{ index: 1, reason: "is a misprint" }]);
    expect(c.linf).toBeCloseTo(0.1, 12);
    expect(c.points[1].doubtful).toBe("is a misprint");
    expect(c.worst?.doubtful).toBe("is a misprint");
  });
});

describe("entries at one place", () => {
  test("within a hundredth of the curve's range they are averaged, all of them", () => {
    const c = made([0, 1, 1, 1, 2], [10, 10.9, 11, 11.1, 30], [1], [0]);
    expect(c.points[0].simulated).toBeCloseTo(11, 12);
    expect(c.notes).toEqual(["2 entries that stand at the same place as another were averaged with it."]);
  });
  test("a hair more contradicts, and the place, count and figures are named", () => {
    expect(refused([0, 1, 1, 2], [10, 11, 11.201, 30], [1], [0])).toMatch(
      /^At 1\.0000 the simulated curve has 2 values .* from 11\.00 to 11\.20: leave one out\.$/,
    );
    expect(refused([0, 1, 1, 2], [10, 11, 11.199, 30], [1], [0])).toBe("");
    expect(refused([0, 1, 2, 2], [-30, 0, 9.5, 10], [1], [0])).toMatch(/^At 2/);
  });
  test("without repeats nothing is noted", () => expect(made([0, 1], [0, 1], [0.5], [0.5]).notes).toEqual([]));
});

describe("refusals", () => {
  test("fewer than two points", () => {
    expect(refused([1], [1], [1], [1])).toBe("The simulated curve has fewer than two points.");
    expect(refused([], [], [1], [1])).toBe("The simulated curve has fewer than two points.");
    expect(refused([1, 1], [1, 1], [1], [1])).toBe("The simulated curve has fewer than two points.");
  });
  test("no point in common, with both ranges", () =>
    expect(refused([0, 1], [0, 1], [5, 3], [0, 0])).toBe(
      "The two curves have no point in common: the reference lies from 3.000 to 5.000, the simulated curve from 0 to 1.000.",
    ));
});

describe("orders of a field", () => {
  const mesh = (spacing: number, e: number, scale = 1, linf = e) => ({
    label: `${spacing}`,
    spacing,
    norms: { field: "u", unit: "m/s", l1: e / 2, l2: e, linf, scale, worstAtM: [0, 0] as const },
  });
  test("between neighbours by the logarithm of both, finest first, whatever the order they come in", () => {
    const f = fieldOrders([mesh(4, 0.27), mesh(1, 0.01), mesh(2, 0.04)], 2);
    expect(f.rows.map((r) => [r.spacing, r.l1, r.l2, r.linf])).toEqual([
      [1, 0.005, 0.01, 0.01],
      [2, 0.02, 0.04, 0.04],
      [4, 0.135, 0.27, 0.27],
    ]);
    expect(f.rows.map((r) => r.order)).toEqual([expect.closeTo(2, 12), expect.closeTo(Math.log2(6.75), 12), undefined]);
    expect(f).toMatchObject({ field: "u", unit: "m/s", verdict: "formal-order" });
    const thirds = fieldOrders([mesh(1, 1), mesh(3, 9)], 2);
    expect(thirds.rows[0].order).toBeCloseTo(2, 12);
  });
  test.each([
    [2.09, "formal-order"],
    [1.91, "formal-order"],
    [2.11, "above-order"],
    [1.89, "below-order"],
  ])("order %d: %s", (p, verdict) => {
    const f = fieldOrders([mesh(1, 0.01), mesh(2, 0.01 * 2 ** p)], 2);
    expect(f.verdict).toBe(verdict);
    expect(f.sentence).toContain(`order ${p.toFixed(2)}`);
    const side = { "above-order": "above", "below-order": "below" }[verdict];
    expect(f.sentence).toContain(side ? `, ${side} the formal order 2 by 0.11.` : ", within 0.1 of the formal order 2.");
  });
  test("exact only where every mesh is, to 1e-8 of the largest value", () => {
    expect(fieldOrders([mesh(1, 1e-9, 10, 1e-7), mesh(2, 1e-9, 10, 1e-7)], 2).verdict).toBe("exact");
    expect(fieldOrders([mesh(1, 1e-9, 10, 1.01e-7), mesh(2, 4e-9, 10, 1e-9)], 2).verdict).not.toBe("exact");
    expect(fieldOrders([mesh(1, 1e-9), mesh(2, 1)], 2).verdict).toBe("above-order");
    expect(fieldOrders([mesh(1, 1e-12), mesh(2, 1e-10)], 2).sentence).toContain("1.0×10⁻¹⁰ of the largest u");
  });
  test("one mesh has none", () =>
    expect(fieldOrders([mesh(1, 0.1)], 2)).toMatchObject({ verdict: "too-few", sentence: "An order needs two meshes." }));
});

describe("what may be said of a difference", () => {
  const c = (simulated: number, more = {}) =>
    compareValue({ simulated, reference: 20, scale: 4, uNum: 0.03, uInput: 0, uReference: 0.04, open: [], ...more });
  test("the noise is twice u_val over the scale", () => {
    expect(c(20.05)).toMatchObject({
      claim: "within-noise",
      uVal: 0.05,
      sentence: "Difference +1.3\u00a0% is within the noise: no model error can be claimed or excluded below 2.5\u00a0%.",
    });
    expect(c(20.09).claim).toBe("within-noise");
    expect(compareValue({ simulated: 21, reference: 20, scale: 4, uNum: 0.5, uInput: 0, uReference: 0, open: [] }).claim).toBe("within-noise");
    expect(c(19.8)).toMatchObject({
      claim: "beyond-noise",
      sentence: "An error of −5.0\u00a0% ± 2.5\u00a0% is shown: the difference is larger than the noise.",
    });
  });
  test("one open source is, several are; with nothing known nothing is said of u_val", () => {
    expect(c(20.05, { open: ["mesh"] }).sentence).toContain("mesh is open. The validation uncertainty is at least 2.5\u00a0%");
    expect(c(20.05, { open: ["a", "b", "c"], uNum: 0, uReference: 0 }).sentence).toBe("Differs by +1.3\u00a0%; a, b and c are open.");
  });
  test("lists", () => expect([listed([]), listed(["a"]), listed(["a", "b"]), listed(["a", "b", "c"])]).toEqual(["", "a", "a and b", "a, b and c"]));
  test.each([
    [Number.NaN, 1],
    [1, Number.POSITIVE_INFINITY],
  ])("%d against %d is refused", (simulated, reference) =>
    expect(() => compareValue({ simulated, reference, scale: 1, uNum: 0, uInput: 0, uReference: 0, open: [] })).toThrow("finite"),
  );
});
