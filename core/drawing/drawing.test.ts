import { describe, expect, test } from "vitest";
import { drawChart } from "./chart.ts";
import { fieldRange, rasterField } from "./fieldRaster.ts";
import { drawRule, layoutRule, ruleX } from "./ruleDrawing.ts";

const points = (f: (x: number) => number) => Array.from({ length: 11 }, (_, i) => [i, f(i)] as const);
const chart = (f: (x: number) => number, log = false) =>
  drawChart({
    title: "a < b & c",
    width: 300,
    height: 200,
    x: { label: "x" },
    y: { label: "y", log },
    series: [{ name: "s", kind: "line", points: points(f) }],
  });
const ticksOf = (svg: string) => [...svg.matchAll(/text-anchor="end" font-family="[^"]*Mono[^"]*"[^>]*>([^<]*)</g)].map((m) => m[1]);

describe("charts", () => {
  test("text from a person cannot become markup", () => {
    const svg = chart((x) => x);
    expect(svg).toContain("a &#60; b &#38; c");
    expect(svg).not.toContain("a < b");
  });
  test("ticks resolve a narrow range: no two print alike", () => {
    const ticks = ticksOf(chart((x) => 101325 + 0.003 * x));
    expect(ticks.length).toBeGreaterThan(2);
    expect(new Set(ticks).size).toBe(ticks.length);
  });
  test("values equal to round-off are drawn as equal", () =>
    expect(ticksOf(chart((x) => 5e-4 * (1 + 1e-14 * x))).every((t) => t.length < 12)).toBe(true));
  test("no coordinate is ever missing: zeros on a log axis, gaps and infinities are left out", () => {
    for (const svg of [
      chart((x) => x - 5, true),
      chart((x) => (x === 3 ? Number.NaN : x)),
      chart((x) => (x === 4 ? Number.POSITIVE_INFINITY : x)),
      chart(() => 0),
    ])
      expect(svg).not.toMatch(/NaN|Infinity|undefined/);
  });
});

describe("the rule", () => {
  const rule = {
    quantityKey: "q",
    scale: 1,
    missing: ["domain"],
    difference: -0.01,
    band: 0.03,
    sources: [{ key: "mesh" as const, name: "mesh", group: "numerical" as const, relative: 1e-3, stage: "refinement" as const, note: "" }],
  };
  test("a decade is a ninth of nine decades; what lies off the scale sits at its end", () => {
    expect(ruleX(1e-8, [-9, 0], 0, 900)).toBeCloseTo(100, 9);
    expect([ruleX(0, [-9, 0], 0, 900), ruleX(5, [-9, 0], 0, 900)]).toEqual([0, 900]);
  });
  test("the pointer stands at the size of the difference and prints its sign", () => {
    const l = layoutRule(rule, 0, 900);
    expect(l.pointer?.x).toBeCloseTo(700, 9);
    expect(l.pointer?.text).toContain("−1.0");
    expect(l.pins[0].x).toBeCloseTo(600, 9);
  });
  test("the drawing names what was not measured", () => expect(drawRule(rule, 700)).toContain("not measured: domain"));
});

describe("fields as pixels", () => {
  const field = { xLinesM: [0, 1, 4], yLinesM: [0, 1, 2], values: [0, 1, 2, 3] };
  test("cell values as they are: widths follow the grid lines, rows run from the top", () => {
    const rgb = rasterField(field, 8, 4, fieldRange(field.values));
    const colour = (x: number, y: number) => [...rgb.subarray(3 * (y * 8 + x), 3 * (y * 8 + x) + 3)].join();
    // The first cell covers a quarter of the width: two of eight pixels.
    expect(colour(0, 0)).toBe(colour(1, 1));
    expect(colour(1, 0)).not.toBe(colour(2, 0));
    expect(colour(2, 0)).toBe(colour(7, 1));
    expect(colour(0, 1)).not.toBe(colour(0, 2));
    // Lightness rises with the value.
    const sum = (x: number, y: number) =>
      colour(x, y)
        .split(",")
        .reduce((s, v) => s + Number(v), 0);
    expect(sum(0, 3)).toBeLessThan(sum(7, 3));
    expect(sum(7, 3)).toBeLessThan(sum(0, 0));
  });
  test("a uniform field is drawn without dividing by zero", () =>
    expect(rasterField({ ...field, values: [2, 2, 2, 2] }, 4, 4, [2, 2]).every((v) => v < 80)).toBe(true));
});
