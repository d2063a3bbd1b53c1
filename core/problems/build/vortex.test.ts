import { expect, test } from "vitest";
import { describeProblem } from "./describeProblemForTests.ts";
import { order } from "./problemRunsForTests.ts";

describeProblem("travelling-vortex", { scale: 0.5, parameters: { passes: 0.1 } });

test("density at order 2", () => expect(order("travelling-vortex", {}, 0, 1)).toBeGreaterThan(1.85));
