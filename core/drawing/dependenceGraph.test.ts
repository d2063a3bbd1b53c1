import { expect, test } from "vitest";
import { dependenceOf } from "../assessment/dependence.ts";
import { dependenceGraph } from "./dependenceGraph.ts";
import { INK } from "./palette.ts";

const graph = (current: boolean) =>
  dependenceGraph(
    dependenceOf({
      runs: [{ id: "a", label: "<fine> with a name that is far too long for its box to hold it whole", current, files: ["f.csv"] }],
      yardsticks: [],
      statements: [],
      verdicts: [{ quantityKey: "q", name: "drag", state: current ? "holds" : "stale", yardsticks: [] }],
      reports: [{ number: 1, current }],
    }),
    "case 1",
    600,
  );

test("every node leads to its page, every line runs from left to right, nothing of a name gets out of its box", () => {
  const svg = graph(true);
  expect(svg.match(/<a href="\/cases\/case%201\/\w+"/g)).toHaveLength(5);
  for (const [, x1, x2] of svg.matchAll(/<path d="M([\d.]+) [\d.]+C[^"]* ([\d.]+) [\d.]+"/g)) expect(Number(x2)).toBeGreaterThan(Number(x1));
  expect(svg).not.toContain("<fine>");
  expect(svg).toContain("…");
  expect(svg).not.toContain("stroke-dasharray");
});
test("what is stale is dashed in the pointer's colour, and says so to those who hear it", () => {
  const svg = graph(false);
  expect(svg).toContain(`stroke="${INK.pointer}" stroke-dasharray="3 2"`);
  expect(svg).toContain('aria-label="drag, stale"');
  expect(svg).toContain('aria-label="f.csv"');
});
