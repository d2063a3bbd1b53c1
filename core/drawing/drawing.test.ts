import { describe, expect, test } from "vitest";
import { rectangleFromLines } from "../mesh/rectangle.ts";
import { cellsUnderPixels, paintCells, wholeMesh } from "./cellRaster.ts";
import { drawChart } from "./chart.ts";
import { fieldRange } from "./fieldRaster.ts";
import { contourLines, pointValues, streamlines } from "./lineWork.ts";
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

test("bars stand on nought, as wide as four fifths of the way to the next", () => {
  const svg = drawChart({
    title: "counts",
    width: 400,
    height: 200,
    x: { label: "bin", domain: [0, 4] },
    y: { label: "count", domain: [0, 10] },
    series: [
      {
        name: "counts",
        kind: "bars",
        points: [
          [0.5, 5],
          [1.5, 10],
          [2.5, 0],
        ],
      },
    ],
  });
  const bars = [...svg.matchAll(/<rect x="([\d.]+)" y="([\d.]+)" width="([\d.]+)" height="([\d.]+)" fill="#/g)]
    .map((m) => m.slice(1).map(Number))
    .slice(-3);
  const [[x1, y1, w1, h1], [x2, y2, , h2], [, , , h3]] = bars;
  expect(w1).toBeCloseTo(0.8 * (x2 - x1), 1);
  expect(h2).toBeCloseTo(2 * h1, 1);
  expect(y1 + h1).toBeCloseTo(y2 + h2, 1);
  expect(h3).toBe(0);
});

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
  test("figures of the scale never stand over one another, wherever the pointer is and however wide the rule", () => {
    for (let k = 0; k <= 180; k++)
      for (const width of [420, 500, 780, 1060]) {
        const { ticks } = layoutRule({ ...rule, difference: 10 ** (-9 + k / 20) }, 10, width - 10);
        const spans = ticks
          .flatMap((t) => (t.text ? [t.anchor === "end" ? [t.x - 4 - 6.6 * t.text.length, t.x - 4] : [t.x + 4, t.x + 4 + 6.6 * t.text.length]] : []))
          .sort((a, b) => a[0] - b[0]);
        expect(spans.length).toBeGreaterThan(5);
        // Figures without room between two ticks at all overlap whatever is done: they do not at 500 and more.
        if (width >= 500) for (let i = 1; i < spans.length; i++) expect(spans[i][0]).toBeGreaterThanOrEqual(spans[i - 1][1] - 1e-9);
      }
  });
  test("a pin's name is ink on paper in whatever draws it: no text has a stroke of the paper over its fill", () => {
    const texts = [...drawRule(rule, 700).matchAll(/<text[^>]*>/g)].map((m) => m[0]);
    expect(texts.filter((t) => t.includes("stroke=") && !/fill="#FAF9F5"/.test(t))).toEqual([]);
  });
  test("the drawing names what was not measured", () => expect(drawRule(rule, 700)).toContain("open: domain"));
});

describe("fields as pictures", () => {
  const mesh = rectangleFromLines(Float64Array.of(0, 1, 4), Float64Array.of(0, 1, 2), false);
  const view = wholeMesh(mesh, 8, 4, 0);
  test("every pixel knows the cell it lies in: widths follow the grid lines, rows run from the top", () => {
    expect([...cellsUnderPixels(mesh, view)]).toEqual([
      2, 2, 3, 3, 3, 3, 3, 3, 2, 2, 3, 3, 3, 3, 3, 3, 0, 0, 1, 1, 1, 1, 1, 1, 0, 0, 1, 1, 1, 1, 1, 1,
    ]);
  });
  test("outside is white, inside lightness rises with the value, a uniform field divides by nothing", () => {
    const wide = wholeMesh(mesh, 20, 4, 0);
    const rgba = paintCells(cellsUnderPixels(mesh, wide), [0, 1, 2, 3], fieldRange([0, 1, 2, 3]));
    const sum = (i: number) => rgba[4 * i] + rgba[4 * i + 1] + rgba[4 * i + 2];
    expect(sum(0)).toBe(765);
    expect(sum(3 * 20 + 7)).toBeLessThan(sum(3 * 20 + 12));
    expect(paintCells(cellsUnderPixels(mesh, view), [2, 2, 2, 2], [2, 2]).every(Number.isFinite)).toBe(true);
  });
  test("contours of a straight field are straight, and lie where the value is", () => {
    const lines = Float64Array.from({ length: 9 }, (_, k) => k / 8);
    const square = rectangleFromLines(lines, lines, false);
    const slopes = [new Float64Array(64).fill(2), new Float64Array(64).fill(1)] as const;
    const values = Float64Array.from({ length: 64 }, (_, c) => 2 * square.centroidM[2 * c] + square.centroidM[2 * c + 1]);
    const segments = contourLines(square, values, pointValues(square, values, slopes), [0.77, 1.9]);
    expect(segments.length).toBeGreaterThan(80);
    for (let k = 0; k < segments.length; k += 2) {
      const v = 2 * segments[k] + segments[k + 1];
      expect(Math.min(Math.abs(v - 0.77), Math.abs(v - 1.9))).toBeLessThan(1e-9);
    }
  });
  test("a streamline of solid rotation stays on its circle", () => {
    const lines = Float64Array.from({ length: 41 }, (_, k) => k / 20 - 1);
    const square = rectangleFromLines(lines, lines, false);
    const n = square.cellCount;
    const u = Float64Array.from({ length: n }, (_, c) => -square.centroidM[2 * c + 1]);
    const v = Float64Array.from({ length: n }, (_, c) => square.centroidM[2 * c]);
    const flat = (x: number) => new Float64Array(n).fill(x);
    const [path] = streamlines({ mesh: square, u, v, slopesU: [flat(0), flat(-1)], slopesV: [flat(1), flat(0)] }, [[0.5, 0]], 120);
    for (let k = 0; k < path.length; k += 2) expect(Math.hypot(path[k], path[k + 1])).toBeCloseTo(0.5, 2);
  });
});
