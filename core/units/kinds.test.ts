import { describe, expect, test } from "vitest";
import { entryText, typedText } from "./entry.ts";
import { convert, isUnit, parseDifference, parseQuantity } from "./units.ts";

const si = (text: string, unit = "m") => {
  const p = parseQuantity(text, unit);
  return p.ok ? p.si : undefined;
};
const sentence = (text: string, unit = "m") => {
  const p = parseQuantity(text, unit);
  return p.ok ? "" : p.sentence;
};
const said = (text: string, unit: string) => {
  const p = parseQuantity(text, unit);
  return p.ok ? p.said : undefined;
};

describe("how a number may be written", () => {
  test.each([
    ["1 000 m", 1000],
    ["1'234'567.5 m", 1234567.5],
    ["1\u2009234 m", 1234],
    ["1\u00a0234,5 m", 1234.5],
    ["−3 m", -3],
    ["+3 m", 3],
    ["1.234.567 m", 1234567],
    ["1.234.567,8 m", 1234567.8],
    ["1,234,567.25 m", 1234567.25],
    ["0,5 m", 0.5],
    [",5 m", 0.5],
    ["12,34 m", 12.34],
    ["1234,567 m", 1234.567],
    ["1.234 m", 1.234],
    ["3e2 m", 300],
    ["3E-2 m", 0.03],
    ["  7   m ", 7],
    ["5m", 5],
  ])("%s", (text, value) => expect(si(text)).toBeCloseTo(value, 9));
  test.each([
    ["1,234 m", /"1,234" may mean 1234 or 1\.234/],
    ["12,345 m", /may mean 12345 or 12\.345/],
    ["1 2 m", /holds two numbers/],
    ["3 4e5 m", /holds two numbers/],
    ["1.2.3 m", /at most one point/],
    ["1,23,456 m", /at most one point/],
    ["abc", /does not begin with a number/],
    ["e5 m", /does not begin with a number/],
    ["  ", /Nothing was typed/],
    ["1e999 m", /is not a number/],
  ])("%s is refused and told why", (text, words) => expect(sentence(text)).toMatch(words));
});

describe("pure numbers", () => {
  test("with a dash, a one, a per cent sign or nothing", () => {
    expect([si("5", "1"), si("5 1", ""), si("5 -", "1"), si("5 %", "1"), si("5%", "")]).toEqual([5, undefined, 5, 0.05, 0.05]);
    expect(sentence("5 m", "1")).toMatch(/has a unit; this is a pure number/);
    expect(said("5", "1")).toBeUndefined();
  });
  test("a bare number of a kind with units is taken, and said; with its unit nothing is said", () => {
    expect(said(" 5 ", "Pa")).toBe("5 was taken in Pa");
    expect(said("5 Pa", "Pa")).toBeUndefined();
    expect(sentence("20", "K")).toBe('"20" lacks its unit: write 20 °C, 20 °F or 20 K.');
  });
});

describe("names of units people write", () => {
  test.each([
    ["20 degrees C", "K", 293.15],
    ["20 degree C", "K", 293.15],
    ["20 Celsius", "K", 293.15],
    ["20 C", "K", 293.15],
    ["20 deg C", "K", 293.15],
    ["68 degrees F", "K", 293.15],
    ["68 fahrenheit", "K", 293.15],
    ["1.2 kg/m³", "kg/m^3", 1.2],
    ["3 m²", "m^2", 3],
    ["5 s⁻¹", "s^-1", 5],
    ["5 1/s", "1/s", 5],
    ["5 1/(s)", "s^-1", 5],
    ["2 N·m", "N m", 2],
    ["2 N⋅m", "N m", 2],
    ["2 N×m", "N m", 2],
    ["5 μm", "m", 5e-6],
    ["5 µm", "m", 5e-6],
    ["5 micron", "m", 5e-6],
    ["3 liter", "m^3", 3e-3],
    ["3 Litres", "m^3", 3e-3],
    ["2 uk gallons", "m^3", 2 * 4.54609e-3],
    ["2 imp. gal", "m^3", 2 * 4.54609e-3],
    ["2 us gal", "m^3", 2 * 3.785411784e-3],
    ["36 KM/H", "m/s", 10],
    ["10 MPH", "m/s", 4.4704],
    ["10 kph", "m/s", 10 / 3.6],
    ["2 poise", "Pa s", 0.2],
    ["2 stokes", "m^2/s", 2e-4],
    ["2 St", "m^2/s", 2e-4],
    ["1.8e-5 kg/ms", "Pa s", 1.8e-5],
    ["1.8e-5 kg/ms", "kg/(m s)", 1.8e-5],
    ["600 rpm", "s^-1", 10],
  ])("%s", (text, unit, value) => expect((si(text, unit) ?? Number.NaN) / value).toBeCloseTo(1, 8));
  test("gallons of either country: only the unsaid one is remarked on", () => {
    expect(said("3 gal", "m^3")).toMatch(/US gallons/);
    expect(said("3 US gallons", "m^3")).toBeUndefined();
    expect(said("3 imperial gallons", "m^3")).toBeUndefined();
    expect(said("3 litre", "m^3")).toBeUndefined();
  });
});

describe("differences", () => {
  test("degrees have no zero; other kinds are as they are", () => {
    expect(parseDifference("20 °C", "K")).toEqual({ ok: true, si: 20 });
    expect(parseDifference("3 K", "K")).toEqual({ ok: true, si: 3 });
    expect(parseDifference("18 °F", "K")).toEqual({ ok: true, si: 10 });
    expect(parseDifference("x", "K").ok).toBe(false);
    expect(parseDifference("5", "m")).toMatchObject({ si: 5 });
    expect(parseDifference("4", "K").ok).toBe(false);
  });
});

describe("conversion", () => {
  test("pure numbers go only among themselves", () => {
    expect(convert(50, "%", "1")).toBe(0.5);
    expect(convert(5, "-", "1")).toBe(5);
    expect(convert(5, "", "1")).toBe(5);
    expect(convert(5, "1", "m")).toBeUndefined();
    expect(convert(5, "m", "")).toBeUndefined();
    expect(convert(5, "wombat", "wombat")).toBe(5);
    expect(convert(5, "wombat", "m")).toBeUndefined();
    expect(convert(5, "kg", "m")).toBeUndefined();
    // A number in the place of a unit must not be dropped in silence.
    expect(convert(5, "5 mm", "m")).toBeUndefined();
    expect(convert(5, "1/s", "Hz")).toBeCloseTo(5, 12);
    expect(convert(Number.POSITIVE_INFINITY, "mm", "m")).toBeUndefined();
  });
  test("there and back", () => {
    for (const [from, to] of [
      ["psi", "Pa"],
      ["degF", "K"],
      ["knot", "m/s"],
      ["inH2O", "Pa"],
      ["cfm", "m^3/s"],
    ])
      expect(convert(convert(7.5, from, to) ?? 0, to, from)).toBeCloseTo(7.5, 8);
  });
  test("what is a unit", () => {
    expect(["m", "kg m/s^2", "°C", "1", "", "N·m"].map(isUnit)).toEqual([true, true, true, true, true, true]);
    expect(["wombat", "m/wombat", "5 m"].map(isUnit)).toEqual([false, false, false]);
  });
});

describe("fields", () => {
  test("what was typed stands while it means the value to twelve digits", () => {
    expect(entryText("2 mm", 0.002, "m")).toBe("2 mm");
    expect(entryText("2 mm", 0.002 * (1 + 1e-13), "m")).toBe("2 mm");
    expect(entryText("2 mm", 0.002 * (1 + 1e-11), "m")).toBe("0.002 m");
    expect(entryText("rubbish", 0.002, "m")).toBe("0.002 m");
    expect(entryText("-2 mm", -0.002, "m")).toBe("-2 mm");
    expect(entryText(undefined, 1 / 3, "")).toBe("0.333333");
  });
  test("a bare number, also with a comma or a power, gets its unit; what has one keeps it", () => {
    expect(["5", "1,5", "-3e-4", "1 000"].map((t) => typedText(t, "m"))).toEqual(["5 m", "1,5 m", "-3e-4 m", "1 000 m"]);
    expect(typedText("5", "")).toBe("5");
    expect(typedText(" 5 mm ", "m")).toBe("5 mm");
  });
});
