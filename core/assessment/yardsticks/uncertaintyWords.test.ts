import { expect, test } from "vitest";
import { benchProblem } from "../../problems/build/catalogue.ts";
import { presetParameters } from "../../problems/describe/catalogue.ts";
import { uncertaintyWords } from "./uncertaintyWords.ts";

const value = (quantityKey: string, uncertaintyNote: string) => ({ quantityKey, value: 1, uncertaintyNote });
const upper = (key: string) => key.toUpperCase();

test("what is the same of all values is said once; else every value is named with its own, once", () => {
  expect(uncertaintyWords([value("a", "exact"), value("b", "exact")], upper)).toBe("exact");
  expect(uncertaintyWords([value("a", "exact"), value("b", "as printed"), value("c", "exact")], upper)).toBe("exact (A, C); as printed (B)");
  expect(uncertaintyWords([], upper)).toBe("");
});

test("of the chamber, places carry their last digit beside the spread", () => {
  const p = benchProblem("chamber");
  const [y] = p.yardsticks(presetParameters(p), {});
  expect(uncertaintyWords(y.values, (key) => key)).toBe(
    "spread of published figures (nusselt, uMax, vMax); spread of published figures, and half a unit of the last digit printed (uMaxAt, vMaxAt)",
  );
});
