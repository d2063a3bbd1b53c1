import { expect, test } from "vitest";
import { typedNumber } from "./typedNumber";

test.each([
  ["1.5", 1.5],
  ["1,5", 1.5],
  [" −2e3 ", -2000],
  ["0", 0],
  ["", Number.NaN],
  ["  ", Number.NaN],
  ["1,234,5", Number.NaN],
  ["five", Number.NaN],
])("%j", (text, number) => expect(typedNumber(text)).toBe(number));
