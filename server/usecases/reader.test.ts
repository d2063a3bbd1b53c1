import { describe, expect, test } from "vitest";
import { UseCaseError } from "./failure.ts";
import { Reader } from "./reader.ts";

const refusal = (r: Reader): UseCaseError => {
  try {
    r.done();
  } catch (error) {
    if (error instanceof UseCaseError) return error;
  }
  throw new Error("nothing was refused");
};

describe("what was typed, field by field", () => {
  test("SI, the text with its unit, and what was taken for granted", () => {
    const r = new Reader();
    expect(r.required("a", "20 mm", "m")).toBe(0.02);
    expect(r.required("b", " 3 ", "m")).toBe(3);
    expect(r.typed).toEqual({ a: "20 mm", b: "3 m" });
    expect(r.said).toEqual(["3 was taken in m"]);
    expect(() => r.done()).not.toThrow();
  });
  test("both ends of a range belong to it; beyond them the field is named", () => {
    const r = new Reader();
    for (const text of ["1", "2", "3"]) r.required("x", text, "", 1, 3);
    expect(() => r.done()).not.toThrow();
    r.required("low", "0.999 m", "m", 1, 3);
    r.required("high", "3.001", "", 1, 3);
    expect(r.mistakes).toEqual({ low: "0.999 m is outside 1 to 3 m.", high: "3.001 is outside 1 to 3." });
  });
  test("one mistake is told itself, several are counted, each by its field", () => {
    const one = new Reader();
    expect(one.required("x", "wide", "m")).toBeNaN();
    expect(refusal(one)).toMatchObject({ code: "invalid", message: '"wide" does not begin with a number.', details: { x: expect.any(String) } });
    one.required("y", "", "m");
    expect(refusal(one).message).toBe("2 entries cannot be used; each says why.");
  });
  test("an empty field is no value; one that is not empty is read", () => {
    const r = new Reader();
    expect([r.optional("x", "  ", "m"), r.optional("x", "2 m", "m"), r.optional("y", "0.5", "", 1)]).toEqual([undefined, 2, 0.5]);
    expect(Object.keys(r.mistakes)).toEqual(["y"]);
  });
});

describe("fields that were not touched", () => {
  const stored = { si: 0.1 + 0.2, typed: "0.3 m" };
  test("keep their value to the last bit and their text; a changed one is read", () => {
    const r = new Reader();
    expect(r.kept("x", "0.3 m", "m", { si: 0.3, typed: "0.3 m" })).toBe(0.3);
    expect(r.kept("y", "0.3 m", "m", { si: 0.30000000001, typed: "0.3 m" })).toBe(0.30000000001);
    expect(r.kept("z", "0.333333 m", "m", { si: 1 / 3 })).toBe(1 / 3);
    expect(r.typed).toEqual({ x: "0.3 m", y: "0.3 m" });
    expect(r.kept("w", "5 m", "m", stored)).toBe(5);
    expect(r.kept("new", "5 m", "m", {}, 6)).toBe(5);
    expect(Object.keys(r.mistakes)).toEqual(["new"]);
  });
  test("emptied ones are no longer known", () => {
    const r = new Reader();
    expect(r.optionalKept("x", "", "m", stored)).toBeUndefined();
    expect(r.optionalKept("x", "0.3 m", "m", stored)).toBe(stored.si);
    expect(r.optionalKept("x", "0.4 m", "m", stored)).toBe(0.4);
  });
});

describe("uncertainties", () => {
  const u = (text: string, unit = "m", value = -20) => {
    const r = new Reader();
    return { value: r.uncertainty("u", text, unit, value), mistakes: r.mistakes };
  };
  test("a share of the value's size, or a difference in its unit", () => {
    expect(u("2 %").value).toBeCloseTo(0.4, 12);
    expect(u("3 mm").value).toBe(0.003);
    expect(u("0.5 °C", "K").value).toBe(0.5);
    expect(u("2 %", "").value).toBe(0.02);
    expect(u("2 %", "1").value).toBe(0.02);
    expect(u("").value).toBeUndefined();
    expect(u("0 %").mistakes).toEqual({});
  });
  test("never negative, never of another kind", () => {
    expect(u("-1 mm").mistakes).toEqual({ u: "An uncertainty cannot be negative." });
    expect(u("3 kg").mistakes.u).toMatch(/wrong dimension/);
    expect(u("3 kg").value).toBeUndefined();
  });
});
