import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { entryText, typedText } from "./entry.ts";
import { convert, isUnit, parseDifference, parseQuantity } from "./units.ts";

const si = (text: string, unit: string) => {
  const p = parseQuantity(text, unit);
  return p.ok ? p.si : p.sentence;
};

describe("numbers", () => {
  test.each(["1,000 kg/m^3", "101,325 Pa", "12,345 m"])("%s may be thousands or decimals, and is asked about", (text) => {
    const unit = text.split(" ")[1];
    expect(si(text, unit)).toMatch(/may mean .* or .*write it without the comma/);
  });
  test.each([
    ["1,5 m", 1.5],
    ["0,125 m", 0.125],
    ["1,000,000 m", 1e6],
    ["1,234.5 m", 1234.5],
    ["1.234,5 m", 1234.5],
    ["101 325 m", 101325],
    ["-2.5e-3 m", -0.0025],
    [".5 m", 0.5],
    ["5. m", 5],
  ])("%s is plain", (text, value) => expect(si(text, "m")).toBeCloseTo(value, 12));
  test.each(["1,2,3 m", "1.2.3 m", "12 34 m", "m", "--1 m", "1e m"])("%s is refused", (text) => expect(typeof si(text, "m")).toBe("string"));
  test("a bare number is taken in the unit asked for, and that is said; a bare temperature is asked about", () => {
    expect(parseQuantity("5", "m/s")).toEqual({ ok: true, si: 5, said: "5 was taken in m/s" });
    expect(si("4", "K")).toMatch(/write 4 °C, 4 °F or 4 K/);
    expect(parseQuantity("0.3", "1")).toEqual({ ok: true, si: 0.3 });
  });
  test("any number written with a point and a unit comes back", () =>
    fc.assert(
      fc.property(fc.double({ min: -1e9, max: 1e9, noNaN: true }), (x) => {
        expect(si(`${x} m/s`, "m/s")).toBe(x === 0 ? 0 : x);
      }),
      { numRuns: 200 },
    ));
});

describe("units", () => {
  // Exact by definition, NIST SP 811.
  test.each([
    ["10 mph", "m/s", 4.4704],
    ["36 km/h", "m/s", 10],
    ["1 knot", "m/s", 1852 / 3600],
    ["39.2 °F", "K", 277.15],
    ["4 °C", "K", 277.15],
    ["1 cP", "Pa s", 1e-3],
    ["1 cSt", "m^2/s", 1e-6],
    ["1.01325 bar", "Pa", 101325],
    ["1 litre", "m^3", 1e-3],
    ["2 liters", "m^3", 2e-3],
    ["1 imperial gallon", "m^3", 4.54609e-3],
    ["1 US gallon", "m^3", 3.785411784e-3],
    ["1 inch", "m", 0.0254],
    ["2 inches", "m", 0.0508],
    ["1 ft", "m", 0.3048],
    ["60 rpm", "s^-1", 1],
    ["3 1/s", "s^-1", 3],
    ["1 psi", "Pa", 6894.757293168],
    ["1 inH2O", "Pa", 249.08891],
    ["1 cfm", "m^3/s", 4.719474432e-4],
    ["20 W/(m K)", "W/(m K)", 20],
  ])("%s", (text, unit, value) => {
    const found = si(text, unit);
    expect(typeof found === "number" && Math.abs(found / value - 1)).toBeLessThan(1e-8);
  });
  test("a gallon that is not said to be of either country is said to be taken as the American one", () => {
    const p = parseQuantity("3 gallon", "m^3");
    expect(p.ok && p.said).toMatch(/US gallons/);
  });
  test("wrong dimensions and unknown units are refused with what is wanted", () => {
    expect(si("5 kg", "m")).toMatch(/wrong dimension; m or/);
    expect(si("5 wombats", "m")).toMatch(/not understood/);
    expect(si("5 m", "1")).toMatch(/pure number/);
  });
  test("a difference of temperatures has no zero", () => {
    expect(parseDifference("0.5 °C", "K")).toEqual({ ok: true, si: 0.5 });
    expect(parseDifference("9 °F", "K")).toEqual({ ok: true, si: 5 });
    expect(parseDifference("2 mm", "m")).toMatchObject({ si: 0.002 });
  });
  test("conversion between names; pure numbers take percent", () => {
    expect(convert(752, "cm/s", "m/s")).toBeCloseTo(7.52, 12);
    expect(convert(0, "degC", "K")).toBeCloseTo(273.15, 12);
    expect(convert(5, "%", "1")).toBe(0.05);
    expect(convert(5, "m", "1")).toBeUndefined();
    expect([isUnit("m/s"), isUnit("1"), isUnit("wombat")]).toEqual([true, true, false]);
  });
});

describe("what a field shows", () => {
  test("what was typed, while it means the value; else six digits", () => {
    expect(entryText("10 mph", 4.4704, "m/s")).toBe("10 mph");
    expect(entryText("10 mph", 5, "m/s")).toBe("5 m/s");
    expect(entryText(undefined, 0.2731554160125588, "m/s")).toBe("0.273155 m/s");
    expect(entryText(undefined, undefined, "m")).toBe("");
    expect(entryText(undefined, 0.5, "1")).toBe("0.5");
  });
  test("a bare number gets the unit it was taken in", () => {
    expect(typedText(" 5 ", "m/s")).toBe("5 m/s");
    expect(typedText("5 mm", "m")).toBe("5 mm");
    expect(typedText("0.5", "1")).toBe("0.5");
  });
});
