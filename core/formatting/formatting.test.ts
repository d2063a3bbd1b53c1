import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { firstFew } from "./firstFew.ts";
import { asGiven } from "./number.ts";
import { resolve, scaleText, shortTicks, tickText } from "./scale.ts";

/** Value of what was written. */
const read = (text: string) => {
  const [mantissa, power] = text.replace(/−/g, "-").split("×10");
  const digits = "⁰¹²³⁴⁵⁶⁷⁸⁹";
  const exponent = power ? Number([...power].map((c) => (c === "⁻" ? "-" : String(digits.indexOf(c)))).join("")) : 0;
  return Number(mantissa) * 10 ** exponent;
};

describe("digits that resolve the range", () => {
  test.each<[string, number[], string[]]>([
    ["a range far from zero", [101325.0, 101325.01, 101325.03], ["101325.0000", "101325.0100", "101325.0300"]],
    ["a common range", [0, 0.5, 1], ["0.000", "0.500", "1.000"]],
    ["small numbers, in threes", [1.2e-5, 4.5e-5], ["12.0×10⁻⁶", "45.0×10⁻⁶"]],
    ["large ones", [2.5e6, 1.25e7], ["2.50×10⁶", "12.50×10⁶"]],
    ["one number", [2.345678], ["2.3457"]],
    ["numbers equal but for rounding", [0.1 + 0.2, 0.3], ["0.30000", "0.30000"]],
    ["minus zero", [-1e-9, 1], ["0.000", "1.000"]],
    ["nothing finite", [Number.NaN], ["–"]],
  ])("%s", (_name, values, texts) => {
    const scale = scaleText(values);
    expect(values.map(scale.whole)).toEqual(texts);
  });

  test("ticks show their step and no more", () => {
    expect([0, 0.25, 0.5].map(tickText([0, 0.25, 0.5]).text)).toEqual(["0.00", "0.25", "0.50"]);
    expect([101325, 101325.01, 101325.02].map(tickText([101325, 101325.01]).text)).toEqual(["101325.00", "101325.01", "101325.02"]);
    const small = tickText([0, 2e-7, 4e-7]);
    expect([small.text(2e-7), small.factor]).toEqual(["200", "×10⁻⁹"]);
    expect(tickText([10, 20]).text(-20)).toBe("−20");
  });

  test("neighbours a hundredth of the range apart never look the same, all have as many decimals, and what is written is the number", () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1e5, max: 1e5, noNaN: true }),
        fc.integer({ min: -12, max: 7 }),
        fc.integer({ min: -5, max: 8 }),
        (base, spread, shift) => {
          const low = base * 10 ** shift;
          const range = 10 ** spread;
          fc.pre(range > 1e-11 * Math.abs(low));
          const values = Array.from({ length: 101 }, (_, k) => low + (range * k) / 100);
          const scale = scaleText(values);
          const texts = values.map(scale.whole);
          expect(new Set(texts).size).toBe(101);
          expect(new Set(texts.map((t) => t.split("×")[0].split(".")[1]?.length ?? 0)).size).toBe(1);
          texts.forEach((t, k) => {
            expect(Math.abs(read(t) - values[k])).toBeLessThanOrEqual(0.006 * range + 1e-12 * Math.abs(values[k]));
          });
        },
      ),
    );
  });

  test("a zero in a column does not take digits from the rest", () => {
    const show = resolve([0, 1.2345e-9, 1.2349e-9]);
    expect([show(1.2345e-9), show(1.2349e-9)]).toEqual(["1.23450000×10⁻⁹", "1.23490000×10⁻⁹"]);
  });
});

describe("a number as its source gave it", () => {
  test.each<[number, string]>([
    [-0.38289, "−0.38289"],
    [0.5308, "0.5308"],
    [100, "100"],
    [0.3333333333, "0.3333333"],
    [0.0001, "0.0001"],
    [2.5e-7, "2.5×10⁻⁷"],
    [3e7, "3×10⁷"],
    [0, "0"],
  ])("%d", (x, text) => expect(asGiven(x)).toBe(text));
  test("no number of at most seven digits changes by being written, nor ends in a zero behind its point", () => {
    fc.assert(
      fc.property(fc.integer({ min: -9999999, max: 9999999 }), fc.integer({ min: -9, max: 3 }), (n, power) => {
        const x = Number(`${n}e${power}`);
        expect(Math.abs(read(asGiven(x)) - x)).toBeLessThanOrEqual(1e-12 * Math.abs(x));
        expect(asGiven(x)).not.toMatch(/\.\d*0($|×)/);
      }),
      { seed: 9 },
    );
  });
});

test("a list is cut off with how many more there are", () => {
  expect(firstFew(["wall", "lid"], 2)).toBe("wall, lid");
  expect(firstFew([3, 5, 8, 13], 2)).toBe("3, 5 and 2 more");
});

describe("ticks where there is little room", () => {
  test("stay as they are where they are short", () => {
    const short = shortTicks([0.1, 0.2, 0.3]);
    expect([short.text(0.2), short.factor]).toEqual(["0.2", ""]);
  });
  test("tell how far they are from the first where they differ far behind the point", () => {
    const ticks = [0, 1, 2, 3].map((k) => 5e-4 + k * 2e-14);
    const short = shortTicks(ticks);
    expect(ticks.map(short.text)).toEqual(["0", "20", "40", "60"]);
    expect(short.factor).toBe("×10⁻¹⁵ from 500.00000000×10⁻⁶");
  });
  test("add up to what they stand for, and fit", () => {
    fc.assert(
      fc.property(fc.double({ min: 1e-6, max: 1e6, noNaN: true }), fc.integer({ min: 1, max: 10 }), (base, digits) => {
        const step = Number((base * 10 ** -digits).toPrecision(1));
        const first = Math.round(base / step) * step;
        const ticks = [0, 1, 2, 3, 4].map((k) => first + k * step);
        const { text, factor } = shortTicks(ticks);
        for (const t of ticks) expect(text(t).length).toBeLessThanOrEqual(9);
        if (!factor.includes("from")) return;
        const unit = factor.startsWith("×") ? read(`1${factor.split(" ")[0]}`) : 1;
        const from = read(factor.split("from ")[1]);
        for (const t of ticks) expect(Math.abs(from + read(text(t)) * unit - t)).toBeLessThan(0.02 * step);
      }),
    );
  });
});
