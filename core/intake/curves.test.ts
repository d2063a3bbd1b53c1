import { describe, expect, test } from "vitest";
import { readSheet } from "../formats/sheet.ts";
import { type CurveMapping, curveKey, guessCurveRoles, readCurves } from "./curveImport.ts";
import { outliersOf } from "./outliers.ts";

function sheetOf(text: string) {
  const read = readSheet(text);
  if (!read.ok) throw new Error(read.problems[0].sentence);
  return read.sheet;
}
const mapped = (text: string, m: Partial<CurveMapping>) => readCurves(sheetOf(text), { roles: [], units: [], coverage: 2, ...m });
const curves = (text: string, m: Partial<CurveMapping>) => {
  const found = mapped(text, m);
  if (!found.ok) throw new Error(found.problems[0].sentence);
  return found;
};
const wrong = (text: string, m: Partial<CurveMapping>) => {
  const found = mapped(text, m);
  return found.ok ? [] : found.problems.map((p) => p.sentence);
};

const LONG = "station,y (mm),u (m/s),u uncertainty\n4,20,2,0.2\n4,10,1,0.1\n8,10,3,0.3\n8,20,4,0.4\n";
const LONG_AS = { roles: ["station", "abscissa", "value", "uncertainty"] as const, units: ["1", "mm", "m/s", "m/s"] };

describe("curves of a table", () => {
  test("one a station, places rising, uncertainties halved from 95 %", () => {
    const { curves: found, notes } = curves(LONG, LONG_AS);
    expect(found.map((c) => [c.name, c.station, c.abscissa, c.value, c.own])).toEqual([
      ["u at station 4", 4, [10, 20], [1, 2], [0.05, 0.1]],
      ["u at station 8", 8, [10, 20], [3, 4], [0.15, 0.2]],
    ]);
    expect(found[0].axes).toEqual({ name: "u at station 4", abscissa: { name: "y", unit: "mm" }, value: { name: "u", unit: "m/s" } });
    expect(notes).toEqual([]);
    expect(curves(LONG, { ...LONG_AS, coverage: 1 }).curves[0].own).toEqual([0.1, 0.2]);
  });
  test("one a value column, each with the uncertainty right of it", () => {
    const wide = "x,a,ua,b\n0,1,0.2,5\n1,2,0.4,6\n";
    const { curves: found } = curves(wide, { roles: ["abscissa", "value", "uncertainty", "value"], units: ["m", "Pa", "Pa", "K"] });
    expect(found.map((c) => [c.name, c.value, c.own])).toEqual([
      ["a", [1, 2], [0.1, 0.2]],
      ["b", [5, 6], undefined],
    ]);
  });
  test("uncertainty by formula: a fixed part and a share by squares; what is shared stands apart; of the place by figure", () => {
    const { curves: found } = curves("x,v\n0,3\n1,-4\n", {
      roles: ["abscissa", "value"],
      units: ["m", "m/s"],
      own: { absolute: 0.4, relative: 0.1 },
      shared: { absolute: 0, relative: 0.02 },
      place: 0.01,
    });
    expect(found[0].own).toEqual([expect.closeTo(0.25, 12), expect.closeTo(Math.hypot(0.4, 0.4) / 2, 12)]);
    expect(found[0].shared).toEqual([expect.closeTo(0.03, 12), expect.closeTo(0.04, 12)]);
    expect(found[0].place).toEqual([0.005, 0.005]);
  });
  test("repeats are averaged and said: the mean's uncertainty is the larger of what they state and how they scatter", () => {
    const text = "x,v,e\n0,1,0.2\n1,2,0.2\n1,4,0.2\n";
    const { curves: found, notes } = curves(text, { roles: ["abscissa", "value", "uncertainty"], units: ["m", "m", "m"] });
    expect(found[0]).toMatchObject({ abscissa: [0, 1], value: [1, 3], repeats: 1 });
    expect(found[0].own?.[1]).toBeCloseTo(1, 12);
    expect(notes).toEqual(["1 repeated readings were averaged with those at the same place."]);
    const alike = curves("x,v,e\n0,1,0.2\n1,3,0.2\n1,3,0.2\n", { roles: ["abscissa", "value", "uncertainty"], units: ["m", "m", "m"] });
    expect(alike.curves[0].own?.[1]).toBeCloseTo(0.1 / Math.SQRT2, 12);
  });
  test("uncertainty of the place by column is each point's own; of repeats the largest, and a row that lacks it has a gap", () => {
    const as = { roles: ["abscissa", "place-uncertainty", "value"] as const, units: ["m", "m", "m/s"] };
    const { curves: found, notes } = curves("x,ux,v\n0,0.02,1\n1,0.04,2\n1,0.1,2\n2,0,3\n3,,4\n4,-1,5\n", as);
    expect([found[0].abscissa, found[0].place]).toEqual([
      [0, 1, 2],
      [0.01, 0.05, 0],
    ]);
    expect(notes[0]).toBe("2 rows with a gap were left out.");
    expect(curves("x,ux,v\n0,0.02,1\n1,0.04,2\n", { ...as, coverage: 1 }).curves[0].place).toEqual([0.02, 0.04]);
    expect(curves("x,v\n0,1\n1,2\n", { roles: ["abscissa", "value"], units: ["m", "m"] }).curves[0]).not.toHaveProperty("place");
  });
  test("rows with a gap are left out and counted", () => {
    const { curves: found, notes } = curves("x,v\n0,1\n1,\n2,3\n", { roles: ["abscissa", "value"], units: ["m", "m"] });
    expect(found[0].abscissa).toEqual([0, 2]);
    expect(notes).toEqual(["1 rows with a gap were left out."]);
  });
  test("what cannot be used is said with its column: no unit, an unknown one, no abscissa, a stray uncertainty, words, a single point", () => {
    const two = { roles: ["abscissa", "value"] as const, units: ["m", "m/s"] };
    expect(wrong("x,v\n0,1\n1,2\n", { ...two, units: ["m", undefined] })[0]).toBe('The unit of "v" is not given: type it, or 1 for a pure number.');
    expect(wrong("x,v\n0,1\n1,2\n", { ...two, units: ["m", "flurb"] })[0]).toBe('"flurb" is no unit that is known here.');
    expect(wrong("x,v\n0,1\n1,2\n", { ...two, roles: ["value", "value"] })[0]).toContain("Exactly one column must be the abscissa");
    expect(wrong("x,v\n0,1\n1,2\n", { ...two, roles: ["uncertainty", "abscissa"] }).join()).toContain("right of the values");
    expect(wrong("x,v\n0,1\n1,2\n", { ...two, roles: ["abscissa", "ignore"] }).join()).toContain("No column is marked as values");
    expect(wrong("x,v\n0,1\n1,fast\n", two)[0]).toBe('"fast" is not a number.');
    expect(wrong("x,v\n0,1\n", two)[0]).toBe("v has 1 points; a curve needs two.");
    expect(wrong("x,v\n0,1\n1,2\n", { ...two, roles: ["abscissa"] })[0]).toContain("1 columns were mapped but the file has 2");
    const many = `s,x,v\n${Array.from({ length: 500 }, (_, i) => `${i},0,1\n${i},1,1`).join("\n")}\n`;
    expect(wrong(many, { roles: ["station", "abscissa", "value"], units: ["1", "m", "m"] })[0]).toContain("is this column the station?");
  });
  test("columns are guessed by their names", () => {
    expect(guessCurveRoles(sheetOf(LONG))).toEqual(["station", "abscissa", "value", "uncertainty"]);
    expect(guessCurveRoles(sheetOf("y,u,v,note\n1,2,3,a\n2,3,4,b\n"))).toEqual(["abscissa", "value", "value", "ignore"]);
  });
  test("keys are of letters, figures and dashes", () => {
    expect([curveKey("u at x/H 4.5"), curveKey("  °C "), curveKey("ΔΔ")]).toEqual(["u-at-x-h-4-5", "c", "curve"]);
  });
});

describe("points that do not go with their neighbours", () => {
  const xs = Array.from({ length: 21 }, (_, i) => i);
  const wave = xs.map((x) => Math.sin(x / 4) + 0.01 * Math.cos(37 * x));
  const with_ = (at: number, by: number) => wave.map((y, i) => (i === at ? y + by : y));
  test.each([3, 10, 18])("a single bad point at %d is found, and its neighbours are not blamed", (at) => {
    expect(outliersOf(xs, with_(at, 0.6)).map((o) => o.index)).toEqual([at]);
    expect(outliersOf(xs, with_(at, -0.6))[0].reason).toMatch(/^lies 0\.\d+ from the line of its neighbours/);
  });
  test("how many times the scatter it lies off is told where there is scatter, and by that scatter", () => {
    const straight = xs.map((x) => (x === 10 ? 9 : 2 + x / 8));
    expect(outliersOf(xs, straight)).toEqual([{ index: 10, reason: "lies 5.8 from the line of its neighbours, which hardly scatter" }]);
    const [found] = outliersOf(xs, with_(10, 0.6));
    const times = Number(/, ([\d.]+) times their scatter$/.exec(found.reason)?.[1]);
    expect(times).toBeGreaterThan(6);
    expect(times).toBeLessThan(1e3);
  });
  test("two bad points far from each other are both found; a clean curve, a steep one and a short one have none", () => {
    expect(
      outliersOf(
        xs,
        with_(4, 0.7).map((y, i) => (i === 15 ? y - 0.7 : y)),
      ).map((o) => o.index),
    ).toEqual([4, 15]);
    expect(outliersOf(xs, wave)).toEqual([]);
    expect(
      outliersOf(
        xs,
        xs.map((x) => x * x),
      ),
    ).toEqual([]);
    expect(outliersOf([0, 1, 2], [0, 9, 0])).toEqual([]);
  });
  test("what the stated uncertainty allows is no outlier", () => {
    const u = xs.map(() => 0.15);
    expect(outliersOf(xs, with_(10, 0.6), u)).toEqual([]);
    expect(outliersOf(xs, with_(10, 1.2), u).map((o) => o.index)).toEqual([10]);
  });
});
