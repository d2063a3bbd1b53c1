import { expect, test } from "vitest";
import { betweenCodes } from "../method/comparison/betweenCodes.ts";
import { amongChart } from "./amongChart.ts";

const found = betweenCodes(
  [
    { label: "Lintel, <fine>", code: "Lintel", value: 10, uncertainty: 0.5 },
    { label: "Purlin, fine", code: "Purlin", value: 12 },
  ],
  10,
  [{ label: "measured", value: 9, uncertainty: 1 }],
);

test("runs from the least to the largest, yardsticks below them, each where its value lies on one scale", () => {
  if (!found) throw new Error("two runs are a comparison");
  const svg = amongChart(found, "drag, N");
  const places = [...svg.matchAll(/<circle cx="([\d.]+)" cy="([\d.]+)" r="3.6" fill="([^"]+)"/g)].map(
    (m) => [Number(m[1]), Number(m[2]), m[3]] as const,
  );
  expect(places.length).toBe(3);
  const [ten, twelve, nine] = places;
  expect(twelve[0] - ten[0]).toBeCloseTo(2 * (ten[0] - nine[0]), 1);
  expect(ten[1]).toBeLessThan(twelve[1]);
  expect(twelve[1]).toBeLessThan(nine[1]);
  expect(nine[2]).toBe("#fff");
  expect(ten[2]).not.toBe("#fff");
  // The bar of the first is a quarter as long as the distance of the two runs, to either side.
  const bar = svg.match(/<path d="M([\d.]+) [\d.]+H([\d.]+)/);
  expect(Number(bar?.[2]) - Number(bar?.[1])).toBeCloseTo((twelve[0] - ten[0]) / 2, 1);
  expect(svg).not.toContain("<fine>");
  expect(svg).toContain("drag, N");
  // Whoever sees the drawing alone is told what its bars, line and band are.
  expect(svg).toMatch(/bars: 95 %; dashed: mean of the runs, band: one standard deviation/);
});

test("values that are all alike still stand on a scale", () => {
  const alike = betweenCodes(
    [1, 2].map((k) => ({ label: `run ${k}`, code: "Lintel", value: 0 })),
    1,
  );
  if (!alike) throw new Error("two runs are a comparison");
  expect(amongChart(alike, "x")).not.toMatch(/NaN|Infinity/);
});
