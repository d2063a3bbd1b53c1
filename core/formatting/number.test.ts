import { describe, expect, test } from "vitest";
import { cellText, columnText } from "./cell.ts";
import {
  count,
  duration,
  percent,
  powerOfTen,
  quantityText,
  scientific,
  sentenceCase,
  signedPercent,
  significant,
  significantPlain,
  typedNumber,
  unitText,
  withUncertainty,
} from "./number.ts";
import { columnScale, scaleText, tickText } from "./scale.ts";

const NB = "\u00a0";

describe("significant digits", () => {
  test.each<[number, number, string]>([
    [1234.5, 4, "1235"],
    [0.00012345, 3, "0.000123"],
    [0.0001, 2, "0.00010"],
    [0.0000999, 3, "9.99×10⁻⁵"],
    [999999, 6, "999999"],
    [1e6, 3, "1.00×10⁶"],
    [-12.5, 2, "−13"],
    [9.99, 2, "10"],
    [0, 5, "0"],
    [Number.NaN, 3, "–"],
    [Number.NEGATIVE_INFINITY, 3, "–"],
  ])("%d with %d digits", (x, digits, text) => expect(significant(x, digits)).toBe(text));
  test("four by preset; plain ones never in powers of ten", () => {
    expect(significant(Math.PI)).toBe("3.142");
    expect(significantPlain(1e-7, 2)).toBe("0.00000010");
    expect(significantPlain(0, 2)).toBe("0");
    expect(significantPlain(99.96, 3)).toBe("100");
  });
  test("powers of ten", () => {
    expect([0, 1, -12, 345].map(powerOfTen)).toEqual(["10⁰", "10¹", "10⁻¹²", "10³⁴⁵"]);
    expect([scientific(-3.25e-9), scientific(3.25e9, 4), scientific(0), scientific(Number.NaN)]).toEqual(["−3.3×10⁻⁹", "3.250×10⁹", "0", "–"]);
  });
});

describe("percent", () => {
  test.each<[number, string]>([
    [0, `0${NB}%`],
    [0.5, `50${NB}%`],
    [0.99951, `100${NB}%`],
    [1, `100${NB}%`],
    [12.345, `1235${NB}%`],
    [-0.0123, `−1.2${NB}%`],
    [-2, `−200${NB}%`],
    [5e-7, `0.000050${NB}%`],
    [4.99e-7, "5.0×10⁻⁷"],
    [-4e-8, "−4.0×10⁻⁸"],
    [Number.NaN, "–"],
  ])("%d", (x, text) => expect(percent(x)).toBe(text));
  test("a sign only where there is one", () => {
    expect(signedPercent(0.01)).toBe(`+1.0${NB}%`);
    expect(signedPercent(-0.01)).toBe(`−1.0${NB}%`);
    expect(signedPercent(0)).toBe(`0${NB}%`);
  });
});

describe("a value with its uncertainty", () => {
  test.each<[number, number | undefined, string]>([
    [10.123456, 0.02, "10.123"],
    [10.123456, 0.00099, "10.12346"],
    [10.123456, 20, "10"],
    [0.00123, 0.5, "0.0012"],
    [1e5, 1e-9, "100000.00"],
    [1.5, undefined, "1.50000"],
    [1.5, 0, "1.50000"],
    [1.5, Number.POSITIVE_INFINITY, "1.50000"],
    [1.5, Number.NaN, "1.50000"],
  ])("%d ± %d", (value, u, text) => expect(withUncertainty(value, u)).toBe(text));
});

describe("words around numbers", () => {
  test("thousands in thin spaces", () => expect([7, 999.6, 1234567].map(count)).toEqual(["7", "1\u2009000", "1\u2009234\u2009567"]));
  test("times in the unit a person would use", () =>
    expect([1e-6, 0.005, 0.01, 42, 99.4, 100, 5999, 6000, 7200].map(duration)).toEqual([
      "0.10 ms",
      "5.0 ms",
      "0.010 s",
      "42 s",
      "99 s",
      "2 min",
      "100 min",
      "1.7 h",
      "2.0 h",
    ]));
  test("units", () => {
    expect(["m^2/s", "kg m/s^2", "s^-1", "1", ""].map(unitText)).toEqual(["m²/s", "kg\u2009m/s²", "s⁻¹", "", ""]);
    expect(quantityText(1.25, "kg/m^3", 3)).toBe(`1.25${NB}kg/m³`);
    expect(quantityText(1.25, "1")).toBe("1.2500");
  });
  test("as a person types a number", () =>
    expect([0, 0.001, 0.00099, 9999999, 1e7, -1e-5].map(typedNumber)).toEqual(["0", "0.001", "9.9e-4", "9999999", "1e+7", "-1e-5"]));
  test("sentences", () => expect([sentenceCase("the mesh"), sentenceCase("")]).toEqual(["The mesh", ""]));
});

describe("cells", () => {
  test("fractions as percent by the name of their column; whole numbers whole; the rest with five digits", () => {
    expect(cellText(null, "m", "x")).toBe("–");
    expect(cellText("word", "m", "x")).toBe("word");
    expect(cellText(0.25, "1", "net over throughput")).toBe(`25${NB}%`);
    expect(cellText(0.25, "m", "limit")).toBe("0.25000");
    expect(cellText(0.25, "1", "ratio")).toBe("0.25000");
    expect(cellText(12, "m", "x")).toBe("12");
    expect(cellText(1e9, "m", "x")).toBe("1.0000×10⁹");
  });
  test("a column of one unit is written alike unless it spans four decades, or holds whole numbers, pure numbers or one alone", () => {
    expect(columnText([1.5, 22.25, null], "m", "x")).toEqual(["1.500", "22.250", "–"]);
    expect(columnText([1.5, 22000.25], "m", "x")).toEqual(["1.5000", "22000"]);
    expect(columnText([1, 2], "m", "x")).toEqual(["1", "2"]);
    expect(columnText([1.5, 22.25], "1", "x")).toEqual(["1.5000", "22.250"]);
    expect(columnText([1.5, 22.25], "", "x")).toEqual(["1.5000", "22.250"]);
    expect(columnText([1.5, "–"], "m", "x")).toEqual(["1.5000", "–"]);
    expect(columnText([0, 1.5, 2.25], "m", "x")[1]).toBe("1.50000");
  });
});

describe("scales", () => {
  test("plain from a thousandth to a million, else powers of a thousand", () => {
    expect([0.001, 0.0009, 999999, 1e6, 0].map((x) => scaleText([x]).exponent)).toEqual([0, -6, 0, 6, 0]);
    expect(scaleText([1e6]).factor).toBe("×10⁶");
    expect(scaleText([2]).factor).toBe("");
  });
  test("at most twelve decimals and fifteen digits", () => {
    expect(scaleText([1, 1 + 1e-14], 1e-16).decimals).toBe(12);
    expect(scaleText([12345.5, 12345.5000001], 1e-13).decimals).toBe(10);
    expect(scaleText([1, 2], 100).decimals).toBe(0);
  });
  test("ticks show a step of a quarter or an eighth whole", () => {
    expect(tickText([0, 0.125, 0.25]).decimals).toBe(3);
    expect(tickText([0, 0.3, 0.6]).decimals).toBe(1);
    expect(tickText([0, 5, 10]).decimals).toBe(0);
    expect(tickText([7]).text(7)).toBe("7.0000");
  });
  test("a column: zeros and gaps take no part in its range", () => {
    expect(columnScale([0, Number.NaN, 1.5, 2.5]).decimals).toBe(4);
    expect(columnScale([3.5, 3.5]).decimals).toBe(4);
    expect(scaleText([1, 2]).whole(Number.NaN)).toBe("–");
  });
});
