import { describe, expect, test } from "vitest";
import { EXPRESSIONS, parse } from "./expressions.ts";
import { nestedTooDeep, termsWhenDifferentiated, variablePowers } from "./formulaCost.ts";

const written = (text: string) => {
  const once = EXPRESSIONS.derivative(parse(text), "x", { simplify: false });
  return EXPRESSIONS.derivative(once, "x", { simplify: false }).filter((n) => n.type !== "ParenthesisNode").length;
};

describe("how long a formula becomes", () => {
  test.each([
    "x + 1",
    "sin(x) * cos(y)",
    "exp(x * x) * x",
    "1 / (1 + x)",
    "x ^ 3 * y",
    "sin(x) * sin(2 * x) * sin(3 * x)",
    "x ^ y",
    "sqrt(x * x + y * y)",
  ])("%s: the estimate is of the size of what is written out", (text) => {
    const ratio = termsWhenDifferentiated(parse(text)) / written(text);
    expect([text, ratio > 1 / 6 && ratio < 6]).toEqual([text, true]);
  });
  test("it grows with the square of the factors, and with every power of a power", () => {
    const sines = (n: number) => termsWhenDifferentiated(parse(Array(n).fill("sin(x)").join(" * ")));
    expect(sines(20) / sines(10)).toBeGreaterThan(2.5);
    expect(sines(20) / sines(10)).toBeLessThan(7);
    const powers = (n: number) => termsWhenDifferentiated(parse(Array(n).fill("x").join(" ^ ")));
    for (const n of [3, 4, 5, 6]) expect(powers(n + 1)).toBeGreaterThan(1.3 * powers(n));
  });
});

test("brackets are counted as they open and close", () => {
  expect(nestedTooDeep("((x)) * ((y))", 2)).toBe(false);
  expect(nestedTooDeep("((x)) * (((y)))", 2)).toBe(true);
  expect(nestedTooDeep("(".repeat(100_000), 20)).toBe(true);
  expect(nestedTooDeep(")))(((", 1)).toBe(false);
});

test("powers with a variable in the exponent are counted, others are not", () => {
  expect(["x ^ 2", "x ^ y", "2 ^ (x + 1)", "x ^ x ^ x ^ x", "(x ^ 3) ^ 0.5"].map((t) => variablePowers(parse(t)))).toEqual([0, 1, 1, 3, 0]);
});
