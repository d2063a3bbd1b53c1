import { expect, test } from "vitest";
import { describeProblem } from "./describeProblemForTests.ts";
import { order, orders } from "./problemRunsForTests.ts";

describeProblem("manufactured-flow", { shape: "hexagons" });
describeProblem("manufactured-carried", { shape: "triangles", parameters: { round: 1 } });
describeProblem("manufactured-gas", { scale: 0.25, parameters: { viscosityPaS: 200 } });
describeProblem("manufactured-gas", { scale: 0.25, parameters: { viscosityPaS: 200, round: 1 } });

test("a flow that changes in time, on bent rows, at order 2", () => {
  const formulas = {
    streamFunction: "y + 0.2 * sin(pi * x) * sin(pi * y) * cos(2 * t) / pi",
    pressure: "0.3 * cos(pi * x) * cos(pi * y) * sin(2 * t)",
  };
  expect(order("manufactured-flow", { formulas, shape: "smooth" }, 0, 0.5)).toBeGreaterThan(1.85);
});

test("a gas on triangles at order 2", () => expect(order("manufactured-gas", { shape: "triangles" }, 0, 0.5)).toBeGreaterThan(1.9));

/** slow enough for shear and heat to count as much as what flows */
const THICK = { density: "1 + 0.2 * sin(x + y)", u: "0.4 * cos(x) * y", v: "0.5 * y + 0.2 * sin(2 * x)", pressure: "5 + cos(x * y)" };
test.each([
  ["rows", "rows", { round: 0 }, THICK, 3],
  // On coarse triangles the error along the boundary falls faster than what is left of it.
  ["triangles round an axis", "triangles", {}, THICK, 3],
  ["bent rows round an axis, in time", "smooth", { viscosityPaS: 0.05, endTimeS: 0.2 }, { ...THICK, density: "1 + 0.2 * sin(x + y) * exp(-t)" }, 2.4],
] as const)("a slow viscous gas, its whole state given on all sides, at order 2: %s", (_, shape, more, formulas, most) => {
  const found = orders("manufactured-gas", { shape, formulas, parameters: { round: 1, viscosityPaS: 0.5, ...more } }, 0.5);
  for (const field of found) {
    expect(field).toBeGreaterThan(1.75);
    expect(field).toBeLessThan(most);
  }
  expect(found[2]).toBeGreaterThan(1.8);
});

test("a slow viscous gas round an axis on bent rows: what flows across at order 2", () => {
  const across = order("manufactured-gas", { shape: "smooth", formulas: THICK, parameters: { round: 1, viscosityPaS: 0.5 } }, 2, 0.5);
  expect(across).toBeGreaterThan(1.8);
  expect(across).toBeLessThan(2.4);
});

test.each([
  ["plane, triangles", { shape: "triangles" as const }],
  ["ring, bent rows", { shape: "smooth" as const, parameters: { round: 1 } }],
  ["ring, a honeycomb", { shape: "hexagons" as const, parameters: { round: 1 } }],
  [
    "ring, in time",
    { shape: "smooth" as const, parameters: { round: 1, endTimeS: 0.5 }, formulas: { carried: "4 + 3 * sin(pi * x) * cos(pi * y / 2) * exp(-t)" } },
  ],
  ["conduction round an axis", { shape: "smooth" as const, parameters: { round: 1 }, formulas: { streamFunction: "0", pressure: "0" } }],
])("what a flow carries at order 2: %s", (_, changes) => {
  const found = order("manufactured-carried", changes, 0, 0.5);
  expect(found).toBeGreaterThan(1.85);
  expect(found).toBeLessThan(2.25);
});

test("a fast viscous gas round an axis: density at order 2", () =>
  expect(order("manufactured-gas", { shape: "smooth", parameters: { round: 1, viscosityPaS: 200 } }, 0, 0.5)).toBeGreaterThan(1.85));
