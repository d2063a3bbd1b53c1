import { expect, test } from "vitest";
import { betweenCodes } from "./betweenCodes.ts";

test("mean, spread, and each against the mean of the others, the furthest first", () => {
  const found = betweenCodes(
    [
      { label: "A", code: "A", value: 10, uncertainty: 0.1 },
      { label: "B", code: "B", value: 11 },
      { label: "C", code: "C", value: 15 },
    ],
    10,
  );
  expect(found).toMatchObject({ mean: 12, lowest: 10, highest: 15 });
  expect(found?.spread).toBeCloseTo(Math.sqrt(7), 12);
  expect(found?.each.map((p) => [p.label, p.others, p.difference])).toEqual([
    ["C", 10.5, 4.5],
    ["A", 13, -3],
    ["B", 12.5, -1.5],
  ]);
  expect(found?.each[1].uncertainty).toBe(0.1);
  expect(found?.sentence.replaceAll("\u00a0", " ")).toBe(
    "3 codes lie within 50 % of one another. C lies furthest from the others, 45 %. Agreement between codes is no truth.",
  );
});

test("of two nobody is the furthest; one alone is no comparison; a value that is none is refused", () => {
  const [a, b] = [
    { label: "A", code: "A", value: -1 },
    { label: "B", code: "B", value: 1 },
  ];
  expect(betweenCodes([a, b], 1)?.sentence).not.toContain("furthest");
  expect(betweenCodes([a, b], 1)?.spread).toBeCloseTo(Math.SQRT2, 12);
  expect(betweenCodes([a], 1)).toBeUndefined();
  expect(() => betweenCodes([a, { label: "B", code: "B", value: Number.NaN }], 1)).toThrow(RangeError);
});

test("runs of one code are not called codes, and yardsticks beside them do not move the mean", () => {
  const run = (label: string, code: string, value: number) => ({ label, code, value });
  const list = [run("fine", "Lintel", 10), run("coarse", "Lintel", 12), run("fine", "Purlin", 11)];
  const found = betweenCodes(list, 10, [{ label: "measured", value: 9, uncertainty: 0.5 }]);
  expect(found?.mean).toBe(11);
  expect(found?.beside).toEqual([{ label: "measured", value: 9, uncertainty: 0.5, difference: 2 }]);
  expect(found?.sentence).toContain("3 runs of 2 codes lie within");
  const own = betweenCodes(list.slice(0, 2), 10);
  expect(own?.sentence).toContain("2 runs of one code lie within");
  expect(own?.sentence).toContain("Agreement of a code with itself is no truth.");
});
