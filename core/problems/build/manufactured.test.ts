import { expect, test } from "vitest";
import { describeProblem } from "./describeProblemForTests.ts";
import { order } from "./problemRunsForTests.ts";

describeProblem("manufactured-flow", { shape: "hexagons" });
describeProblem("manufactured-gas", { scale: 0.25, parameters: { viscosityPaS: 200 } });

test("a flow that changes in time, on bent rows, at order 2", () => {
  const formulas = {
    streamFunction: "y + 0.2 * sin(pi * x) * sin(pi * y) * cos(2 * t) / pi",
    pressure: "0.3 * cos(pi * x) * cos(pi * y) * sin(2 * t)",
  };
  expect(order("manufactured-flow", { formulas, shape: "smooth" }, 0, 0.5)).toBeGreaterThan(1.85);
});

test("a gas on triangles at order 2", () => expect(order("manufactured-gas", { shape: "triangles" }, 0, 0.5)).toBeGreaterThan(1.9));
