import { expect, test } from "vitest";
import { describeProblem } from "./describeProblemForTests.ts";
import { order } from "./problemRunsForTests.ts";

describeProblem("wake", { scale: 0.5, shape: "triangles" });

test.each(["rows", "triangles", "hexagons"] as const)("velocity on %s at order 2", (shape) => {
  for (const field of [0, 1]) expect(Math.abs(order("wake", { shape }, field, 2) - 2)).toBeLessThan(0.15);
});
