import { expect, test } from "vitest";
import { describeProblem } from "./describeProblemForTests.ts";
import { order } from "./problemRunsForTests.ts";

describeProblem("eddies", { scale: 0.5, parameters: { endTimeS: 0.5 } });

test("velocity in space and time at once at order 2", () => expect(Math.abs(order("eddies", {}, 0, 1) - 2)).toBeLessThan(0.15));
