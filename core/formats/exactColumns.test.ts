import fc from "fast-check";
import { expect, test } from "vitest";
import { readExactColumns, writeExactColumns } from "./exactColumns.ts";

const bits = (v: Float64Array) => [...new BigUint64Array(v.buffer)];

test("what is no number, the signed zero and the smallest double keep their bits; columns worked out besides are left", () => {
  const first = Float64Array.of(Number.NaN, Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY, -0, 5e-324, 0.1 + 0.2);
  const second = Float64Array.from(first).reverse();
  const text = writeExactColumns(["a, with a comma", "=b", "derived"], [first, second, first]);
  expect(text.split("\n").slice(0, 2)).toEqual([`"a, with a comma",'=b,derived`, "NaN,0.30000000000000004,NaN"]);
  expect(text).toContain("INF,5e-324,INF\n-INF,-0,-INF\n-0,-INF,-0\n");
  expect(bits(readExactColumns(text, 2))).toEqual([...bits(first), ...bits(second)]);
});

test("any columns of doubles come back to the last bit", () => {
  const pair = fc.integer({ min: 0, max: 30 }).chain((n) => {
    const column = fc.array(fc.double(), { minLength: n, maxLength: n });
    return fc.tuple(column, column);
  });
  fc.assert(
    fc.property(pair, ([a, b]) => {
      expect(bits(readExactColumns(writeExactColumns(["a", "b"], [a, b]), 2))).toEqual(bits(Float64Array.of(...a, ...b)));
    }),
  );
});

test.each([
  ["a,b\n1,2\n3\n", "Line 3 has 1 of 2 columns."],
  ["a,b\n1,two\n", 'Line 2: "two" is no number.'],
  ["a,b\n1,\n", 'Line 2: "" is no number.'],
  ["a,b\n1,Infinity\n", undefined],
])("%j: %s", (text, sentence) => {
  if (sentence) expect(() => readExactColumns(text, 2)).toThrow(sentence);
  else expect(readExactColumns(text, 2)[1]).toBe(Number.POSITIVE_INFINITY);
});
